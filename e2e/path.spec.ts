import { expect, test, type Page } from '@playwright/test';
import exifr from 'exifr';
import ExifReader from 'exifreader';
import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { makeHome, removeHome, startDemo, type RunningDemo } from './demo';
import { axeFinds, choose, found, photo, signInTo } from './screen';

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

const signIn = (page: Page, name?: string, path?: string) => signInTo(demo, page, name, path);

const drawer = (page: Page) => page.getByRole('group', { name: 'Vocabulary' });

test('from sign-in to a saved search, by way of the file', async ({ page }) => {
  await page.goto(demo.url);
  await page.getByLabel('Name').fill('cataloguer');
  await page.getByLabel('Password').fill('wrong');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByRole('alert')).toHaveText('This name and password do not belong together.');
  await page.getByLabel('Name').fill('keeper');
  await page.getByLabel('Password').fill('saltmarsh-keeper');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('link', { name: 'Desk' })).toBeVisible();

  // Intake: a drive that is not in the catalogue yet.
  await page.getByRole('link', { name: 'Intake' }).click();
  await page
    .getByRole('button', { name: /Field disk/ })
    .first()
    .click();
  await page.getByRole('button', { name: /^Take in \d+ photos$/ }).click();
  const progress = page.getByRole('progressbar', { name: 'Take in Field disk' });
  await expect(progress).toBeVisible();
  await page.getByRole('link', { name: 'Desk' }).click();
  await expect(found(page)).toBeVisible();
  await page.getByRole('button', { name: /^Field disk/ }).click();
  await expect(photo(page, 0)).toBeVisible();
  await page.getByRole('link', { name: 'Intake' }).click();
  await expect(progress).toHaveAttribute('aria-valuenow', '100');
  await page.getByRole('button', { name: /^Field disk/ }).click();
  await page.getByRole('button', { name: 'Show on the Desk' }).click();
  await expect(found(page)).toContainText('photos');

  // Choosing by click, Shift and keys.
  await photo(page, 0).click();
  await photo(page, 2).click({ modifiers: ['Shift'] });
  await expect(page.getByText(/3 of \d+ photos chosen/)).toBeVisible();
  await page.keyboard.press('Shift+ArrowRight');
  await expect(page.getByText(/4 of \d+ photos chosen/)).toBeVisible();
  await page.keyboard.press('Control+a');
  await expect(page.getByText(/^(\d+) of \1 photos chosen/)).toBeVisible();

  // A small vocabulary, then a term given to chosen photos, taken off, undone and repeated by name.
  const desk = page.url();
  await page.getByRole('link', { name: 'Vocabulary' }).click();
  await page.getByRole('button', { name: 'Add a top term' }).click();
  await page.getByLabel('New term').fill('Sky things');
  await page.keyboard.press('Enter');
  await drawer(page)
    .getByRole('treeitem', { name: /^Sky things,/ })
    .click();
  await expect(page.getByRole('article', { name: 'Card of Sky things' })).toBeVisible();
  await page.keyboard.press('a');
  await page.getByLabel('New term').fill('Streamer');
  await page.keyboard.press('Enter');
  await expect(drawer(page).getByRole('treeitem', { name: /^Streamer,/ })).toBeVisible();
  await page.goto(desk);
  await photo(page, 0).click();
  await photo(page, 1).click({ modifiers: ['Control'] });
  await page.keyboard.press('t');
  await page.getByRole('combobox', { name: 'Give a term' }).fill('stream');
  await expect(page.getByRole('option', { name: /Streamer/ })).toBeVisible();
  await page.keyboard.press('Enter');
  const chips = page.getByRole('list', { name: 'Terms of the chosen photos' });
  await expect(chips.getByText('Streamer')).toBeVisible();
  await page.getByRole('button', { name: 'Take Streamer off' }).click();
  await expect(chips.getByText('Streamer')).toBeHidden();
  await page.getByRole('button', { name: 'Undo: Take “Streamer” off 2 photos' }).click();
  await expect(chips.getByText('Streamer')).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(chips.getByText('Streamer')).toBeHidden();
  await page.getByRole('button', { name: 'Redo: Give “Streamer” to 2 photos' }).click();
  await expect(chips.getByText('Streamer')).toBeVisible();

  // Write-back: what waits, and the file after it.
  const names = await Promise.all(
    [0, 1].map(async (index) => (await photo(page, index).getAttribute('aria-label'))?.split(',')[0] ?? ''),
  );
  await page.getByRole('link', { name: /Write-back/ }).click();
  const row = page.getByRole('row', { name: /Field disk/ });
  await expect(row.getByRole('button', { name: 'Write 2 photos' })).toBeVisible();
  await expect(page.getByText('+ Streamer').first()).toBeVisible();
  await row.getByRole('button', { name: 'Write 2 photos' }).click();
  await expect(page.getByText('2 files written')).toBeVisible();
  for (const name of names) await expectInFile(name, ['Sky things', 'Streamer']);

  // Finding by the broader term, and keeping the search.
  await page.getByRole('link', { name: 'Desk' }).click();
  await expect(photo(page, 0)).toBeVisible();
  await page.keyboard.press('/');
  await expect(page.getByRole('combobox', { name: 'Query' })).toBeFocused();
  await page.keyboard.type('sky th');
  // The list of what was typed before stays until this one is there.
  await expect(page.getByRole('listbox', { name: 'Suggestions' }).getByRole('option').first()).toContainText(
    'Sky things',
  );
  await expect(page.getByRole('option', { name: /Sky things/ })).toContainText('2');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await expect(found(page)).toContainText('2 photos');
  await page.getByRole('button', { name: 'Save search' }).click();
  await page.getByLabel('Name', { exact: true }).fill('All sky things');
  await page.keyboard.press('Enter');
  const saved = page.getByRole('button', { name: /^All sky things/ });
  await expect(saved).toContainText('2');

  // It stays true as photos change.
  await photo(page, 0).click();
  await page.getByRole('button', { name: 'Take Streamer off' }).click();
  await expect(saved).toContainText('1');
  await expect(found(page)).toContainText('1 photo');
});

