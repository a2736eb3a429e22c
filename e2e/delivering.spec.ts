import { expect, test, type Page } from '@playwright/test';
import { parse } from 'csv-parse/sync';
import ExifReader from 'exifreader';
import { createWriteStream } from 'node:fs';
import { mkdir, mkdtemp, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { pathToFileURL } from 'node:url';
import { open as openZip, type Entry } from 'yauzl';
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
  const root = join(demo.home, 'drives');
  const names = (await readdir(root, { recursive: true })).filter((name) => /Deliveries\/Ida\/.+\.jpg$/.test(name));
  expect(names).toHaveLength(2);
  const said = ExifReader.load(await readFile(join(root, names[0] ?? '')), { expanded: true });
  expect(said.gps).toBeUndefined();
  expect(said.icc?.['ICC Description']?.description).toContain('sRGB');
});

test('copies go to a server and to a storage, each of which is tried before', async ({ page }) => {
  await signInTo(demo, page, 'keeper', desk('drive:"Vault 1" kind:jpeg'));
  await photo(page, 0).click();
  await page.keyboard.press('Shift+X');
  await panel(page).getByRole('button', { name: 'Servers …' }).press('Enter');
  const dialog = page.getByRole('dialog', { name: 'Servers that copies are delivered to' });
  for (const name of [/^Northmere museum/, /^Storage of the county/]) {
    await dialog.getByRole('button', { name }).press('Enter');
    await dialog.getByRole('button', { name: 'Try it' }).press('Enter');
    await expect(dialog.getByRole('status')).toContainText('A file was written there, read back and removed.');
  }
  expect(await axeFinds(page)).toEqual([]);
  await page.keyboard.press('Escape');
  for (const [name, folder] of [
    [/^Northmere museum/, 'northmere'],
    [/^Storage of the county/, 'storage'],
  ] as const) {
    await choose(page, panel(page).getByLabel('Goes to'), name);
    await panel(page).getByLabel('Into the folder').fill('for Ida');
    await panel(page).getByRole('button', { name: 'Deliver 1 photo' }).press('Enter');
    await expect(page.getByRole('button', { name: '1 delivered' })).toBeEnabled();
    expect(await readdir(join(demo.home, 'servers', folder, 'for Ida'))).toHaveLength(1);
    await page.getByRole('button', { name: 'Close' }).press('Enter');
  }
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
  const firstPage = page.getByRole('img', { name: 'The first page of the sheet' });
  // Higher than wide, as the paper is: it was drawn.
  const size = async (side: 'height' | 'width') => Number(await firstPage.getAttribute(side));
  await expect.poll(async () => (await size('height')) > (await size('width'))).toBe(true);
  expect(await axeFinds(page)).toEqual([]);
  expect((await fetched()).subarray(0, 5).toString()).toBe('%PDF-');
});

test('a web gallery opens from a folder, with scripts and without', async ({ page, browser }) => {
  await signInTo(demo, page, 'keeper', `/deliver?q=${encodeURIComponent('drive:"Vault 1" kind:jpeg has:terms')}`);
  await page.getByRole('tab', { name: 'Gallery' }).click();
  await panel(page).getByLabel('Title').fill('Kites & dunes');
  await panel(page).getByLabel('Pictures a page').fill('12');
  await panel(page)
    .getByLabel(/^A map of where/)
    .check();
  expect(await axeFinds(page)).toEqual([]);
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    panel(page)
      .getByRole('button', { name: /^Download \d/ })
      .click(),
  ]);
  const folder = await mkdtemp(join(tmpdir(), 'stellin-gallery-'));
  await unpack(await file.path(), folder);
  for (const javaScriptEnabled of [true, false]) {
    const context = await browser.newContext({ javaScriptEnabled });
    const visitor = await context.newPage();
    const asked: string[] = [];
    visitor.on('request', (request) => asked.push(request.url()));
    await visitor.goto(pathToFileURL(join(folder, 'index.html')).href);
    await expect(visitor.getByRole('heading', { name: 'Kites & dunes' })).toBeVisible();
    await visitor.getByRole('navigation', { name: 'Terms' }).getByRole('link').first().click();
    await visitor.getByRole('link', { name: 'All pictures' }).click();
    await visitor.getByRole('link', { name: 'On a map' }).click();
    await expect(visitor.getByRole('group', { name: 'Map' }).getByRole('link').first()).toBeVisible();
    if (javaScriptEnabled) expect(await axeFinds(visitor)).toEqual([]);
    await visitor.getByRole('link', { name: 'All pictures' }).click();
    await visitor.locator('.wall a').first().click();
    await expect(visitor.locator('figure img')).toHaveJSProperty('complete', true);
    if (javaScriptEnabled) {
      await visitor.keyboard.press('ArrowRight');
      await expect(visitor).toHaveURL(/photo-00002/);
      await visitor.keyboard.press('Escape');
      await expect(visitor).toHaveURL(/index/);
      expect(await axeFinds(visitor)).toEqual([]);
    } else await visitor.getByRole('link', { name: 'Next' }).click();
    // Nothing of it comes from elsewhere.
    expect(asked.filter((url) => !url.startsWith('file:'))).toEqual([]);
    await context.close();
  }
  await rm(folder, { recursive: true });
});

