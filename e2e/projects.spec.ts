import { expect, test, type Page } from '@playwright/test';
import { readFile } from 'node:fs/promises';
import { ownDemo } from './ownDemo';
import { axeFinds, choose, found, photo, signInTo } from './screen';

const demo = ownDemo();

/** Opens the fields of the drawer over one photo. */
async function describe(page: Page, index: number): Promise<void> {
  await photo(page, index).click();
  await page.getByRole('tab', { name: 'Fields' }).click();
}

test('a project with fields of its own, from what its template fills to a facet', async ({ page }) => {
  await signInTo(demo, page, 'keeper', '/projects');
  await expect(page.getByRole('heading', { name: 'Loan to Northmere' })).toBeVisible();
  expect(await axeFinds(page)).toEqual([]);
  await page.getByRole('button', { name: 'New …' }).click();
  const dialog = page.getByRole('dialog', { name: 'New project' });
  await dialog.getByLabel('Name').fill('Spring show');
  await dialog.getByLabel('Starts').fill('2025-03');
  await choose(page, dialog.getByLabel('Template for what comes in'), 'Loan');
  expect(await axeFinds(page)).toEqual([]);
  await dialog.getByRole('button', { name: 'Make the project' }).click();
  await page.getByRole('link', { name: /^Spring show/ }).click();
  await expect(page.getByRole('heading', { name: 'Spring show' })).toBeVisible();

  // Its fields, each of a kind.
  await page.getByRole('button', { name: 'Change the fields …' }).click();
  const fields = page.getByRole('dialog', { name: 'Field sets' });
  for (const [name, kind] of [
    ['Price', 'Number'],
    ['Hall', 'One of its choices'],
  ] as const) {
    await fields.getByLabel('Name of a field of the project').fill(name);
    await fields.getByRole('button', { name: 'Add it' }).click();
    await choose(page, fields.getByLabel(`Kind of ${name}`), kind);
  }
  await fields.getByLabel('Choices of Hall').fill('North; South');
  await fields.getByLabel('Choices of Hall').blur();
  await fields.getByRole('button', { name: 'Keep the set of 2 fields' }).click();
  await expect(page.getByRole('row', { name: 'Hall One of its choices North, South' })).toBeVisible();

  // What comes in is filled by the template.
  await page.goto(`${demo.url}/desk?q=${encodeURIComponent('drive:"Vault 1"')}`);
  await photo(page, 0).click();
  await photo(page, 2).click({ modifiers: ['Shift'] });
  await page.getByRole('button', { name: 'Change the dossier Spring show' }).click();
  await page.getByRole('menuitem', { name: 'Put the chosen photos in' }).click();
  await page.getByRole('button', { name: /^project Spring show/ }).click();
  await expect(found(page)).toHaveText('3 photos');
  await describe(page, 0);
  const price = page.getByLabel('Price', { exact: true });
  await price.fill('much');
  await expect(page.getByRole('alert')).toContainText('is no number');
  await price.fill('120');
  await choose(page, page.getByRole('combobox', { name: 'Hall' }), 'South');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByText(/^Set 2 fields: 1 photo/)).toBeVisible();
  await page.getByRole('radio', { name: /^Loans/ }).click();
  await expect(page.getByRole('combobox', { name: 'Condition' })).toContainText('Good');

  // It is a facet, and compared in searches.
  await page.getByRole('tab', { name: 'Narrow' }).click();
  await page
    .getByRole('region', { name: 'Hall' })
    .getByRole('button', { name: /^South/ })
    .click();
  await expect(found(page)).toHaveText('1 photo');
  const line = page.getByRole('combobox', { name: 'Query' });
  await page.goto(`${demo.url}/desk?q=${encodeURIComponent('own:"Price: >=100"')}`);
  await expect(found(page)).toHaveText('1 photo');
  await page.goto(`${demo.url}/desk?q=${encodeURIComponent('own:"Price: >120"')}`);
  await expect(found(page)).toHaveText('0 photos');
  await expect(line).toBeVisible();

  // Closed, nothing of it changes any more.
  await page.goto(`${demo.url}/projects`);
  await page.getByRole('link', { name: /^Spring show/ }).click();
  await page.getByRole('button', { name: 'What can be done with the project Spring show' }).click();
  await page.getByRole('menuitem', { name: /^Close it/ }).click();
  await expect(page.getByText('closed', { exact: true })).toBeVisible();
  await page.goto(`${demo.url}/desk?q=${encodeURIComponent('dossier:"Spring show"')}`);
  await describe(page, 0);
  await page.getByLabel('Price', { exact: true }).fill('1');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByText('The project “Spring show” is closed', { exact: false })).toBeVisible();
  await expect(page.getByLabel('Price', { exact: true })).toHaveValue('1');
});