/** The keywords that two independent libraries read from a file of the Field disk. */
async function expectInFile(name: string, keywords: string[]): Promise<void> {
  const mounts = join(demo.home, 'drives');
  const files = await readdir(mounts, { recursive: true });
  const file = files.find((path) => path.endsWith(`/${name}`));
  expect(file, `${name} lies on a drive`).toBeDefined();
  const bytes = await readFile(join(mounts, file ?? ''));
  const byExifr = (await exifr.parse(bytes, { xmp: true, iptc: true, mergeOutput: false })) as {
    dc?: { subject?: string | string[] };
    iptc?: { Keywords?: string | string[] };
  };
  expect([byExifr.dc?.subject].flat()).toEqual(expect.arrayContaining(keywords));
  expect([byExifr.iptc?.Keywords].flat()).toEqual(expect.arrayContaining(keywords));
  const byExifReader = ExifReader.load(bytes, { expanded: true });
  expect(byExifReader.xmp?.['subject']?.description.split(', ')).toEqual(expect.arrayContaining(keywords));
  const iptc = [byExifReader.iptc?.['Keywords']].flat().map((tag) => tag?.description);
  expect(iptc).toEqual(expect.arrayContaining(keywords));
}

test('by keyboard alone: find, choose, describe, rate, fold the drawer, look up the keys', async ({ page }) => {
  await signIn(page);
  await expect(photo(page, 0)).toBeVisible();
  await page.keyboard.press('/');
  await expect(page.getByRole('combobox', { name: 'Query' })).toBeFocused();
  await page.keyboard.type('drive:"Vault 2"');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'Remove drive:"Vault 2"' })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('combobox', { name: 'Query' })).not.toBeFocused();
  await page.waitForLoadState('networkidle');
  await page.keyboard.press('ArrowRight');
  await expect(photo(page, 0)).toHaveAttribute('aria-selected', 'true');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Shift+End');
  await expect(page.getByText(/^\d+ of \d+ photos chosen/)).not.toHaveText(/^1 of/);
  await page.keyboard.press('Home');
  await page.keyboard.press('4');
  await expect(page.getByText('Rate 4: 1 photo').first()).toBeVisible();
  await page.keyboard.press('t');
  await page.keyboard.type('six-sided');
  await expect(page.getByRole('option', { name: /Rokkaku/ })).toBeVisible();
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await page.keyboard.press('d');
  await expect(drawer(page)).toBeHidden();
  await page.keyboard.press('d');
  await page.keyboard.press('Shift+?');
  await expect(page.getByRole('dialog', { name: 'Keys' })).toBeVisible();
  await page.keyboard.press('Escape');
  // Backspace in the empty query line turns the last token into text again.
  await page.keyboard.press('/');
  await page.keyboard.press('Backspace');
  await expect(page.getByRole('combobox', { name: 'Token of the query' })).toHaveValue('drive:"Vault 2"');
});

