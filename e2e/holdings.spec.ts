import { expect, test } from '@playwright/test';
import { ownDemo } from './ownDemo';
import { axeFinds, found, signInTo } from './screen';

const demo = ownDemo();

test('by keys: what is looked at moves all figures, and a figure leads to just its photos', async ({ page }) => {
  await signInTo(demo, page, 'keeper', '/holdings');
  const taken = page.getByRole('region', { name: 'When they were taken' });
  await expect(taken).toBeVisible();
  const whole = (await page.getByRole('status').first().textContent()) ?? '';
  expect(await axeFinds(page)).toEqual([]);
  await page.getByRole('combobox', { name: 'What is looked at' }).press('Enter');
  await page.getByRole('option', { name: 'Vault 2', exact: true }).press('Enter');
  await expect(page.getByRole('status').first()).not.toHaveText(whole);
  expect(new URL(page.url()).searchParams.get('q')).toBe('drive:"Vault 2"');
  const creators = page.getByRole('region', { name: 'Creators' });
  await creators.getByRole('button', { name: 'Table' }).press('Enter');
  const row = creators.getByRole('row').nth(1);
  const photos = (await row.getByRole('cell').textContent()) ?? '';
  expect(await axeFinds(page)).toEqual([]);
  await row.getByRole('link').press('Enter');
  await expect(found(page)).toHaveText(new RegExp(`^${photos} `));
  expect(new URL(page.url()).searchParams.get('q')).toMatch(/^drive:"Vault 2" creator:/);
});

test('a search is looked at; one that is none is marked and changes nothing', async ({ page }) => {
  await signInTo(demo, page, 'keeper', '/holdings');
  const typed = page.getByLabel('A search whose photos are looked at');
  await typed.fill('rating:>=3 and (');
  await typed.press('Enter');
  await expect(typed).toHaveAttribute('aria-invalid', 'true');
  await typed.fill('rating:>=3');
  await typed.press('Enter');
  await expect(page.getByRole('combobox', { name: 'What is looked at' })).toHaveText(/What the search finds/);
  expect(new URL(page.url()).searchParams.get('q')).toBe('rating:>=3');
});
