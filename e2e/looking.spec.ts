import { expect, test, type Page } from '@playwright/test';
import sharp from 'sharp';
import { join } from 'node:path';
import { readdir } from 'node:fs/promises';
import { turnedTo } from '@stellin/core/metadata/orientation';
import { ownDemo } from './ownDemo';
import { axeFinds, folderOf, found, photo, signInTo } from './screen';

const demo = ownDemo('default');
const desk = (query: string) => `/desk?q=${encodeURIComponent(query)}`;
const viewer = (page: Page) => page.getByRole('region', { name: 'Viewer' });
const pass = (page: Page) => page.getByRole('region', { name: 'Pass' });

/** Opens what a query finds first in the viewer; gives its name. */
async function look(page: Page, query: string, who = 'cataloguer'): Promise<string> {
  await signInTo(demo, page, who, desk(query));
  await photo(page, 0).click();
  const name = ((await photo(page, 0).getAttribute('aria-label')) ?? '').split(',')[0] ?? '';
  await page.keyboard.press('Enter');
  await expect(viewer(page).getByRole('img', { name }).first()).toBeVisible();
  return name;
}

async function shapeOf(page: Page, name: string): Promise<'upright' | 'lying'> {
  const box = await viewer(page).getByRole('img', { name }).first().boundingBox();
  return (box?.height ?? 0) > (box?.width ?? 0) ? 'upright' : 'lying';
}

test('a photo is turned by a key, seen turned at once, written, and read so by others', async ({ page }) => {
  await signInTo(demo, page, 'keeper', '/intake');
  const folder = await folderOf(page, 'Studio disk');
  const name = await look(page, 'kind:jpeg not shape:square drive:"Studio disk"', 'keeper');
  const files = await readdir(folder, { recursive: true });
  const path = join(folder, files.find((file) => file.endsWith(name)) ?? '');
  const orientation = async () => (await sharp(path).metadata()).orientation ?? 1;
  const [before, shape] = [await orientation(), await shapeOf(page, name)];
  await page.keyboard.press(';');
  await expect(page.getByText('Turn to the right: 1 photo', { exact: true })).toBeVisible();
  await expect.poll(() => shapeOf(page, name)).not.toBe(shape);
  await page.goto(`${demo.url}/write-back`);
  await page
    .getByRole('button', { name: /^Write/ })
    .first()
    .click();
  await expect.poll(orientation).toBe(turnedTo(before, 'right'));
  await page.goto(`${demo.url}${desk(`name:${name} is:written`)}`);
  await expect(found(page)).toContainText('1 photo');
});

test('loupe, histogram, lost light, sharp edges and the caption are shown by keys, and help on every picture', async ({
  page,
}) => {
  await look(page, 'kind:jpeg has:caption drive:"Vault 1"');
  for (const key of ['#', '!', '*', '=', ':']) await page.keyboard.press(key);
  await expect(viewer(page).getByRole('figure', { name: 'Histogram' })).toContainText(/\d+\.\d % white/);
  await expect(viewer(page).getByRole('img', { name: 'Loupe' })).toBeVisible();
  await expect(viewer(page).locator('p[aria-live]')).not.toBeEmpty();
  expect(await axeFinds(page)).toEqual([]);
  await page.keyboard.press('ArrowRight');
  await expect(viewer(page).getByRole('figure', { name: 'Histogram' })).toBeVisible();
  await viewer(page).getByRole('button', { name: 'Look closer' }).click();
  for (const aid of ['Loupe under the pointer', 'Histogram', 'Caption'])
    await expect(page.getByRole('menuitemcheckbox', { name: aid })).toBeChecked();
  await page.getByRole('menuitemcheckbox', { name: 'Histogram' }).press('Enter');
  await expect(viewer(page).getByRole('figure', { name: 'Histogram' })).toBeHidden();
});

