import { expect, test, type Page } from '@playwright/test';
import { mkdir, readdir, rename } from 'node:fs/promises';
import { join } from 'node:path';
import { ownDemo } from './ownDemo';
import { axeFinds, folderOf, found, photo, signInTo } from './screen';

const demo = ownDemo();

const signIn = (page: Page, name?: string, path?: string) => signInTo(demo, page, name, path);
const nameOf = async (page: Page, index: number) =>
  (await photo(page, index).getAttribute('aria-label'))?.split(',')[0] ?? '';

test('keywords that came with files are settled in one step, which is undone as one', async ({ page }) => {
  await signIn(page, 'cataloguer', '/intake');
  await page.getByRole('link', { name: 'Settle keywords' }).click();
  await expect(page.getByRole('heading', { name: 'Keywords that came with files' })).toBeVisible();
  const all = page.getByRole('button', { name: /^All \d+/ });
  const before = Number((await all.textContent())?.replace(/\D/g, ''));
  await page.getByRole('button', { name: /^the same label \d+/ }).click();
  const rows = await page.getByRole('row').count();
  await page.getByRole('button', { name: 'Use the proposals' }).click();
  await page.getByRole('button', { name: /^no proposal \d+/ }).click();
  const own = page.getByRole('row').nth(1);
  await own.getByRole('button', { name: 'Term …' }).click();
  await page.getByLabel('A new one').fill('Made while settling');
  await page.getByRole('button', { name: 'Make it' }).click();
  await expect(own.getByRole('button', { name: 'New: Made while settling' })).toHaveAttribute('aria-pressed', 'true');
  await page.getByRole('row').nth(2).getByRole('button', { name: 'Drop' }).click();
  await page.getByRole('row').nth(3).getByRole('button', { name: 'Person …' }).click();
  await page.getByRole('button', { name: /^New person / }).click();
  await expect(
    page
      .getByRole('row')
      .nth(3)
      .getByRole('button', { name: /^Person: / }),
  ).toBeVisible();
  const decided = rows - 1 + 3;
  expect(await axeFinds(page)).toEqual([]);
  await page.getByRole('button', { name: `Settle ${decided} keywords` }).click();
  await expect(page.getByText(new RegExp(`^Settle ${decided} keywords: [\\d,]+ photos?$`))).toBeVisible();
  await expect(all).toHaveText(`All ${before - decided}`);
  await page.goto(`${demo.url}/desk?q=${encodeURIComponent('term:"Made while settling"')}`);
  await expect(photo(page, 0)).toBeVisible();
  await page.getByRole('button', { name: /^Undo: Settle/ }).click();
  await expect(page.getByText('No photo meets this query')).toBeVisible();
  await page.goto(`${demo.url}/intake/keywords`);
  await expect(all).toHaveText(`All ${before}`);
});

test('a photo whose file vanished is missing, stays findable, and is linked again', async ({ page }) => {
  // One without an exact copy, which would take its place.
  await signIn(page, 'cataloguer', `/desk?q=${encodeURIComponent('drive:"Vault 1" not is:double')}`);
  await expect(photo(page, 0)).toBeVisible();
  const name = await nameOf(page, 0);
  await page.getByRole('link', { name: 'Intake' }).click();
  const folder = await folderOf(page, 'Vault 1');
  const file = (await readdir(folder, { recursive: true })).find((path) => path.endsWith(`/${name}`)) ?? '';
  await rename(join(folder, file), join(demo.home, 'kept aside.jpg'));
  await page.getByRole('button', { name: 'Look for new and changed photos' }).click();
  await page.getByRole('link', { name: '1 photo missing' }).click();
  await expect(found(page)).toContainText('1 photo');
  await expect(photo(page, 0)).toHaveAttribute('aria-label', new RegExp(`^${name}, file missing`));

  await page.goto(`${demo.url}/intake`);
  const studio = await folderOf(page, 'Studio disk');
  await mkdir(join(studio, 'found again'));
  await rename(join(demo.home, 'kept aside.jpg'), join(studio, 'found again', 'other name.jpg'));
  await page.getByRole('button', { name: 'Look here for 1 missing photo' }).click();
  await expect(page.getByText('0 new photos, 1 moved')).toBeVisible();
  await page.goto(`${demo.url}/desk?q=${encodeURIComponent('name:"other name.jpg" drive:"Studio disk"')}`);
  await expect(found(page)).toContainText('1 photo');
  await expect(photo(page, 0)).not.toHaveAttribute('aria-label', /file missing/);
});