test('half-typed and wrong queries say what is wrong and break nothing; back and forward work', async ({ page }) => {
  await signIn(page);
  const query = page.getByRole('combobox', { name: 'Query' });
  await expect(found(page)).not.toContainText('…');
  const all = (await found(page).locator('b').textContent()) ?? '';
  await query.fill('rating:');
  await expect(page.getByText('after “rating:” a value is missing')).toBeVisible();
  await query.fill('(kite');
  await expect(page.getByText('this bracket is never closed')).toBeVisible();
  await query.fill('kind:png or kind:tiff');
  await query.press('Enter');
  await expect(found(page).locator('b')).not.toHaveText(all);
  const count = await found(page).locator('b').textContent();
  await query.fill('nothing is called so');
  await query.press('Enter');
  await expect(page.getByText('No photo meets this query')).toBeVisible();
  await page.goBack();
  await expect(found(page).locator('b')).toHaveText(count ?? '');
});

test('a drive that is unplugged is shown as away at once, its photos stay, and it comes back at another slot', async ({
  page,
}) => {
  await signIn(page, 'cataloguer', '/intake');
  await page.getByRole('link', { name: 'Intake' }).click();
  await page.getByRole('button', { name: 'Unplug Vault 1' }).click();
  await expect(page.getByText('2 away')).toBeVisible();
  await page.getByRole('link', { name: 'Desk' }).click();
  await expect(found(page)).toBeVisible();
  await page.getByRole('button', { name: /^Vault 1/ }).click();
  await expect(photo(page, 0)).toHaveAttribute('aria-label', /drive away/);
  // Described while it is away, it is asked about once it is back.
  await photo(page, 0).click();
  await page.keyboard.press('2');
  await page.getByRole('link', { name: 'Intake' }).click();
  await choose(page, page.getByLabel('Plug in at'), 'bay-7');
  await page.getByRole('button', { name: 'Plug Vault 1 in' }).click();
  await expect(page.getByText('1 away')).toBeVisible();
  const notice = page.getByRole('status').filter({ hasText: 'Vault 1 is attached again.' });
  await expect(notice.getByRole('button', { name: /^Write [\d,]+ photos? now$/ })).toBeVisible();
  expect(await axeFinds(page)).toEqual([]);
  await notice.getByRole('button', { name: 'Later' }).click();
  await expect(notice).toBeHidden();
  await page
    .getByRole('button', { name: /^Vault 1/ })
    .first()
    .click();
  await expect(page.getByText(/drives\/bay-7/)).toBeVisible();
});