test('photos are handed over to another program; what it saved and said comes back, is shown, taken in and taken back', async ({
  page,
}) => {
  await signInTo(demo, page, 'keeper', desk('drive:"Vault 1" kind:jpeg has:caption'));
  await photo(page, 0).click();
  await page.keyboard.press('Shift+X');
  await panel(page)
    .getByRole('button', { name: /^What it says/ })
    .click();
  await panel(page).getByLabel('A sidecar beside each').check();
  await choose(page, panel(page).getByLabel('Goes to'), /^Retouch/);
  await panel(page).getByRole('button', { name: 'Hand over 1 photo' }).press('Enter');
  const back = page.getByRole('table', { name: 'Files that came back' });
  await expect(back.getByRole('row')).toHaveCount(3);
  await expect(back).toContainText('(retouched)');
  await expect(back.getByRole('img', { name: /retouched\.tif/ })).toHaveJSProperty('complete', true);
  expect(await axeFinds(page)).toEqual([]);
  await page.getByRole('button', { name: 'Take in 2 files' }).press('Enter');
  await expect(back.getByText('taken in', { exact: true })).toHaveCount(2);
  await page.getByRole('button', { name: /^Undo: Take in 2 files that came back/ }).click();
  await expect(page.getByRole('button', { name: 'Take in 2 files' })).toBeEnabled();
});

test('a slide show goes by keys', async ({ page }) => {
  await signInTo(demo, page, 'cataloguer', '/deliver?q=drive%3A%22Vault%201%22&sort=name');
  await page.getByRole('button', { name: 'Slide show' }).click();
  const show = page.getByRole('region', { name: 'Slide show' });
  await expect(show).toContainText(/1 of \d+/);
  await page.keyboard.press('Space');
  await expect(show.getByRole('button', { name: /^Go on/ })).toBeVisible();
  await page.keyboard.press('ArrowRight');
  await expect(show).toContainText(/2 of \d+/);
  await page.keyboard.press('ArrowLeft');
  await page.keyboard.press('ArrowLeft');
  await expect(show).toContainText(/(\d+) of \1/);
  expect(await axeFinds(page)).toEqual([]);
  await page.keyboard.press('Escape');
  await expect(show).toHaveCount(0);
  const [other] = await Promise.all([
    page.waitForEvent('popup'),
    page.getByRole('button', { name: 'In a window' }).click(),
  ]);
  await expect(other.getByRole('region', { name: 'Slide show' })).toContainText('1 of');
  await other.keyboard.press('ArrowRight');
  await expect(other.getByRole('region', { name: 'Slide show' })).toContainText('2 of');
  await expect(leaving(page)).toBeVisible();
});

