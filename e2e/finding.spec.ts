import { expect, test, type Page } from '@playwright/test';
import { ownDemo } from './ownDemo';
import { axeFinds, choose, drag, found, photo, signInTo } from './screen';

const demo = ownDemo('default');

const desk = (query = '') => `/desk${query ? `?q=${encodeURIComponent(query)}` : ''}`;
const count = (page: Page) => found(page).locator('b');
const facet = (page: Page, name: string) => page.getByRole('region', { name, exact: true });

/** The query as text, as the text face shows it. */
async function text(page: Page): Promise<string> {
  await page.getByRole('button', { name: 'Query as text' }).click();
  const said = await page.getByRole('textbox', { name: 'Query' }).inputValue();
  await page.getByRole('button', { name: 'Query as text' }).click();
  return said;
}

test('tokens, text and builder always say the same', async ({ page }) => {
  await signInTo(demo, page, 'cataloguer', desk('kind:jpeg (rating:>=3 or missing:rating)'));
  const query = page.getByRole('combobox', { name: 'Query' });
  await query.fill('rating:4');
  await query.press('Enter');
  await expect.poll(() => text(page)).toBe('kind:jpeg (rating:>=3 or missing:rating) rating:4');

  // A token is edited where it stands.
  await page.getByRole('button', { name: 'Edit rating:4' }).click();
  const token = page.getByRole('combobox', { name: 'Token of the query' });
  await token.fill('rating:<=4');
  await token.press('Enter');
  await expect(page.getByRole('button', { name: 'Edit rating:<=4' })).toBeVisible();

  // The builder has the same conditions, and gives the same query back.
  await page.keyboard.press('Escape');
  await page.keyboard.press('Shift+Q');
  const builder = page.getByRole('dialog', { name: 'Build the query' });
  await expect(builder.getByText('kind:jpeg (rating:>=3 or missing:rating) rating:<=4')).toBeVisible();
  await expect
    .poll(async () => builder.getByRole('button', { name: `Show ${await count(page).textContent()} photos` }).count())
    .toBe(1);
  await builder.getByRole('button', { name: 'Condition' }).last().click();
  await choose(page, builder.getByLabel('Whether it holds').last(), 'has not');
  await choose(page, builder.getByLabel('Criterion').last(), 'shape');
  await choose(page, builder.getByLabel('Value').last(), 'portrait');
  await builder.getByRole('button', { name: /^Show \d+ photo/ }).click();
  await expect.poll(() => text(page)).toBe('kind:jpeg (rating:>=3 or missing:rating) rating:<=4 not shape:portrait');
  expect(decodeURIComponent(page.url()).replaceAll('+', ' ')).toContain('not shape:portrait');

  // As text: what is wrong is named, and nothing breaks.
  await page.getByRole('button', { name: 'Query as text' }).click();
  const field = page.getByRole('textbox', { name: 'Query' });
  await field.fill('kind:tiff or rating:many');
  await expect(page.getByText('“rating” takes a number')).toBeVisible();
  await field.fill('kind:png');
  await field.press('Enter');
  await page.getByRole('button', { name: 'Query as text' }).click();
  await expect(page.getByRole('button', { name: 'Edit kind:png' })).toBeVisible();
  await page.goBack();
  await expect(page.getByRole('button', { name: 'Edit not shape:portrait' })).toBeVisible();
});

test('facets narrow, widen, leave out, and their counts are what they lead to', async ({ page }) => {
  await signInTo(demo, page, 'cataloguer', desk());
  await page.keyboard.press('Shift+N');
  const kinds = facet(page, 'Kinds');
  const tiff = kinds.getByRole('button', { name: /^tiff \d/ });
  const [, tiffs = ''] = /(\d+)$/.exec((await tiff.textContent()) ?? '') ?? [];
  await tiff.click();
  await expect(count(page)).toHaveText(tiffs);
  await expect.poll(() => text(page)).toBe('kind:tiff');
  const jpeg = kinds.getByRole('button', { name: /^jpeg \d/ });
  const [, jpegs = ''] = /(\d+)$/.exec((await jpeg.textContent()) ?? '') ?? [];
  await jpeg.click();
  await expect(count(page)).toHaveText(String(Number(tiffs) + Number(jpegs)));
  await expect.poll(() => text(page)).toBe('kind:tiff or kind:jpeg');
  await jpeg.focus();
  await page.keyboard.press('Tab');
  await expect(kinds.getByRole('button', { name: 'Only jpeg' })).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(count(page)).toHaveText(jpegs);

  // Terms as a tree; a value left out; photos that have none.
  const terms = facet(page, 'Terms');
  await terms.getByRole('button', { name: 'Narrower terms of Objects' }).click();
  const kites = terms.getByRole('button', { name: /^Kites \d/ });
  const [, withKites = ''] = /(\d+)$/.exec((await kites.textContent()) ?? '') ?? [];
  await kites.click();
  await expect(count(page)).toHaveText(withKites);
  await expect.poll(() => text(page)).toBe('kind:jpeg term:Kites');
  const cameras = facet(page, 'Cameras');
  await cameras.getByRole('button', { pressed: false }).first().focus();
  await page.keyboard.press('Tab');
  await page.keyboard.press('Tab');
  await page.keyboard.press('Enter');
  await expect.poll(() => text(page)).toMatch(/^kind:jpeg term:Kites not camera:/);
  expect(await axeFinds(page)).toEqual([]);
});