test('the text in a picture is read when somebody asks for it', async ({ page }) => {
  await look(page, 'kind:jpeg drive:"Vault 1"');
  await page.keyboard.press('"');
  const said = viewer(page).getByRole('status');
  await expect(said).toContainText('Nobody has read the text in this picture yet.');
  await said.getByRole('button', { name: 'Read the text' }).press('Enter');
  const lines = viewer(page).getByRole('list', { name: 'Text in the picture' });
  await expect(lines.or(viewer(page).getByText('No text is seen in this picture.'))).toBeVisible();
  expect(await axeFinds(page)).toEqual([]);
});

test('what looks like a photo is a result like any other, the likest first', async ({ page }) => {
  const name = await look(page, 'kind:jpeg drive:"Vault 1"');
  await page.keyboard.press('&');
  await expect(viewer(page)).toBeHidden();
  await expect(photo(page, 0)).toHaveAttribute('aria-label', new RegExp(`^${name.replace('.', '\\.')}`));
  await expect(page.getByRole('combobox', { name: 'Order' })).toHaveText('Likest first');
  const token = page.getByRole('button', { name: /^Edit like:/ });
  await expect(token).toHaveText(`looks like${name}`);
  const all = Number(((await found(page).textContent()) ?? '').replace(/\D/g, ''));
  await page.goto(`${page.url()}`.replace(/like%3A(\d+)/, 'like%3A%22$1%20strict%22'));
  await expect(token).toHaveText(`looks like${name} (strict)`);
  const strict = Number(((await found(page).textContent()) ?? '').replace(/\D/g, ''));
  expect(strict).toBeLessThanOrEqual(all);
  expect(await axeFinds(page)).toEqual([]);
});

test('two photos are laid over one another', async ({ page }) => {
  await signInTo(demo, page, 'viewer', desk('kind:jpeg drive:"Vault 1"'));
  await photo(page, 0).click();
  await photo(page, 1).click({ modifiers: ['Control'] });
  await page.keyboard.press('c');
  await expect(viewer(page).getByText('2 photos compared')).toBeVisible();
  await page.keyboard.press('|');
  const share = page.getByRole('slider', { name: 'Share of the two pictures' });
  await expect(share).toHaveAttribute('aria-valuenow', '50');
  await share.press('End');
  await expect(share).toHaveAttribute('aria-valuenow', '100');
  await page.getByRole('button', { name: 'One through the other' }).click();
  expect(await axeFinds(page)).toEqual([]);
  await page.keyboard.press('|');
  await expect(share).toBeHidden();
});

test('in a pass a burst is one step, of which the sharpest is agreed to by a key', async ({ page }) => {
  await signInTo(demo, page, 'cataloguer', desk('kind:jpeg drive:"Vault 1"'));
  await expect(photo(page, 0)).toBeVisible();
  await page.keyboard.press('Control+a');
  const told = page.waitForResponse('**/api/bursts');
  await page.keyboard.press('p');
  await told;
  const burst = pass(page).getByText(/^Burst of \d+/);
  const counts = pass(page).getByText(/ kept, /);
  await expect(counts).toContainText('0 kept, 0 dropped');
  for (let i = 0; i < 60 && !(await burst.isVisible()); i++) {
    await page.keyboard.press('h');
    await expect(counts).toContainText(`${i + 2} of `);
  }
  const [, size = ''] = /Burst of (\d+)/.exec((await burst.textContent()) ?? '') ?? [];
  expect(await axeFinds(page)).toEqual([]);
  // What was gone through before may have been bursts as well.
  const [, dropped = ''] = /(\d+) dropped/.exec((await counts.textContent()) ?? '') ?? [];
  await page.keyboard.press('k');
  await expect(counts).toContainText(`1 kept`);
  await expect(counts).toContainText(`${Number(dropped) + Number(size) - 1} dropped`);
  await page.keyboard.press('Backspace');
  await page.keyboard.press('i');
  await expect(burst).toBeHidden();
  await page.keyboard.press('x');
  await expect(counts).toContainText(`${Number(dropped) + 1} dropped`);
});