test('a table goes out, three corrections are made in it, and it comes back in as one step', async ({ page }) => {
  await signInTo(demo, page, 'keeper', `/deliver?q=${encodeURIComponent('drive:"Vault 1" kind:jpeg')}`);
  await page.getByRole('tab', { name: 'Table' }).click();
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    panel(page)
      .getByRole('button', { name: /^Download \d/ })
      .click(),
  ]);
  const [head = [], ...rows] = parse(await readFile(await file.path()), { bom: true });
  const [first = '', second = '', third = ''] = rows.map(([path = '']) => path);
  // As somebody does it in a spreadsheet, which saves with semicolons and in another encoding.
  const corrected = [
    [head[0], 'Headline', 'City', 'Keywords'],
    [first, 'Kites over the dünes', '', ''],
    [second, '', 'Northmere', ''],
    [third, '', '', 'Never heard of'],
    ['nowhere.jpg', 'Lost', '', ''],
  ];
  const path = join(demo.home, 'corrected.csv');
  await writeFile(path, Buffer.from(corrected.map((row) => row.join(';')).join('\r\n'), 'latin1'));
  await page.goto(`${demo.url}/deliver`);
  await page.getByRole('link', { name: 'Tables that come back in' }).press('Enter');
  await page.getByLabel('File of a table').setInputFiles(path);
  await expect(page.getByRole('heading', { name: 'corrected.csv' })).toBeVisible();
  const about = page.getByRole('complementary', { name: 'The table' });
  await expect(about.getByLabel('Encoding')).toContainText('Windows');
  await expect(about).toContainText('3 of 4 rows are about one photo');
  expect(await axeFinds(page)).toEqual([]);
  await page.getByRole('tab', { name: /^Rows/ }).press('Enter');
  await expect(page.getByRole('row', { name: /nowhere\.jpg/ })).toContainText('No photo is meant');
  await page.getByRole('tab', { name: 'Words' }).press('Enter');
  await expect(page.getByRole('row', { name: /Never heard of/ })).toContainText('a keyword');
  await page.getByRole('radio', { name: 'nothing' }).press('Space');
  await page.getByRole('tab', { name: 'Before and after' }).press('Enter');
  const changes = page.getByRole('table', { name: 'Before and after' });
  await expect(changes.getByRole('row', { name: /Kites over the dünes/ })).toBeVisible();
  await expect(changes.getByRole('row', { name: /City.*Northmere/ })).toBeVisible();
  expect(await axeFinds(page)).toEqual([]);
  await page.getByRole('button', { name: 'Take in for 3 photos' }).press('Enter');
  await expect(about).toContainText('Take in the table “corrected.csv”: 2 photos');
  await page.getByRole('button', { name: /^Undo: Take in the table/ }).press('Enter');
  await expect(about).toContainText('(taken back)');
});

test('a place is printed as it is, without what is pressed; the original is downloaded from its details', async ({
  page,
}) => {
  await signInTo(demo, page, 'cataloguer', desk('drive:"Vault 1" kind:jpeg'));
  await photo(page, 0).click();
  await page.getByRole('tab', { name: 'Details' }).click();
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'Original' }).press('Enter'),
  ]);
  expect(ExifReader.load(await readFile(await file.path()), { expanded: true }).file?.FileType?.value).toBe('jpeg');
  await page.getByRole('button', { name: 'Copy path' }).press('Enter');
  await expect(page.getByText(/\/drives\/bay-\d\/.+\.jpe?g$/i).first()).toBeVisible();
  const name = await photo(page, 0).getAttribute('title');
  await page.emulateMedia({ media: 'print' });
  await expect(page.getByRole('navigation', { name: 'Places' })).toBeHidden();
  await expect(page.getByRole('tab', { name: 'Details' })).toBeHidden();
  await expect(photo(page, 0)).toBeVisible();
  expect(name).not.toBe('');
  await page.goto(`${demo.url}/ledger`);
  await expect(page.getByRole('table').first()).toBeVisible();
  await expect(page.getByRole('navigation', { name: 'Places' })).toBeHidden();
});

test('nobody delivers who may not', async ({ page }) => {
  await signInTo(demo, page, 'viewer', '/deliver');
  await expect(page).toHaveURL(/\/desk/);
  await expect(page.getByRole('link', { name: 'Deliver' })).toHaveCount(0);
});

/** Unpacks a ZIP into a folder. */
function unpack(path: string, folder: string): Promise<void> {
  return new Promise((resolve, reject) => {
    openZip(path, { lazyEntries: true }, (error, zip) => {
      if (error) return reject(error);
      zip.on('end', () => resolve());
      zip.on('entry', (entry: Entry) => {
        zip.openReadStream(entry, (problem, content) => {
          if (problem) return reject(problem);
          const target = join(folder, entry.fileName);
          mkdir(dirname(target), { recursive: true })
            .then(() => pipeline(content, createWriteStream(target)))
            .then(() => zip.readEntry())
            .catch(reject);
        });
      });
      zip.readEntry();
    });
  });
}