test('the time ruler selects by dragging and by keys, and zooms', async ({ page }) => {
  await signInTo(demo, page, 'cataloguer', desk());
  const ruler = page.getByRole('listbox', { name: /^Time ruler/ });
  await expect(ruler.getByRole('option').first()).toBeVisible();
  await expect(count(page)).not.toHaveText('…');
  const all = await count(page).textContent();
  const box = await ruler.boundingBox();
  if (!box) throw new Error('the ruler is not there');
  await page.mouse.move(box.x + box.width * 0.85, box.y + 20);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width * 0.99, box.y + 20, { steps: 5 });
  await page.mouse.up();
  await expect(count(page)).not.toHaveText(all ?? '');
  await expect.poll(() => text(page)).toMatch(/^taken:\d{4}\.\.\d{4}$/);
  await page.getByRole('button', { name: 'Zoom in on the chosen stretch' }).click();
  await expect(page.getByRole('listbox', { name: /^Time ruler by (year|month)/ })).toBeVisible();
  await page.getByRole('button', { name: 'All years' }).click();
  await expect(count(page)).toHaveText(all ?? '');
  await page.getByRole('button', { name: 'Zoom out' }).click();
  await expect(ruler).toHaveAttribute('aria-busy', 'false');

  await page.keyboard.press('Shift+R');
  await expect(ruler).toBeFocused();
  await page.keyboard.press('End');
  const last = (await ruler.getByRole('option').last().getAttribute('aria-label')) ?? '';
  await page.keyboard.press('Enter');
  await expect(count(page)).toHaveText(/(\d+) photo/.exec(last)?.[1] ?? 'none');
  await page.keyboard.press('Escape');
  await expect(count(page)).toHaveText(all ?? '');
});

test('a saved search stands in its folder, follows changes made elsewhere, and is found inside others', async ({
  page,
  browser,
}) => {
  await signInTo(demo, page, 'cataloguer', desk('rating:5 kind:jpeg'));
  await page.keyboard.press('s');
  await page.getByLabel('Name', { exact: true }).fill('Best');
  await page.getByLabel('Folder', { exact: true }).fill('Work/Prizes');
  await page.getByLabel('Stands on Holdings').check();
  await page.getByRole('button', { name: 'Save search' }).last().click();
  const saved = page.getByRole('button', { name: /^Best/ });
  await expect(count(page)).not.toHaveText('…');
  const before = Number(await count(page).textContent());
  await expect(saved).toContainText(String(before));
  await expect(page.getByRole('button', { name: 'Prizes' })).toBeVisible();

  // Somebody else takes a rating off: the count, the result and the choice follow.
  await photo(page, 1).click();
  const kept = await photo(page, 1).getAttribute('data-photo');
  const other = await browser.newPage();
  await signInTo(demo, other, 'keeper', desk('rating:5 kind:jpeg'));
  await photo(other, 0).click();
  await other.keyboard.press('0');
  await expect(saved).toContainText(String(before - 1));
  await expect(page.getByText('1 photo fewer')).toBeVisible();
  await expect(page.locator(`[data-photo="${kept}"]`)).toHaveAttribute('aria-selected', 'true');
  await other.keyboard.press('Control+z');
  await expect(saved).toContainText(String(before));
  await other.close();

  await page.getByRole('combobox', { name: 'Query' }).fill('search:Best');
  await page.keyboard.press('Enter');
  await page.getByRole('link', { name: 'Holdings' }).click();
  const listed = page.getByRole('region', { name: 'Kept searches' }).getByRole('listitem').filter({ hasText: 'Best' });
  await expect(listed).toContainText(String(before));
  expect(await axeFinds(page)).toEqual([]);
  await page.getByRole('link', { name: /^Best/ }).click();
  await expect(count(page)).toHaveText(String(before));
});

