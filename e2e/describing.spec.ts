import { expect, test, type Page } from '@playwright/test';
import exifr from 'exifr';
import ExifReader from 'exifreader';
import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { ownDemo } from './ownDemo';
import { axeFinds, choose, found, photo, signInTo } from './screen';

const demo = ownDemo();

const dialog = (page: Page) => page.getByRole('dialog');
const preview = (page: Page) => page.getByRole('region', { name: 'Before and after' });
/** The input of a field; its role changes when it comes to suggest values. */
const field = (page: Page, label: string) => page.getByRole('tabpanel').getByLabel(new RegExp(`^${label}`));
const fieldSet = (page: Page, name: string) => page.getByRole('radio', { name: new RegExp(`^${name}`) });
const desk = (query: string) => `/desk?q=${encodeURIComponent(query)}`;

/** The number of photos the query line says it has found. */
async function foundPhotos(page: Page): Promise<number> {
  await expect(found(page)).toContainText(/\d+\s*photos/);
  return Number(((await found(page).textContent()) ?? '').replace(/\D/g, ''));
}

async function pathsOf(name: string): Promise<string[]> {
  const root = join(demo.home, 'drives');
  const names = await readdir(root, { recursive: true });
  return names.filter((each) => each.endsWith(`/${name}`)).map((each) => join(root, each));
}

/** What the files of a name say, on whichever drives they are. */
async function filesSay(name: string): Promise<string> {
  const read = await Promise.all(
    (await pathsOf(name)).map(
      async (path) => exifr.parse(await readFile(path), { xmp: true, iptc: true }) as Promise<object>,
    ),
  );
  return JSON.stringify(read);
}

test('an event from broad to narrow, from intake to written files, by keyboard', async ({ page }) => {
  await signInTo(demo, page, 'keeper', '/intake');
  await page
    .getByRole('button', { name: /Field disk/ })
    .first()
    .click();
  await page.getByRole('button', { name: /^Take in \d+ photos$/ }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('progressbar', { name: 'Take in Field disk' })).toHaveAttribute('aria-valuenow', '100');

  await page.goto(`${demo.url}${desk('drive:"Field disk" not is:damaged')}`);
  const all = await foundPhotos(page);
  // Broadly: all of them.
  await photo(page, 0).click();
  await page.keyboard.press('Control+a');
  await page.keyboard.press('Shift+E');
  await expect(field(page, 'Title')).toBeFocused();
  // The form of the museum's team comes first; another one is an arrow away.
  await fieldSet(page, 'Content').click();
  await field(page, 'Title').focus();
  await page.keyboard.type('Saltmarsh Kite Festival 2025');
  await page.keyboard.press('Enter');
  await page.keyboard.type('On the sands before the museum');
  await page.keyboard.press('Control+Enter');
  await expect(preview(page)).toContainText(`${all} photos of ${all} will change`);
  await expect(dialog(page).getByRole('button', { name: `Change ${all} photos` })).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(page.getByText(`Set 2 fields: ${all} photos`).first()).toBeVisible();

  // Narrowly: the first one, then the next without leaving the form.
  await photo(page, 0).click();
  await page.keyboard.press('Shift+E');
  const headline = field(page, 'Headline');
  await expect(headline).toHaveValue('On the sands before the museum');
  await headline.focus();
  await page.keyboard.press('Control+a');
  await page.keyboard.type('The opening parade');
  await page.keyboard.press('Control+Shift+Enter');
  await expect(page.getByText('Set “Headline”: 1 photo').first()).toBeVisible();
  await expect(headline).toHaveValue('On the sands before the museum');

  await page.goto(`${demo.url}/write-back`);
  await page.getByRole('button', { name: /^Write [1-9]\d* photos on attached drives$/ }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'Write 0 photos on attached drives' })).toBeVisible();
  await page.goto(`${demo.url}${desk('headline:"The opening parade"')}`);
  await expect(found(page)).toContainText(/1\s*photo/);
  await photo(page, 0).click();
  await page.getByRole('tab', { name: 'Details' }).click();
  const file = await page
    .getByText(/\.(jpe?g|tiff?|png|webp)$/i)
    .first()
    .textContent();
  const said = await filesSay(file ?? '');
  expect(said).toContain('The opening parade');
  expect(said).toContain('Saltmarsh Kite Festival 2025');
});

