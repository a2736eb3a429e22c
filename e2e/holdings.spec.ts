import { expect, test } from '@playwright/test';
import { ownDemo } from './ownDemo';
import { axeFinds, found, photo, signInTo } from './screen';

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

test('a list is given to somebody, who walks through it by keys and says that it is done', async ({ page }) => {
  await signInTo(demo, page, 'keeper', '/holdings');
  const describe = page.getByRole('region', { name: 'To describe' });
  await describe.getByRole('button', { name: 'More about Without a caption', exact: true }).press('Enter');
  await page.getByRole('menuitem', { name: 'Give it to somebody …' }).press('Enter');
  const dialog = page.getByRole('dialog', { name: 'Give “Without a caption”' });
  await dialog.getByLabel('To whom').press('Enter');
  await page.getByRole('option', { name: 'Henrik Voss', exact: true }).press('Enter');
  await dialog.getByLabel('Note').fill('The old prints first');
  expect(await axeFinds(page)).toEqual([]);
  await dialog.getByLabel('Note').press('Tab');
  await dialog.getByRole('button', { name: 'Give it' }).press('Enter');
  await expect(page.getByRole('region', { name: 'Given by you' })).toContainText('to Henrik Voss');

  await signInTo(demo, page, 'cataloguer', '/holdings');
  const mine = page.getByRole('region', { name: 'Given to you' });
  await expect(mine).toContainText('The old prints first');
  const before = Number((await mine.getByText(/ left of /).textContent())?.match(/^(\d+)/)?.[1]);
  await mine.getByRole('link', { name: 'Start here: Without a caption' }).press('Enter');
  const state = page.locator('header').last().getByRole('status');
  await expect(state).toHaveText(`1 of ${before}`);
  expect(await axeFinds(page)).toEqual([]);
  // The first is described: it leaves the list by itself. The second has nothing to say, the third comes tomorrow.
  await page.keyboard.press('Shift+E');
  const caption = page.getByRole('tabpanel').getByLabel(/^Description/);
  await caption.fill('A star kite over the dunes');
  await caption.press('Control+Enter');
  await expect(state).toContainText('no longer on the list');
  await page.getByRole('heading', { name: 'Without a caption' }).click();
  await page.keyboard.press('j');
  await page.keyboard.press('k');
  await expect(state).toHaveText(`3 of ${before}`);
  await page.keyboard.press('x');
  await expect(state).toHaveText(`4 of ${before}`);
  await page.keyboard.press('Escape');
  await expect(mine).toContainText(`${before - 2} left`);
  await mine.getByRole('button', { name: 'Done' }).press('Enter');
  await expect(mine).toContainText('1 done so far');
});

test('by keys: a report is made of the register, leads to its photos, is taken along and kept', async ({ page }) => {
  await signInTo(demo, page, 'keeper', '/holdings');
  await page.getByRole('link', { name: 'Reports' }).press('Enter');
  await expect(page.getByRole('article')).toContainText('What was described');
  expect(await axeFinds(page)).toEqual([]);
  const about = page.getByRole('combobox', { name: 'What it is about' });
  await about.press('Enter');
  await page.getByRole('option', { name: 'Accession register', exact: true }).press('Enter');
  await expect(page.getByRole('article', { name: 'Accession register' })).toContainText('Heirs of Anton Kessel');
  const download = page.waitForEvent('download');
  await page.getByRole('link', { name: 'PDF' }).press('Enter');
  expect((await download).suggestedFilename()).toMatch(/^Accession register.*\.pdf$/);
  await page.getByRole('button', { name: 'Keep …' }).press('Enter');
  const dialog = page.getByRole('dialog', { name: 'Keep the report' });
  await dialog.getByLabel(/^Name/).fill('Register');
  expect(await axeFinds(page)).toEqual([]);
  await dialog.getByLabel(/^Name/).press('Enter');
  await expect(page.getByRole('list', { name: 'Kept reports' })).toContainText('Register');
  const row = page.getByRole('row').filter({ hasText: 'Heirs of Anton Kessel' });
  const photos = await row.getByRole('link').textContent();
  await row.getByRole('link').press('Enter');
  await expect(found(page)).toHaveText(new RegExp(`^${photos} `));
});

test('by keys: photos are put aside across searches, opened, and put back', async ({ page }) => {
  const pocket = page.getByRole('button', { name: /^Your pocket/ }).first();
  for (const [i, drive] of ['Vault 1', 'Vault 2'].entries()) {
    await signInTo(demo, page, 'cataloguer', `/desk?q=${encodeURIComponent(`drive:"${drive}"`)}`);
    await expect(photo(page, 0)).toBeVisible();
    await page.getByRole('listbox', { name: 'Photos' }).focus();
    await page.keyboard.press('Home');
    await page.keyboard.press('+');
    await expect(pocket).toHaveText(`Your pocket${i + 1}`);
  }
  await pocket.press('Enter');
  await expect(found(page)).toContainText('2 photos');
  await page.getByRole('listbox', { name: 'Photos' }).focus();
  await page.keyboard.press('Home');
  await page.keyboard.press('+');
  await expect(pocket).toHaveText('Your pocket1');
});

test('dossiers stand as a wall, are skimmed, and open on the Desk', async ({ page }) => {
  await signInTo(demo, page, 'cataloguer', '/desk');
  await page.getByRole('link', { name: 'Dossiers as a wall of pictures' }).click();
  const card = page.getByRole('link', { name: 'Look at Sixty years of kites' });
  await expect(card).toBeVisible();
  expect(await axeFinds(page)).toEqual([]);
  await card.hover({ position: { x: 5, y: 20 } });
  await expect(card).toHaveText(/^1 of \d+$/);
  const photos = (await card.textContent())?.split(' of ')[1] ?? '';
  await card.press('Enter');
  await expect(found(page)).toHaveText(new RegExp(`^${photos}\\s+photo`));
});