test('why a photo is not here, and one click that changes the condition', async ({ page }) => {
  await signInTo(demo, page, 'cataloguer', desk('kind:tiff'));
  await expect(photo(page, 0)).toBeVisible();
  const tiff = ((await photo(page, 0).getAttribute('aria-label')) ?? '').split(',')[0] ?? '';
  await page.goto(`${demo.url}${desk('kind:jpeg rating:>=0')}`);
  await expect(photo(page, 0)).toBeVisible();
  await page.keyboard.press('Shift+W');
  const why = page.getByRole('dialog', { name: /^Why is this photo/ });
  await why.getByLabel(/^Another photo/).fill(tiff);
  await expect(why.getByText('The result does not show it.')).toBeVisible();
  await expect(why.getByTestId('why')).toContainText('kind:jpeg');
  await expect(why.getByTestId('why')).toContainText('says tiff');
  expect(await axeFinds(page)).toEqual([]);
  await why.getByRole('button', { name: 'Take off kind:jpeg', exact: true }).click();
  await expect(why.getByText('The result shows it.')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect.poll(() => text(page)).toBe('rating:>=0');
});

test('a dossier by keyboard: made of the chosen photos, filled and emptied by one key, arranged', async ({ page }) => {
  await signInTo(demo, page, 'cataloguer', desk('kind:jpeg'));
  await photo(page, 0).click();
  await page.keyboard.press('Shift+ArrowRight');
  await page.getByRole('button', { name: 'New dossier' }).focus();
  await page.keyboard.press('Enter');
  await page.keyboard.press('Enter');
  await page.getByLabel('Name', { exact: true }).fill('Jury');
  await page.keyboard.press('Enter');
  const row = page.getByRole('button', { name: /^Jury/ });
  await expect(row).toContainText('2');

  await page.getByRole('button', { name: 'Change the dossier Jury' }).focus();
  await page.keyboard.press('Enter');
  await page.getByRole('menuitem', { name: /^Pin/ }).click();
  await photo(page, 3).click();
  await page.keyboard.press('.');
  await expect(row).toContainText('3');
  await page.keyboard.press('.');
  await expect(row).toContainText('2');
  await page.keyboard.press('.');
  await expect(row).toContainText('3');

  await row.click();
  await expect(count(page)).toHaveText('3');
  const ids = () =>
    page.locator('[data-photo]').evaluateAll((tiles) => tiles.map((tile) => tile.getAttribute('data-photo')));
  await expect.poll(async () => (await ids()).length).toBe(3);
  const before = await ids();
  await photo(page, 2).click();
  await page.keyboard.press('Control+Shift+ArrowLeft');
  await expect.poll(ids).toEqual([before[0], before[2], before[1]]);
  await page.getByRole('tab', { name: 'Details' }).click();
  await expect(page.getByRole('link', { name: 'Jury' })).toBeVisible();

  // Removing it removes no photo.
  await page.getByRole('button', { name: 'Change the dossier Jury' }).click();
  await page.getByRole('menuitem', { name: 'Remove' }).click();
  await expect(row).toBeHidden();
  await page.keyboard.press('Control+z');
  await expect(row).toContainText('3');
});

test('dossiers are nested by dragging; a photo is dropped on a dossier, and on a folder to be moved there', async ({
  page,
}) => {
  await signInTo(demo, page, 'keeper', desk('drive:"Vault 2"'));
  for (const name of ['Loans', 'Lenders']) {
    await page.getByRole('button', { name: 'New dossier' }).click();
    await page.getByRole('menuitem', { name: 'New …' }).click();
    await page.getByLabel('Name', { exact: true }).fill(name);
    await page.keyboard.press('Enter');
    await expect(page.getByRole('button', { name: new RegExp(`^${name}`) })).toBeVisible();
  }
  const [loans, lenders] = [/^Loans/, /^Lenders/].map((name) => page.getByRole('button', { name }));
  if (!loans || !lenders) throw new Error('the dossiers are not there');
  await drag(page, lenders, loans);
  await page.getByRole('button', { name: 'Fold Loans' }).click();
  await expect(lenders).toBeHidden();

  await drag(page, photo(page, 0), loans);
  await expect(loans).toContainText('1');

  await drag(page, photo(page, 0), page.getByRole('button', { name: /^Vault 1/ }));
  const moving = page.getByRole('dialog', { name: 'Move photos' });
  await expect(moving).toContainText('To Vault 1');
  await expect(moving.getByRole('button', { name: 'Move 1 photo' })).toBeFocused();
  await page.keyboard.press('Escape');
});

test('a column keeps the width it was dragged to, and is changed by keys', async ({ page }) => {
  await signInTo(demo, page, 'cataloguer', '/desk');
  const sources = page.getByRole('complementary', { name: 'Sources' });
  const edge = page.getByRole('separator', { name: 'Width of the sources' });
  const width = async () => Math.round((await sources.boundingBox())?.width ?? 0);
  const before = await width();
  const place = await edge.boundingBox();
  if (!place) throw new Error('there is no edge');
  await page.mouse.move(place.x, 300);
  await page.mouse.down();
  await page.mouse.move(place.x + 80, 300, { steps: 5 });
  await page.mouse.up();
  await expect.poll(width).toBeGreaterThan(before + 60);
  await edge.focus();
  const dragged = await width();
  await page.keyboard.press('ArrowLeft');
  await expect.poll(width).toBeLessThan(dragged);
  const kept = await width();
  await page.reload();
  await expect.poll(width).toBe(kept);
});