test('find and replace shows what changes, and leaves out what is unticked', async ({ page }) => {
  await signInTo(demo, page, 'cataloguer', desk('drive:"Field disk" headline:"On the sands*"'));
  const all = await foundPhotos(page);
  await photo(page, 0).click();
  await page.keyboard.press('Control+a');
  await page.keyboard.press('Shift+H');
  await dialog(page).getByLabel('Find').fill('sands');
  await dialog(page).getByLabel('Replace by').fill('meadow');
  await expect(preview(page)).toContainText(`${all} photos of ${all} will change`);
  await expect(preview(page)).toContainText('On the meadow before the museum');
  await preview(page).getByRole('checkbox').first().uncheck();
  await expect(preview(page)).toContainText('1 left out');
  expect(await axeFinds(page)).toEqual([]);
  await dialog(page)
    .getByRole('button', { name: `Replace in ${all - 1} photos` })
    .click();
  await expect(page.getByText(`Replace “sands” by “meadow”: ${all - 1} photos`).first()).toBeVisible();
  await expect(found(page)).toContainText(/1\s*photo/);
  await page.keyboard.press('Control+z');
  await expect(found(page)).toContainText(new RegExp(`${all}\\s*photos`));
});

test('a server that can’t be reached loses nothing of what was typed; once it is back the same key saves it', async ({
  page,
}) => {
  await signInTo(demo, page, 'cataloguer', desk('drive:"Vault 1" not is:damaged'));
  await photo(page, 0).click();
  await page.keyboard.press('Shift+E');
  await fieldSet(page, 'Content').click();
  await field(page, 'Headline').fill('Typed while nobody listened');
  await page.context().setOffline(true);
  await page.keyboard.press('Control+Enter');
  await expect(page.getByText(/^The server can’t be reached/).first()).toBeVisible();
  await expect(field(page, 'Headline')).toHaveValue('Typed while nobody listened');
  await page.context().setOffline(false);
  await field(page, 'Headline').focus();
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('button', { name: /^Undo: .*1 photo/ })).toBeVisible();
  await page.goto(`${demo.url}${desk('headline:"Typed while nobody listened"')}`);
  await expect(found(page)).toContainText(/1\s*photo/);
});

test('a template fills placeholders and gives its term; wrong ones say what is wrong', async ({ page }) => {
  await signInTo(demo, page, 'cataloguer', desk('drive:"Field disk"'));
  await photo(page, 1).click();
  await page.keyboard.press('Shift+A');
  await dialog(page).getByRole('button', { name: 'New …', exact: true }).click();
  await dialog(page).getByLabel('Name').fill('Job numbers');
  await choose(page, dialog(page).getByLabel('Add a field'), 'Job id');
  const jobId = dialog(page).getByRole('textbox', { name: 'Job id' });
  await jobId.fill('{yaer}');
  await expect(dialog(page)).toContainText('there is no placeholder {yaer}');
  await jobId.fill('SKF-{year}-{number:3}');
  await dialog(page).getByRole('button', { name: 'Keep the template' }).click();
  // It is chosen at once.
  await expect(dialog(page).getByRole('combobox', { name: 'Template' })).toContainText('Job numbers');
  await expect(preview(page)).toContainText(/SKF-\d{4}-001/);
  await dialog(page).getByRole('button', { name: 'Apply to 1 photo' }).click();
  await expect(page.getByText('Template “Job numbers”: 1 photo').first()).toBeVisible();
});

test('what another program changed as well is a conflict, settled side by side', async ({ page }) => {
  await signInTo(demo, page, 'keeper', desk('drive:"Vault 1"'));
  await photo(page, 0).click();
  await page.keyboard.press('Control+a');
  await page.keyboard.press('Shift+E');
  await fieldSet(page, 'Content').click();
  await field(page, 'Headline').fill('Ours');
  await page.keyboard.press('Control+Enter');
  await expect(dialog(page).getByRole('button', { name: /^Change \d+ photos$/ })).toBeFocused();
  await page.keyboard.press('Enter');
  await page.goto(`${demo.url}/intake`);
  await page.getByRole('button', { name: 'Let another program change files of Vault 1' }).click();
  await expect(page.getByText(/Another program has changed \d+ files of/).first()).toBeVisible();

  await page.goto(`${demo.url}/write-back`);
  await page.getByRole('button', { name: /^Write [1-9]\d* photos on attached drives$/ }).click();
  const conflicts = page.getByRole('region', { name: 'Conflicts' });
  await expect(conflicts).toContainText('Headline');
  await conflicts.getByRole('button', { name: 'Look at each' }).click();
  const table = page.getByRole('table').filter({ hasText: 'At last reading' }).first();
  await expect(table).toContainText('Ours');
  await expect(table).toContainText('Changed by another program');
  expect(await axeFinds(page)).toEqual([]);
  const headline = table.getByRole('row').filter({ hasText: 'Headline' });
  await headline.getByRole('button', { name: 'File' }).click();
  await expect(page.getByText('Settle 1 conflict on “Headline”: keep what the files say').first()).toBeVisible();
  await conflicts
    .getByRole('listitem')
    .filter({ hasText: 'Headline' })
    .getByRole('button', { name: 'Keep the catalogue’s everywhere' })
    .click();
  await expect(conflicts).toBeHidden();
  await page.getByRole('button', { name: /^Write [1-9]\d* photos on attached drives$/ }).click();
  await expect(page.getByRole('button', { name: 'Write 0 photos on attached drives' })).toBeVisible();
  await page.goto(`${demo.url}${desk('drive:"Vault 1" headline:"Changed by another program"')}`);
  await expect(found(page)).toContainText(/1\s*photo/);
});

