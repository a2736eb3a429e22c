import { open, readdir, readFile, rename, stat, utimes, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import { places } from '@stellin/server/config';
import { ownDemo } from './ownDemo';
import { axeFinds, folderOf, photo, signInTo } from './screen';

const demo = ownDemo();

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

/** Turns one bit of a picture over, as a drive does that forgets: size and time stay. */
async function rot(path: string): Promise<void> {
  const { size, atime, mtime } = await stat(path);
  const file = await open(path, 'r+');
  const { buffer } = await file.read(Buffer.alloc(1), 0, 1, size - 40);
  await file.write(Buffer.from([(buffer[0] ?? 0) ^ 1]), 0, 1, size - 40);
  await file.close();
  await utimes(path, atime, mtime);
}

test('a file that a drive has damaged is found, healed from its copy, and the healing undone and done again', async ({
  page,
}) => {
  await signInTo(demo, page, 'keeper', `/desk?q=${encodeURIComponent('drive:"Vault 2" is:double')}`);
  await expect(photo(page, 0)).toBeVisible();
  const name = (await photo(page, 0).getAttribute('aria-label'))?.split(',')[0] ?? '';
  await page.getByRole('link', { name: 'Intake' }).click();
  const vault = await folderOf(page, 'Vault 2');
  const below = (await readdir(vault, { recursive: true })).find((path) => path.endsWith(`/${name}`)) ?? '';
  const path = join(vault, below);
  await rot(path);
  const broken = await readFile(path);

  await page.getByRole('link', { name: 'Holdings' }).click();
  const card = page.getByRole('region', { name: /known to be damaged|file damaged/ });
  await expect(card.getByRole('heading', { name: 'No file is known to be damaged' })).toBeVisible();
  await card.getByRole('button', { name: 'Files by drive …' }).click();
  const dialog = page.getByRole('dialog', { name: 'Files by drive' });
  expect(await axeFinds(page)).toEqual([]);
  const row = dialog.getByRole('row', { name: /^Vault 2/ });
  await row.getByRole('button', { name: 'Read again' }).click();
  const damaged = dialog.getByRole('region', { name: 'Damaged files' });
  await expect(damaged.getByText(`Vault 2/${below}`, { exact: false })).toBeVisible();
  await expect(damaged.getByText('its picture is not the one it held')).toBeVisible();
  expect(await axeFinds(page)).toEqual([]);
  await damaged.getByRole('button', { name: 'Put this copy in its place' }).first().click();
  await expect(damaged).toBeHidden();
  const healed = await readFile(path);
  expect(healed.equals(broken)).toBe(false);
  await page.keyboard.press('Escape');
  await expect(card.getByRole('heading', { name: 'No file is known to be damaged' })).toBeVisible();

  await page.keyboard.press('Control+z');
  await expect(card.getByRole('heading', { name: '1 file damaged' })).toBeVisible();
  expect((await readFile(path)).equals(broken)).toBe(true);
  await card.getByRole('link', { name: 'Show the damaged ones on the Desk' }).click();
  await expect(photo(page, 0)).toHaveAttribute('aria-label', new RegExp(`^${name}`));
  await page.keyboard.press('Control+Shift+z');
  await expect(page.getByText('No photo meets this query')).toBeVisible();
  expect((await readFile(path)).equals(healed)).toBe(true);
});

test('a keeper settles when drives are read again; a viewer sees what is known and has nothing to press', async ({
  page,
}) => {
  await signInTo(demo, page, 'keeper', '/holdings');
  await page.getByRole('button', { name: 'Files by drive …' }).click();
  const dialog = page.getByRole('dialog', { name: 'Files by drive' });
  await dialog.getByLabel('From').fill('23:30');
  await dialog.getByLabel('Each file once in so many days').fill('0');
  await dialog.getByRole('button', { name: 'Keep the plan' }).click();
  await expect(dialog.getByLabel('Each file once in so many days')).toHaveAttribute('aria-invalid', 'true');
  await expect(dialog.getByLabel('From')).toHaveValue('23:30');
  await dialog.getByLabel('Each file once in so many days').fill('180');
  // By key: the sentence of what was wrong goes, and the button moves with it.
  await expect(dialog.getByLabel('Each file once in so many days')).not.toHaveAttribute('aria-invalid');
  await dialog.getByLabel('Each file once in so many days').press('Enter');
  await expect(dialog.getByRole('button', { name: 'Keep the plan' })).toBeDisabled();

  await page.context().clearCookies();
  await signInTo(demo, page, 'viewer', '/holdings');
  await page.getByRole('button', { name: 'Files by drive …' }).click();
  await expect(dialog.getByText('Between 23:30 and 06:00, each file every 180 days', { exact: false })).toBeVisible();
  await expect(dialog.getByRole('button', { name: 'Read again' })).toHaveCount(0);
});