test('by keyboard alone: look at a photo, zoom, go on, compare, pass and reject', async ({ page }) => {
  // Things of the collection stand alone: no burst makes one step of several.
  await signIn(page, 'cataloguer', `/desk?q=${encodeURIComponent('within:"Studio disk/Collection" not rating:4')}`);
  await expect(photo(page, 0)).toBeVisible();
  const [first, second, third] = [await nameOf(page, 0), await nameOf(page, 1), await nameOf(page, 2)];
  await page.getByRole('listbox', { name: 'Photos' }).focus();
  await page.keyboard.press('Home');
  await page.keyboard.press('Enter');
  const viewer = page.getByRole('region', { name: 'Viewer' });
  await expect(viewer.getByText(first, { exact: true })).toBeVisible();
  const picture = viewer.getByRole('img', { name: first });
  const width = async (name: string) => (await viewer.getByRole('img', { name }).boundingBox())?.width ?? 0;
  await expect(picture).toBeVisible();
  const whole = await width(first);
  await page.keyboard.press('z');
  await expect.poll(() => width(first)).toBeGreaterThan(whole * 1.5);
  await expect(viewer.getByText('100 %')).toBeVisible();
  await page.keyboard.press('z');
  await page.keyboard.press('ArrowRight');
  await expect(viewer.getByText(second, { exact: true })).toBeVisible();
  await page.keyboard.press('4');
  await expect(page.getByText('Rate 4: 1 photo', { exact: true })).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(
    page.getByRole('region', { name: /Notifications/ }).getByText('Undo: Rate 4: 1 photo', { exact: true }),
  ).toBeVisible();
  expect(await axeFinds(page)).toEqual([]);
  await page.keyboard.press('Escape');

  await page.keyboard.press('Home');
  await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('c');
  await expect(viewer.getByText('3 photos compared')).toBeVisible();
  await page.keyboard.press(']');
  for (const name of [first, second, third]) await expect(viewer.getByRole('img', { name })).toBeVisible();
  expect(await axeFinds(page)).toEqual([]);
  await page.keyboard.press('Escape');

  await page.keyboard.press('Home');
  await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('p');
  const pass = page.getByRole('region', { name: 'Pass' });
  await expect(pass.getByText(first, { exact: true })).toBeVisible();
  expect(await axeFinds(page)).toEqual([]);
  await page.keyboard.press('x');
  await expect(pass.getByText(second, { exact: true })).toBeVisible();
  await page.keyboard.press('Backspace');
  await expect(pass.getByText(first, { exact: true })).toBeVisible();
  await page.keyboard.press('k');
  await page.keyboard.press('x');
  await page.keyboard.press('k');
  await expect(pass.getByText('2 photos kept, 1 dropped')).toBeVisible();
  await page.getByLabel('Name of the dossier').fill('Best of the pass');
  await page.getByRole('button', { name: 'Keep and reject' }).press('Enter');
  await expect(page.getByText('Reject 1 photo', { exact: true })).toBeVisible();
  await expect(
    page
      .getByRole('link', { name: /Best of the pass/ })
      .or(page.getByText(/“Best of the pass”/))
      .first(),
  ).toBeVisible();
  await expect(page.getByText(/2 of \d+ photos chosen/)).toBeVisible();
});

test('what each block of a file says is read from it, and a drive that is away says so', async ({ page }) => {
  await signIn(page, 'cataloguer', `/desk?q=${encodeURIComponent('drive:"Vault 1" has:caption')}`);
  await photo(page, 0).click();
  await page.getByRole('tab', { name: 'Blocks' }).click();
  await expect(page.getByRole('columnheader', { name: 'XMP' })).toBeVisible();
  await expect(page.getByRole('rowheader', { name: /^Description/ })).toBeVisible();
  expect(await axeFinds(page)).toEqual([]);
  await page.goto(`${demo.url}/desk?q=${encodeURIComponent('is:away')}`);
  await photo(page, 0).click();
  await expect(page.getByText(/The drive “.+” is away/)).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(page.getByText('this is the kept preview')).toBeVisible();
});

test('a keeper names a drive and notes where it is kept; a cataloguer is not offered it', async ({ page }) => {
  await signIn(page, 'keeper', '/intake');
  await folderOf(page, 'Vault 2');
  await page.getByRole('button', { name: 'Rename, or add a note' }).click();
  await page.getByLabel('Label').fill('Vault two');
  await page.getByLabel(/^Note/).fill('Second shelf');
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(page.getByRole('button', { name: /^Vault two/ })).toBeVisible();
  await page.getByRole('button', { name: /^Vault two/ }).click();
  await expect(page.getByText('Second shelf')).toBeVisible();
  expect(await axeFinds(page)).toEqual([]);
  await page.context().clearCookies();
  await signIn(page, 'cataloguer', '/intake');
  await page.getByRole('button', { name: /^Vault two/ }).click();
  await expect(page.getByText('Second shelf')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Change label or note' })).toBeHidden();
});