test('all photos are described at once, and one undo takes all of it back', async ({ page }) => {
  await signInTo(demo, page, 'keeper', '/desk');
  const all = await foundPhotos(page);
  await photo(page, 0).click();
  await page.keyboard.press('Control+a');
  await page.keyboard.press('Shift+E');
  await fieldSet(page, 'Rights').click();
  await field(page, 'Credit line').fill('Saltmarsh Kite Museum, picture archive');
  await page.keyboard.press('Control+Enter');
  await page.getByRole('button', { name: /^Change \d+ photos$/ }).click();
  await expect(page.getByText(`Set “Credit line”: ${all} photos`).first()).toBeVisible();
  await page.goto(`${demo.url}${desk('creditLine:"Saltmarsh Kite Museum, picture archive"')}`);
  expect(await foundPhotos(page)).toBe(all);
  await page.getByRole('main').click();
  await page.keyboard.press('Control+z');
  await expect(found(page)).toContainText(/0\s*photos/);
});

test('photos are marked private; the check before a delivery names them, and chooses what lacks something', async ({
  page,
}) => {
  await signInTo(demo, page, 'keeper', desk('drive:"Vault 1" term:Events'));
  const menu = async (item: string) => {
    await page.getByRole('button', { name: 'Describe', exact: true }).click();
    await page.getByRole('menuitem', { name: item, exact: true }).click();
  };
  await photo(page, 0).click();
  await menu('Mark as private');
  await expect(photo(page, 0)).toHaveAttribute('aria-label', /, private/);
  await page.keyboard.press('Control+a');
  await menu('Check before delivery …');
  await expect(dialog(page)).toContainText('1 photo marked private stays in the archive.');
  // Two rules ask for it; that of events finds what lacks it.
  const copyright = dialog(page).getByRole('listitem').filter({ hasText: 'copyright notice' }).first();
  const lacking = Number(((await copyright.textContent()) ?? '').replace(/\D/g, ''));
  expect(lacking).toBeGreaterThan(0);
  expect(await axeFinds(page)).toEqual([]);
  await copyright.getByRole('button', { name: 'Choose these' }).click();
  await expect(page.getByText(new RegExp(`^${lacking} of \\d+ photos chosen$`))).toBeVisible();
  await page.goto(`${demo.url}${desk('is:private')}`);
  await expect(found(page)).toHaveText('1 photo');
});

test('axe finds nothing serious in the forms of describing', async ({ page }) => {
  await signInTo(demo, page, 'keeper', desk('drive:"Vault 1"'));
  await photo(page, 0).click();
  await page.getByRole('tab', { name: 'Fields' }).click();
  await expect(page.getByRole('radiogroup', { name: 'Field set' })).toBeVisible();
  expect(await axeFinds(page)).toEqual([]);
  for (const item of [
    'Templates …',
    'Tidy texts …',
    'Time of capture …',
    'Field sets …',
    'What counts as described …',
  ]) {
    await page.getByRole('button', { name: 'Describe', exact: true }).click();
    await page.getByRole('menuitem', { name: item }).click();
    await expect(dialog(page)).toBeVisible();
    expect({ item, finds: await axeFinds(page) }).toEqual({ item, finds: [] });
    await page.keyboard.press('Escape');
  }
});

test('what was written is read alike by others: exifr and exifreader', async ({ page }) => {
  // Of other drives a sidecar may say what the picture file does not.
  const query = 'is:written kind:jpeg drive:"Field disk"';
  await signInTo(demo, page, 'keeper', desk(query));
  const { photos } = (await (
    await page.request.get(`${demo.url}/api/photos?query=${encodeURIComponent(query)}&limit=200`)
  ).json()) as { photos: { id: number }[] };
  expect(photos.length).toBeGreaterThan(3);
  for (const { id } of photos) {
    const { name, fields } = (await (await page.request.get(`${demo.url}/api/photos/${id}`)).json()) as {
      name: string;
      fields: Record<string, unknown>;
    };
    const bytes = await Promise.all((await pathsOf(name)).map((path) => readFile(path)));
    const wanted = [fields['headline'], fields['title'], fields['city']].filter((value) => typeof value === 'string');
    const read = await Promise.all(
      bytes.map(async (each) => ({
        exifr: JSON.stringify(await exifr.parse(each, { xmp: true, iptc: true })),
        exifreader: JSON.stringify(ExifReader.load(each, { expanded: true })),
      })),
    );
    // Of copies under one name one at least is this photo.
    for (const reader of ['exifr', 'exifreader'] as const)
      expect({
        name,
        reader,
        says: read.some((each) => wanted.every((text) => each[reader].includes(JSON.stringify(text).slice(1, -1)))),
      }).toEqual({ name, reader, says: true });
  }
});
