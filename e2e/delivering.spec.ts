import { expect, test, type Page } from '@playwright/test';
import ExifReader from 'exifreader';
import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { ownDemo } from './ownDemo';
import { axeFinds, choose, photo, signInTo } from './screen';

const demo = ownDemo();
const desk = (query: string) => `/desk?q=${encodeURIComponent(query)}`;
const panel = (page: Page) => page.getByRole('complementary', { name: 'How copies are made' });
const leaving = (page: Page) => page.getByRole('table', { name: 'Photos that leave' });

test('photos are chosen on the Desk, checked, and delivered to a folder by a preset, by keys', async ({ page }) => {
  await signInTo(demo, page, 'keeper', desk('drive:"Vault 1" kind:jpeg'));
  await photo(page, 0).click();
  await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('Shift+X');
  await expect(leaving(page).getByRole('row')).toHaveCount(3);
  await page.getByRole('button', { name: 'Press', exact: true }).press('Enter');
  await expect(leaving(page)).toContainText(/saltmarsh_.*_001\.jpg/);
  await choose(page, panel(page).getByLabel('Goes to'), /^Vault 1/);
  await panel(page).getByLabel('Into the folder').fill('Deliveries/Ida');
  await panel(page).getByLabel('For whom').fill('Ida Brandt');
  await panel(page).getByLabel('Why').fill('A talk in the town hall');
  expect(await axeFinds(page)).toEqual([]);
  await panel(page).getByRole('button', { name: 'Deliver 2 photos' }).press('Enter');
  await expect(page.getByRole('heading', { name: '2 photos for Ida Brandt', exact: true })).toBeVisible();
  await expect(page.getByRole('button', { name: '2 delivered' })).toBeEnabled();
  await expect(page.getByText('A talk in the town hall')).toBeVisible();
  expect(await axeFinds(page)).toEqual([]);
  const folder = join(demo.home, 'drives', 'vault-1', 'Deliveries', 'Ida');
  const names = await readdir(folder);
  expect(names).toHaveLength(2);
  const said = ExifReader.load(await readFile(join(folder, names[0] ?? '')), { expanded: true });
  expect(said.gps).toBeUndefined();
  expect(said.icc?.['ICC Description']?.description).toContain('sRGB');
});

test('a ZIP, a table and a contact sheet are downloaded; a mistake in a name is said while it is typed', async ({
  page,
}) => {
  await signInTo(demo, page, 'cataloguer', '/deliver');
  await page.getByRole('link', { name: /^Loan to Northmere\s*\d/ }).click();
  await expect(leaving(page)).toBeVisible();
  await page.getByRole('button', { name: /^Names/ }).click();
  const name = panel(page).getByLabel('Name, without extension');
  await name.fill('{nonsense}');
  await expect(page.getByRole('alert')).toContainText('there is no placeholder {nonsense}');
  await name.fill('loan-{number:2}');
  await expect(leaving(page)).toContainText('loan-01.jpg');
  const fetched = async () => {
    const [file] = await Promise.all([
      page.waitForEvent('download'),
      panel(page)
        .getByRole('button', { name: /^Download \d/ })
        .click(),
    ]);
    await page.getByRole('button', { name: 'Close' }).click();
    return readFile(await file.path());
  };
  expect((await fetched()).subarray(0, 2).toString()).toBe('PK');
  await page.getByRole('tab', { name: 'Table' }).click();
  expect((await fetched()).toString()).toContain('File with its path,Taken,Title');
  await page.getByRole('tab', { name: 'Sheet' }).click();
  await panel(page).getByLabel('Title').fill('Loan to Northmere');
  expect(await axeFinds(page)).toEqual([]);
  expect((await fetched()).subarray(0, 5).toString()).toBe('%PDF-');
});

test('nobody delivers who may not', async ({ page }) => {
  await signInTo(demo, page, 'viewer', '/deliver');
  await expect(page).toHaveURL(/\/desk/);
  await expect(page.getByRole('link', { name: 'Deliver' })).toHaveCount(0);
});
