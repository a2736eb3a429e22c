import { expect, test, type Page } from '@playwright/test';
import { existsSync } from 'node:fs';
import { copyFile, readdir } from 'node:fs/promises';
import { join } from 'node:path';
import { ownDemo } from './ownDemo';
import { axeFinds, choose, drag, found, photo, signInTo } from './screen';

const demo = ownDemo();

const signIn = (page: Page, name?: string, path?: string) => signInTo(demo, page, name, path);
const deskOf = (query: string) => `/desk?q=${encodeURIComponent(query)}`;
const goTo = (page: Page, path: string) => page.goto(`${demo.url}${path}`);
const nameOf = async (page: Page, index: number) =>
  (await photo(page, index).getAttribute('aria-label'))?.split(',')[0] ?? '';
const vault = () => join(demo.home, 'drives', 'bay-1');
/** All that is below a folder. */
const filesOf = (folder: string) => readdir(folder, { recursive: true });

test('by keyboard alone: trash two photos, restore one, undo', async ({ page }) => {
  await signIn(page, 'keeper', deskOf('drive:"Vault 1" not is:damaged'));
  await expect(photo(page, 1)).toBeVisible();
  const [first, second] = [await nameOf(page, 0), await nameOf(page, 1)];
  const before = await found(page).textContent();
  await page.getByRole('listbox', { name: 'Photos' }).focus();
  await page.keyboard.press('Home');
  await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('Delete');
  const dialog = page.getByRole('dialog', { name: 'Trash photos' });
  await expect(dialog.getByRole('button', { name: 'Trash 2 photos' })).toBeFocused();
  expect(await axeFinds(page)).toEqual([]);
  await page.keyboard.press('Enter');
  await expect(photo(page, 0)).not.toHaveAttribute('aria-label', new RegExp(`^${first}`));
  await expect
    .poll(async () => (await filesOf(join(vault(), '.stellin-trash'))).filter((name) => name.endsWith(first)).length)
    .toBe(1);

  await page.getByRole('button', { name: /^Trash 2$/ }).click();
  await expect(found(page)).toContainText('2 photos');
  await expect(photo(page, 0)).toHaveAttribute('aria-label', new RegExp(`^(${first}|${second})`));
  await photo(page, 0).click();
  await page.getByRole('button', { name: 'Files', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Restore …' }).click();
  await page.getByRole('button', { name: 'Restore 1 photo' }).click();
  await expect(found(page)).toContainText('1 photo');
  await page.getByRole('button', { name: /^Undo: Restore/ }).click();
  await expect(found(page)).toContainText('2 photos');
  await page.getByRole('button', { name: /^Undo: Trash/ }).click();
  await expect(page.getByText('No photo meets this query')).toBeVisible();
  await goTo(page, deskOf('drive:"Vault 1" not is:damaged'));
  await expect(found(page)).toContainText(before?.split('photos')[0]?.trim() ?? '');
  expect((await filesOf(vault())).some((path) => path.endsWith(`/${second}`) && !path.startsWith('.'))).toBe(true);
});

test('photos move to a new folder and are renamed by a pattern; the files follow', async ({ page }) => {
  await signIn(page, 'keeper', deskOf('drive:"Vault 1" not is:damaged'));
  await photo(page, 0).click();
  await photo(page, 2).click({ modifiers: ['Shift'] });
  await page.keyboard.press('Shift+M');
  const dialog = page.getByRole('dialog', { name: 'Move photos' });
  await dialog.getByLabel('Find a folder').fill('vault 1');
  await dialog.getByRole('radio').first().check();
  await dialog.getByLabel('in a new folder there').fill('picked?');
  await expect(dialog.getByText('“?” can’t stand in a name')).toBeVisible();
  await dialog.getByLabel('in a new folder there').fill('picked');
  await expect(dialog.getByText(/^3 photos, /)).toBeVisible();
  expect(await axeFinds(page)).toEqual([]);
  await dialog.getByRole('button', { name: 'Move 3 photos' }).click();
  await goTo(page, deskOf('within:"Vault 1/picked"'));
  await expect(found(page)).toContainText('3 photos');
  await expect.poll(() => existsSync(join(vault(), 'picked'))).toBe(true);

  await page.keyboard.press('Control+a');
  await page.keyboard.press('F2');
  await page.getByLabel('New name, without its extension').fill('kite_{number:3}');
  await expect(page.getByRole('cell', { name: 'kite_003.jpg' })).toBeVisible();
  expect(await axeFinds(page)).toEqual([]);
  await page.getByRole('button', { name: 'Rename 3 photos' }).click();
  await expect
    .poll(async () => (await readdir(join(vault(), 'picked'))).filter((name) => name.endsWith('.jpg')).sort())
    .toEqual(['kite_001.jpg', 'kite_002.jpg', 'kite_003.jpg']);
  await expect(page.getByRole('option', { name: /^kite_003/ })).toBeVisible();
  // They stay chosen, under their new names.
  await expect(page.locator('[data-photo][aria-selected="true"]')).toHaveCount(3);

  await page.getByRole('button', { name: 'Change the folder Vault 1/picked' }).click();
  await page.getByRole('menuitem', { name: 'Rename …' }).click();
  await page.getByLabel('Name', { exact: true }).fill('chosen');
  await page.getByRole('button', { name: 'Rename', exact: true }).click();
  const sources = page.getByRole('complementary', { name: 'Sources' });
  await expect(sources.getByRole('button', { name: /^chosen/ })).toHaveAttribute('aria-pressed', 'true');
  await expect.poll(() => existsSync(join(vault(), 'chosen', 'kite_001.jpg'))).toBe(true);
});

test('photos are bundled, stand as one, and are rated as one', async ({ page }) => {
  await signIn(page, 'keeper', deskOf('within:"Vault 1/chosen"'));
  await photo(page, 0).click();
  await photo(page, 1).click({ modifiers: ['Shift'] });
  await page.keyboard.press('Shift+B');
  await expect(found(page)).toContainText('2 photos + 1 in bundles');
  const bundle = page.getByRole('option', { name: /closed bundle of 2/ });
  await bundle.click();
  await page.keyboard.press('5');
  await expect(page.getByText('Rate 5: 2 photos', { exact: true })).toBeVisible();
  await page.keyboard.press('Shift+O');
  await expect(page.getByRole('option', { name: /open bundle of 2/ })).toHaveCount(2);
  await page.keyboard.press('Shift+C');
  await expect(bundle).toHaveCount(1);
});

test('doubles are shown by group, one is kept and the others trashed', async ({ page }) => {
  await signIn(page, 'keeper', deskOf('name:kite_003.jpg'));
  await expect(photo(page, 0)).toBeVisible();
  await copyFile(join(vault(), 'chosen', 'kite_003.jpg'), join(vault(), 'chosen', 'kite again.jpg'));
  await goTo(page, '/intake');
  await page
    .getByRole('button', { name: /^Vault 1/ })
    .first()
    .click();
  await page.getByRole('button', { name: 'Look for new and changed photos' }).click();
  await expect(page.getByText('1 new photo', { exact: true })).toBeVisible();
  await page.getByRole('link', { name: 'Look through doubles' }).click();
  const group = page.getByRole('listitem').filter({ hasText: 'kite again.jpg' });
  await expect(group.getByRole('radio')).toHaveCount(2);
  expect(await axeFinds(page)).toEqual([]);
  await group.getByRole('radio', { name: /kite_003/ }).check();
  await group.getByRole('button', { name: 'Keep kite_003.jpg, trash the other' }).click();
  await expect(group).toHaveCount(0);
  await page.getByRole('tab', { name: 'Look alike' }).click();
  await expect(page.getByRole('radiogroup').first()).toBeVisible();
});

test('a camera card is copied in, then emptied; a tracked folder takes in what comes', async ({ page }) => {
  await signIn(page, 'keeper', '/intake');
  await page
    .getByRole('button', { name: /^Camera card A/ })
    .first()
    .click();
  await page.getByRole('button', { name: 'Copy in …' }).click();
  const dialog = page.getByRole('dialog', { name: /^Copy in from Camera card A/ });
  await choose(page, dialog.getByLabel('To the drive'), /^Vault 1/);
  await dialog.getByLabel('Into the folder').fill('card/{year}');
  await dialog.getByLabel(/^Under the name/).fill('{yeer}');
  await expect(dialog.getByRole('alert')).toContainText('no placeholder {yeer}');
  await dialog.getByLabel(/^Under the name/).fill('{name}');
  await expect(dialog.getByText(/ → card\/20\d\d\//).first()).toBeVisible();
  expect(await axeFinds(page)).toEqual([]);
  await dialog.getByRole('button', { name: /^Copy in \d+ photos/ }).click();
  await expect(page.getByText('Vault 1, copied from Camera card A')).toBeVisible();
  await page.getByRole('button', { name: 'Empty the source …' }).click();
  const emptying = page.getByRole('dialog', { name: 'Empty the source' });
  await expect(emptying.getByText(/\d+ files are proven to be elsewhere and can go/)).toBeVisible();
  expect(await axeFinds(page)).toEqual([]);
  await emptying.getByRole('button', { name: /^Delete \d+ files$/ }).click();
  await expect(page.getByText(/^\d+ files deleted$/)).toBeVisible();

  await page
    .getByRole('button', { name: /^Vault 1/ })
    .first()
    .click();
  await page.getByRole('button', { name: 'Keep up with all of Vault 1 by itself' }).click();
  await expect(page.getByText('as it changes')).toBeVisible();
  await copyFile(join(vault(), 'chosen', 'kite_001.jpg'), join(vault(), 'came by itself.jpg'));
  await goTo(page, deskOf('name:"came by itself.jpg"'));
  await expect(found(page)).toContainText('1 photo');
});

test('headings by day and folder, and stepping from one to the next', async ({ page }) => {
  await signIn(page, 'viewer', deskOf('drive:"Vault 2"'));
  await page.getByLabel('Headings').check();
  const heading = page.getByText(/^\w+day,? \d+ \w+ \d{4}$/).first();
  await expect(heading).toBeVisible();
  await photo(page, 0).click();
  await page.keyboard.press('Control+ArrowRight');
  await expect(photo(page, 0)).toHaveAttribute('aria-selected', 'false');
  await page.keyboard.press('Control+ArrowLeft');
  await expect(photo(page, 0)).toHaveAttribute('aria-selected', 'true');
  await choose(page, page.getByLabel('Order'), 'Folder and name');
  await expect(page.getByText(/^Vault 2\/\d{4}/).first()).toBeVisible();
  expect(await axeFinds(page)).toEqual([]);
});

test('a folder is trashed with all that is in it after that has been seen, and restored', async ({ page }) => {
  await signIn(page, 'keeper', deskOf('within:"Vault 1/2013"'));
  await expect(photo(page, 0)).toBeVisible();
  const count = Number((await found(page).textContent())?.match(/\d+/)?.[0]);
  await page.getByRole('button', { name: 'Change the folder Vault 1/2013' }).press('Enter');
  await page.getByRole('menuitem', { name: 'Trash all that is in it …' }).press('Enter');
  const dialog = page.getByRole('dialog', { name: 'Trash photos' });
  await expect(dialog).toContainText(/below it\.|Nothing else is in it\./);
  expect(await axeFinds(page)).toEqual([]);
  await dialog.getByRole('button', { name: new RegExp(`^Trash ${count} photos`) }).press('Enter');
  await expect(page.getByText('No photo meets this query')).toBeVisible();
  await expect
    .poll(async () => (await filesOf(join(vault(), '2013'))).filter((name) => name.endsWith('.jpg')))
    .toEqual([]);
  await page.getByRole('button', { name: /^Undo: Trash/ }).click();
  await expect(found(page)).toContainText(`${count} photos`);
  await expect
    .poll(async () => (await filesOf(join(vault(), '2013'))).filter((name) => name.endsWith('.jpg')).length)
    .toBeGreaterThan(0);
});

test('a folder is dragged into another one, and back by undo', async ({ page }) => {
  await signIn(page, 'keeper', deskOf('within:"Vault 1"'));
  const row = (name: string) =>
    page.getByRole('complementary', { name: 'Sources' }).getByRole('button', { name: new RegExp(`^${name}`) });
  await page.getByRole('button', { name: 'Unfold Vault 1' }).click();
  await drag(page, row('2010'), row('2012'));
  const dialog = page.getByRole('dialog', { name: 'The folder “2010”' });
  await expect(dialog).toContainText('All that is in it goes along');
  expect(await axeFinds(page)).toEqual([]);
  await dialog.getByRole('button', { name: 'Move' }).click();
  await expect.poll(() => existsSync(join(vault(), '2012/2010'))).toBe(true);
  await page.getByRole('button', { name: /^Undo: Move the folder/ }).click();
  await expect.poll(() => existsSync(join(vault(), '2010'))).toBe(true);
});

test('by keys: to a folder by its name, to the one beside, and photos are cut and put there', async ({ page }) => {
  await signIn(page, 'keeper', '/holdings');
  await expect(page.getByRole('heading', { name: 'Work lists' })).toBeVisible();
  await page.keyboard.press('g');
  await expect(page.getByRole('dialog', { name: 'Go to' })).toBeVisible();
  expect(await axeFinds(page)).toEqual([]);
  await page.keyboard.press('f');
  await page.getByRole('combobox', { name: 'A part of its name' }).fill('vault 1 2011');
  await expect(page.getByRole('option').first()).toContainText('Vault 1/2011');
  await page.keyboard.press('Enter');
  const path = page.getByRole('navigation', { name: 'Folder' });
  await expect(path).toHaveText('Vault 12011');
  await page.keyboard.press('g');
  await page.keyboard.press('Shift+O');
  await expect(path).toHaveText('Vault 12010');
  await page.keyboard.press('g');
  await page.keyboard.press('o');
  await expect(path).toHaveText('Vault 12011');
  await expect(photo(page, 0)).toBeVisible();
  await page.getByRole('listbox', { name: 'Photos' }).focus();
  await page.keyboard.press('Home');
  const name = await nameOf(page, 0);
  await page.keyboard.press('Control+x');
  await path.getByRole('button', { name: 'Vault 1' }).press('Enter');
  await expect(path).toHaveText('Vault 1');
  await page.getByRole('listbox', { name: 'Photos' }).focus();
  await page.keyboard.press('Control+v');
  const dialog = page.getByRole('dialog', { name: 'Move photos' });
  await expect(dialog.getByRole('button', { name: 'Move 1 photo' })).toBeFocused();
  await page.keyboard.press('Enter');
  await expect.poll(() => existsSync(join(vault(), name))).toBe(true);
});

test('photos that are dragged onto a folder are copied there instead, where that is wished', async ({ page }) => {
  await signIn(page, 'keeper', deskOf('within:"Vault 1"'));
  await page.getByRole('button', { name: 'Unfold Vault 1' }).click();
  const folder = page.getByRole('complementary', { name: 'Sources' }).getByRole('button', { name: /^2014/ });
  const name = await nameOf(page, 2);
  await drag(page, photo(page, 2), folder);
  await page.getByRole('dialog', { name: 'Move photos' }).getByRole('button', { name: 'Copy them instead' }).click();
  await page.getByRole('dialog', { name: 'Copy photos' }).getByRole('button', { name: 'Copy 1 photo' }).click();
  await expect.poll(async () => (await readdir(join(vault(), '2014'))).includes(name)).toBe(true);
  await page.getByRole('button', { name: /^Undo: Copy/ }).click();
  await expect.poll(async () => (await readdir(join(vault(), '2014'))).includes(name)).toBe(false);
});