test('a viewer looks, and is offered nothing that changes anything', async ({ page }) => {
  await signIn(page, 'viewer');
  await photo(page, 0).click();
  await expect(page.getByRole('button', { name: 'Save search' })).toBeHidden();
  await expect(page.getByRole('combobox', { name: 'Give a term' })).toBeHidden();
  // Places of work that is not theirs are not there, and lead to the Desk.
  await expect(page.getByRole('link', { name: /^(Write-back|Intake)/ })).toHaveCount(0);
  await page.goto(`${demo.url}/write-back`);
  await expect(found(page)).toBeVisible();
  await page.getByRole('link', { name: 'Vocabulary' }).click();
  await page.getByRole('treeitem', { name: /^Objects,/ }).click();
  await expect(page.getByRole('article', { name: 'Card of Objects' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Add a top term' })).toBeHidden();
  await expect(page.getByRole('button', { name: 'Change …' })).toBeHidden();
});

test('axe finds nothing serious on any screen, light or dark', async ({ page }) => {
  // Twice through all screens takes its time on a slow machine.
  test.setTimeout(300_000);
  await page.goto(demo.url);
  await expect(page.getByLabel('Name')).toBeVisible();
  expect(await axeFinds(page)).toEqual([]);
  await signIn(page, 'keeper');
  // Another theme has other colours, and nothing else.
  for (const [theme, rules] of [
    ['light', undefined],
    ['dark', ['color-contrast']],
  ] as const) {
    if (theme === 'dark') {
      await page.getByRole('button', { name: 'Mara Olt' }).click();
      await page.getByRole('menuitem', { name: 'Dark theme' }).click();
    }
    for (const place of ['Holdings', 'Desk', 'Intake', 'Vocabulary', 'Write-back', 'Ledger']) {
      await page.getByRole('link', { name: new RegExp(`^${place}`) }).click();
      await expect(page.getByRole('main')).toBeVisible();
      if (place === 'Desk') {
        await photo(page, 0).click();
        await expect(page.getByRole('list', { name: 'Terms of the chosen photos' })).toBeVisible();
      }
      expect({ place, theme, finds: await axeFinds(page, rules) }).toEqual({ place, theme, finds: [] });
    }
  }
});

test('who changes the password is signed out everywhere, and signs in with the new one', async ({ page, browser }) => {
  await signIn(page, 'viewer');
  const elsewhere = await browser.newPage();
  await signInTo(demo, elsewhere, 'viewer');
  await page.getByRole('button', { name: 'Elin Dorsey' }).click();
  await page.getByRole('menuitem', { name: 'Your account' }).click();
  await page.getByRole('button', { name: 'Change your password …' }).click();
  const dialog = page.getByRole('dialog', { name: 'Change your password' });
  const action = dialog.getByRole('button', { name: 'Change the password' });
  await dialog.getByLabel('Present password').fill('not this one');
  await dialog.getByLabel('New password', { exact: true }).fill('too short');
  await action.click();
  await expect(dialog.getByText('It needs 10 characters at least.')).toBeVisible();
  await dialog.getByLabel('New password', { exact: true }).fill('kites over the sands');
  await dialog.getByLabel('New password again').fill('kites over the sea');
  await page.keyboard.press('Tab');
  await expect(dialog.getByText('The two are not the same.')).toBeVisible();
  await dialog.getByLabel('New password again').fill('kites over the sands');
  expect(await axeFinds(page)).toEqual([]);
  await action.click();
  await expect(dialog.getByRole('alert')).toContainText('Your present password is another one.');
  await dialog.getByLabel('Present password').fill('saltmarsh-viewer');
  await page.keyboard.press('Enter');
  await expect(page.getByText('This is the demo. Everybody may sign in as')).toBeVisible();
  await elsewhere.reload();
  await expect(elsewhere.getByRole('button', { name: 'Sign in' })).toBeVisible();
  await elsewhere.close();
  await page.getByLabel('Name').fill('viewer');
  await page.getByLabel('Password').fill('kites over the sands');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('link', { name: 'Desk' })).toBeVisible();
});

test('a second start takes seconds and keeps what was done', async ({ page }) => {
  test.setTimeout(120_000);
  expect(await demo.stop()).toBe(0);
  demo = await startDemo(demo.base);
  expect(demo.output()).not.toContain('Painting');
  await signIn(page);
  await expect(page.getByRole('button', { name: /^All sky things/ })).toContainText('1');
});