test('two at one photo see each other; who comes second decides, and nothing is written over', async ({
  page,
  browser,
}) => {
  const place = `/desk?q=${encodeURIComponent('drive:"Vault 2" has:caption')}`;
  await signInTo(demo, page, 'keeper', place);
  const other = await browser.newContext();
  const hers = await other.newPage();
  await signInTo(demo, hers, 'cataloguer', place);
  for (const each of [page, hers]) {
    await describe(each, 0);
    await each.getByRole('radio', { name: /^Content/ }).click();
  }
  const [mine, theirs] = [page, hers].map((each) => each.getByLabel('Headline', { exact: true }));
  await theirs?.fill('Hers');
  await expect(page.getByRole('status').filter({ hasText: 'Henrik Voss is describing this photo' })).toBeVisible();
  await expect(photo(page, 0).getByRole('img', { name: 'Henrik Voss is describing this photo' })).toBeVisible();
  expect(await axeFinds(page)).toEqual([]);
  await mine?.fill('Mine');
  await theirs?.press('Control+Enter');
  await expect(hers.getByText(/^Set “Headline”: 1 photo/)).toBeVisible();
  const notice = page.getByRole('alert').filter({ hasText: 'Changed meanwhile: now “Hers”' });
  await expect(notice).toBeVisible();
  await expect(page.getByRole('button', { name: 'Apply', exact: true })).toBeDisabled();
  expect(await axeFinds(page)).toEqual([]);
  await notice.getByRole('button', { name: 'Put mine in' }).click();
  await mine?.press('Control+Enter');
  await expect(page.getByText(/^Set “Headline”: 1 photo/)).toBeVisible();
  await expect(theirs ?? hers.locator('none')).toHaveValue('Mine');
  // Undo takes back one’s own.
  await hers.getByRole('button', { name: /^Undo: Set “Headline”/ }).click();
  await expect(
    hers.getByText('has been changed since', { exact: false }).or(hers.getByText(/^Undo: Set/).first()),
  ).toBeVisible();
  await expect(mine ?? page.locator('none')).toHaveValue('Mine');
  await other.close();
});

test('the record of access is read, filtered and taken along by who administers', async ({ page, browser }) => {
  await signInTo(demo, page, 'keeper', '/ledger');
  await page.getByRole('tab', { name: 'Access' }).click();
  await expect(page.getByRole('row', { name: /Mara Olt Signed in/ }).first()).toBeVisible();
  expect(await axeFinds(page)).toEqual([]);
  await choose(page, page.getByLabel('What was recorded'), 'Was refused');
  await expect(page.getByText('Nothing of this was recorded.')).toBeVisible();
  await page.getByRole('button', { name: 'Show all' }).click();
  await page.getByRole('button', { name: 'What can be done with the ledger' }).click();
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('menuitem', { name: /as a table/ }).click(),
  ]);
  expect(file.suggestedFilename()).toBe('stellin-access.csv');
  expect(await readFile((await file.path()) ?? '', 'utf8')).toContain('Mara Olt,Signed in');
  const other = await browser.newContext();
  const hers = await other.newPage();
  await signInTo(demo, hers, 'viewer', '/ledger');
  await expect(hers.getByRole('heading', { name: 'Ledger' })).toBeVisible();
  await expect(hers.getByRole('tab', { name: 'Access' })).toHaveCount(0);
  await other.close();
});
