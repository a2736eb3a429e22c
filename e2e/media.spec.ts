import { expect, test, type Page } from '@playwright/test';
import { ownDemo } from './ownDemo';
import { axeFinds, found, photo, signInTo } from './screen';

const demo = ownDemo('default');
const desk = (query: string) => `/desk?q=${encodeURIComponent(query)}`;
const viewer = (page: Page) => page.getByRole('region', { name: 'Viewer' });
const place = (page: Page) => page.getByRole('slider', { name: 'Place in the recording' });
/** Where the player is, in seconds; no number while there is none yet. */
const secondsAt = (page: Page) => page.evaluate<number>('document.querySelector("video")?.currentTime ?? Number.NaN');

/** Opens what a query finds first in the viewer. */
async function look(page: Page, query: string): Promise<void> {
  await signInTo(demo, page, 'cataloguer', desk(query));
  await photo(page, 0).click();
  await page.keyboard.press('Enter');
  await expect(viewer(page)).toBeVisible();
}

test('a film is played, stepped through picture by picture and scrubbed, all by keys', async ({ page }) => {
  await look(page, 'name:"Over the dunes*"');
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible();
  await page.keyboard.press('Space');
  await expect(page.getByRole('button', { name: 'Pause' })).toBeVisible();
  await expect.poll(() => secondsAt(page)).toBeGreaterThan(0.2);
  await page.keyboard.press('>');
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible();
  const before = await secondsAt(page);
  await page.keyboard.press('>');
  await expect.poll(() => secondsAt(page)).toBeCloseTo(before + 1 / 25, 2);
  await place(page).focus();
  await page.keyboard.press('Home');
  await expect(place(page)).toHaveAttribute('aria-valuetext', '0:00.0 of 0:12.0');
  await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('ArrowLeft');
  await expect(place(page)).toHaveAttribute('aria-valuenow', '9');
  await expect(page.getByTitle('Timecode')).toHaveText('10:00:09:00');
  await page.keyboard.press(')');
  await expect(page.getByRole('combobox', { name: 'Speed' })).toHaveText('1.25×');
  expect(await axeFinds(page)).toEqual([]);
});

test('pointing along a film shows its pictures, on the sheet too; of what no browser plays a copy is made', async ({
  page,
}) => {
  await signInTo(demo, page, 'cataloguer', desk('name:"Tape 3.mpg"'));
  await photo(page, 0).hover({ position: { x: 40, y: 40 } });
  await expect(photo(page, 0).locator('[style*="/strip?"]')).toBeVisible();
  await photo(page, 0).click();
  await page.keyboard.press('Enter');
  await expect(viewer(page)).toContainText('Browsers do not play mpeg2video in MPEG-PS.');
  await page.getByRole('button', { name: 'Make a copy that plays' }).press('Enter');
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible({ timeout: 30_000 });
  await expect(page.getByText('a copy that plays')).toBeVisible();
  await page.keyboard.press('Space');
  await expect.poll(() => secondsAt(page)).toBeGreaterThan(0.1);
});

test('sounds and documents are found by what they are, and by the words on their pages', async ({ page }) => {
  await look(page, 'media:sound codec:flac');
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible();
  await expect(page.getByTitle('Timecode')).toHaveCount(0);
  await look(page, 'text:*"rokkaku battle"*');
  await expect(viewer(page)).toContainText('Festival June 2014.pdf');
  await expect(page.getByRole('status').filter({ hasText: 'Page' })).toHaveText('Page 1 of 2');
  await page.keyboard.press('PageDown');
  await expect(page.getByRole('status').filter({ hasText: 'Page' })).toHaveText('Page 2 of 2');
  await expect(page.locator('img[src*="page=2"]')).toBeVisible();
  expect(await axeFinds(page)).toEqual([]);
});

test('whoever looks has the room; the drawer opens where it is wanted, and the query line is back by its key', async ({
  page,
}) => {
  await look(page, 'media:still');
  const query = page.getByRole('combobox', { name: 'Query' });
  await expect(query).toBeHidden();
  const { height = 0 } = (await viewer(page).boundingBox()) ?? {};
  expect(height).toBeGreaterThan(600);
  await page.keyboard.press('d');
  await expect(page.getByRole('tabpanel', { name: 'Terms' })).toBeVisible();
  await page.keyboard.press('d');
  await page.getByRole('navigation', { name: 'Neighbours' }).getByRole('button').nth(2).click();
  await expect(viewer(page)).toContainText('3 of');
  await page.keyboard.press('/');
  await expect(viewer(page)).toBeHidden();
  await expect(query).toBeFocused();
});

for (const width of [1024, 1280, 1920, 2560])
  test(`nothing is wider than the window at ${width}`, async ({ page }) => {
    await page.setViewportSize({ width, height: 800 });
    await look(page, 'media:film');
    await expect(place(page)).toBeVisible();
    expect(await page.evaluate<number>('document.documentElement.scrollWidth')).toBe(width);
    // Jobs and drives are one status where the line is short.
    await expect(page.getByRole('button', { name: /^Status: / })).toBeVisible({ visible: width < 1200 });
  });

test('a stretch is marked by keys, named, found by its name, opened at its moment and taken back', async ({ page }) => {
  await look(page, 'name:"Over the dunes*"');
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible();
  await place(page).focus();
  await page.keyboard.press('Home');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowRight');
  await expect.poll(() => secondsAt(page)).toBeCloseTo(2, 1);
  await page.keyboard.press('[');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowRight');
  await expect.poll(() => secondsAt(page)).toBeCloseTo(4, 1);
  await page.keyboard.press(']');
  const name = page.getByRole('complementary', { name: 'Stretches' }).getByRole('textbox', { name: 'Name' });
  await expect(name).toBeFocused();
  await page.keyboard.type('Launch of the tern');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('listitem', { name: 'Stretch Launch of the tern' })).toBeVisible();
  expect(await axeFinds(page)).toEqual([]);
  const clip = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Download Launch of the tern as a file' }).click();
  expect((await clip).suggestedFilename()).toMatch(/^Over the dunes.* 0\.02\.0-0\.04\.0\./);

  await page.goto(`${demo.url}${desk('stretches:"launch of the tern"')}`);
  // It is a result of its own above the film, and so is whatever else is called so.
  await page.getByRole('button', { name: 'Launch of the tern, 0:02.0 in Over the dunes' }).press('Enter');
  await expect.poll(() => secondsAt(page)).toBeCloseTo(2, 1);
  await page.getByRole('button', { name: 'Remove Launch of the tern' }).press('Enter');
  // Nothing is found by it any more.
  await expect(viewer(page).getByRole('button', { name: 'Play', exact: true })).toBeHidden();
  await page.keyboard.press('Escape');
  await expect(found(page)).toContainText('0 photos');
});
