import { readdir, rename, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import { places } from '@stellin/server/config';
import { makeHome, removeHome, startDemo, type RunningDemo } from './demo';
import { axeFinds, signInTo } from './screen';

let demo: RunningDemo;

test.describe.configure({ mode: 'serial' });

test.beforeAll(async () => {
  test.setTimeout(300_000);
  demo = await startDemo(await makeHome());
});

test.afterAll(async () => {
  expect(await demo.stop()).toBe(0);
  await removeHome(demo.home);
});

const folder = () => places.backups(demo.home);

test('a keeper backs the catalogue up, sees how old that is, and tries it out', async ({ page }) => {
  await signInTo(demo, page, 'keeper', '/holdings');
  const card = page.getByRole('region', { name: /backed up/i });
  await expect(card.getByRole('heading', { name: 'Not backed up yet' })).toBeVisible();
  await card.getByRole('button', { name: 'Back up now' }).click();
  await expect(card.getByRole('heading', { name: /^Backed up less than a minute ago/ })).toBeVisible();
  expect(await readdir(folder())).toEqual([expect.stringMatching(/^stellin-.*\.tar$/)]);

  await card.getByRole('button', { name: 'Backups …' }).click();
  const dialog = page.getByRole('dialog', { name: 'Backups of the catalogue' });
  await expect(dialog.getByText(folder(), { exact: false }).first()).toBeVisible();
  expect(await axeFinds(page)).toEqual([]);
  await dialog.getByRole('button', { name: 'Try it out' }).click();
  await page.keyboard.press('Escape');
  await expect(card.getByText('all of it can be restored', { exact: false })).toBeVisible();
  expect(await axeFinds(page)).toEqual([]);
});

test('by keys: the plan is settled; a folder that can’t be used is refused, and what was typed stays', async ({
  page,
}) => {
  await signInTo(demo, page, 'keeper', '/holdings');
  const file = join(demo.home, 'no-folder');
  await writeFile(file, '');
  await page.getByRole('button', { name: 'Backups …' }).focus();
  await page.keyboard.press('Enter');
  const dialog = page.getByRole('dialog', { name: 'Backups of the catalogue' });
  await dialog.getByLabel('Folder').focus();
  await page.keyboard.type(join(file, 'below'));
  await page.keyboard.press('Enter');
  await expect(dialog.getByText('can’t be used', { exact: false })).toBeVisible();
  await expect(dialog.getByLabel('Folder')).toHaveValue(join(file, 'below'));
  await page.keyboard.press('Control+a');
  await page.keyboard.type(join(demo.home, 'safe'));
  await dialog.getByLabel('weeks').fill('9');
  await page.keyboard.press('Enter');
  await expect(dialog).toBeHidden();
  await page.reload();
  await page.getByRole('button', { name: 'Backups …' }).click();
  await expect(dialog.getByLabel('Folder')).toHaveValue(join(demo.home, 'safe'));
  await expect(dialog.getByLabel('weeks')).toHaveValue('9');
});

test('a damaged backup is found when it is tried out; others see the state and nothing to press', async ({ page }) => {
  const [name = ''] = await readdir(folder());
  await rename(join(folder(), name), join(folder(), 'aside'));
  await writeFile(join(folder(), name), 'not what it was');
  await signInTo(demo, page, 'keeper', '/holdings');
  await page.getByRole('button', { name: 'Backups …' }).click();
  const dialog = page.getByRole('dialog', { name: 'Backups of the catalogue' });
  await dialog.getByRole('button', { name: 'Try it out' }).click();
  await expect(dialog.getByText(/damaged|no backup of Stellin/).first()).toBeVisible();

  await page.context().clearCookies();
  await signInTo(demo, page, 'viewer', '/holdings');
  const card = page.getByRole('region', { name: /backed up/i });
  await expect(card.getByText(/damaged|no backup of Stellin/)).toBeVisible();
  await expect(card.getByRole('button')).toHaveCount(0);
});
