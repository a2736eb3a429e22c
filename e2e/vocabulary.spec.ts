import { expect, test, type Page } from '@playwright/test';
import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { ownDemo } from './ownDemo';
import { axeFinds, choose, drag, found, photo, signInTo } from './screen';

const demo = ownDemo();

const row = (page: Page, label: string) => page.getByRole('treeitem', { name: new RegExp(`^${label},`) });
const card = (page: Page, label: string) => page.getByRole('article', { name: `Card of ${label}` });
const touches = (page: Page) => page.getByRole('region', { name: 'What it touches' });

async function open(page: Page, ...labels: string[]): Promise<void> {
  for (const label of labels) {
    await row(page, label).first().click();
    await expect(card(page, label)).toBeVisible();
  }
}

test('by keys: add below and beside, many at once, rename in place, find with a slip', async ({ page }) => {
  await signInTo(demo, page, 'keeper', '/vocabulary');
  await open(page, 'Events');
  await page.keyboard.press('a');
  await page.getByLabel('New term').fill('Kite parade = procession; !Drachenumzug @de');
  await page.keyboard.press('Enter');
  await expect(row(page, 'Kite parade')).toBeVisible();
  await page.keyboard.press('Escape');
  await open(page, 'Kite parade');
  await expect(card(page, 'Kite parade')).toContainText('Drachenumzug');
  await page.keyboard.press('b');
  await page.getByLabel('New term').fill('Night parade');
  await page.keyboard.press('Enter');
  await expect(row(page, 'Night parade')).toBeVisible();
  await page.keyboard.press('Escape');
  await open(page, 'Night parade');
  await page.keyboard.press('F2');
  await page.keyboard.press('Control+a');
  await page.keyboard.type('Lantern parade');
  await page.keyboard.press('Enter');
  await expect(row(page, 'Lantern parade')).toBeVisible();

  await page.getByRole('button', { name: 'Add many' }).click();
  await page.getByLabel('Terms as indented text').fill('Start\nEnd\n\tPrize giving');
  await expect(page.getByRole('group', { name: 'What comes of it' })).toContainText('Prize giving');
  await page.getByRole('button', { name: 'Add 3 terms' }).click();
  await expect(page.getByText('Add 3 terms below “Lantern parade”').first()).toBeVisible();

  await page.keyboard.press('/');
  await page.keyboard.type('drachenumzg');
  await expect(page.getByRole('option', { name: /Kite parade/ })).toContainText('Drachenumzug');
  await page.keyboard.press('Enter');
  await expect(card(page, 'Kite parade')).toBeVisible();
});

test('a term dragged onto another moves there once what it touches has been seen', async ({ page }) => {
  await signInTo(demo, page, 'keeper', '/vocabulary');
  await open(page, 'Events');
  await drag(page, row(page, 'Lantern parade'), row(page, 'Kite parade'));
  await expect(touches(page)).toContainText('Move “Lantern parade” below “Kite parade”');
  await touches(page).getByRole('button', { name: 'Move' }).click();
  await open(page, 'Kite parade');
  await expect(page.getByRole('tree', { name: 'Narrower than Kite parade' }).getByRole('treeitem')).toHaveCount(1);
});

test('a term is grasped, carried and dropped by keys alone; Esc lets it go', async ({ page }) => {
  await signInTo(demo, page, 'keeper', '/vocabulary');
  await open(page, 'Events');
  await row(page, 'Museum night').focus();
  await page.keyboard.press('Control+Space');
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('Escape');
  await expect(touches(page)).toBeHidden();
  await expect(row(page, 'Museum night')).toBeFocused();
  await page.keyboard.press('Control+Space');
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('Enter');
  await expect(touches(page)).toContainText('Move “Museum night” below');
  await touches(page).getByRole('button', { name: 'Not now' }).click();
});

test('merging shows what it touches, does it, and one undo brings all of it back', async ({ page }) => {
  await signInTo(demo, page, 'keeper', '/vocabulary?show=near');
  const finding = page.getByRole('listitem', { name: /Rokkaku/ });
  await finding.focus();
  await page.keyboard.press('Enter');
  await expect(touches(page)).toContainText('Merge “Rokaku” into “Rokkaku”: what it touches');
  await expect(touches(page)).toContainText('“Rokaku” stays as another label');
  await touches(page)
    .getByRole('button', { name: /^Merge/ })
    .click();
  await expect(page.getByText('Merge “Rokaku” into “Rokkaku”').first()).toBeVisible();
  await expect(finding).toBeHidden();
  await page.getByRole('button', { name: 'Undo: Merge “Rokaku” into “Rokkaku”' }).click();
  await expect(finding).toBeVisible();
});

test('a vocabulary is taken in after a preview, and written again', async ({ page }) => {
  const file = join(demo.home, 'boats.ttl');
  await writeFile(
    file,
    `@prefix skos: <http://www.w3.org/2004/02/skos/core#> . @prefix dct: <http://purl.org/dc/terms/> .
     <urn:boats> a skos:ConceptScheme ; dct:title "Boats"@en .
     <urn:boats/1> a skos:Concept ; skos:topConceptOf <urn:boats> ; skos:prefLabel "boat"@en, "Boot"@de .
     <urn:boats/2> a skos:Concept ; skos:broader <urn:boats/1> ; skos:prefLabel "punt"@en ; skos:scopeNote "Flat-bottomed."@en .`,
  );
  await signInTo(demo, page, 'keeper', '/vocabulary');
  await page.getByRole('button', { name: 'Import' }).click();
  await page.getByLabel('File of a vocabulary').setInputFiles(file);
  await expect(page.getByText('“Boats”, SKOS, Turtle: 2 terms.')).toBeVisible();
  await expect(page.getByRole('button', { name: '2 new' })).toBeVisible();
  await page.getByRole('button', { name: 'Take in 2 terms' }).click();
  await expect(page.getByText('Take in a vocabulary: 2 terms new').first()).toBeVisible();
  await expect(row(page, 'boat')).toBeVisible();

  await page.getByRole('button', { name: 'Export' }).click();
  await choose(page, page.getByRole('combobox', { name: 'Vocabulary' }), 'Boats (2 terms)');
  await page.getByRole('radio', { name: /Indented text/ }).check();
  const download = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Download' }).click();
  const stream = await (await download).createReadStream();
  const chunks: Buffer[] = [];
  for await (const chunk of stream) chunks.push(chunk as Buffer);
  expect(Buffer.concat(chunks).toString()).toBe('# Boats\nboat = !Boot @de\n\tpunt\n');
});

test('a pad gives and takes terms by single keys, and its keys can be filled', async ({ page }) => {
  await signInTo(demo, page, 'keeper', '/desk?q=missing%3Aterms');
  await photo(page, 0).click();
  await page.keyboard.press('Shift+T');
  const pad = page.getByRole('region', { name: 'Term pad' });
  await pad.getByRole('button', { name: 'Festival' }).click();
  const chips = page.getByRole('list', { name: 'Terms of the chosen photos' });
  await page.keyboard.press('q');
  await expect(chips).toContainText('Rokkaku');
  await expect(pad.getByRole('button', { name: 'Q: Rokkaku' })).toHaveAttribute('aria-pressed', 'true');
  await page.keyboard.press('q');
  await expect(chips).toContainText('No terms yet');
  await page.keyboard.press('l');
  await page.getByRole('combobox', { name: 'Term for the key L' }).fill('sled');
  await expect(page.getByRole('option', { name: /Sled/ })).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(pad.getByRole('button', { name: 'L: Sled' })).toBeVisible();
  await photo(page, 0).click();
  await page.keyboard.press('l');
  await expect(chips).toContainText('Sled');
  // Closed, the keys mean what they meant before.
  await page.keyboard.press('Shift+T');
  await page.keyboard.press('l');
  await expect(chips).toContainText('Sled');
  await expect(page.getByRole('group', { name: 'Vocabulary' })).toBeVisible();
  await page.getByRole('button', { name: 'Take Sled off' }).click();
});

test('a term dragged onto a photo is given to it', async ({ page }) => {
  await signInTo(demo, page, 'cataloguer', '/desk?q=missing%3Aterms');
  const name = await photo(page, 1).getAttribute('aria-label');
  // While nothing is chosen the drawer is folded.
  await page.getByRole('button', { name: 'Open', exact: true }).click();
  await row(page, 'Events').click();
  await drag(page, row(page, 'Museum night'), photo(page, 1));
  await expect(page.getByText('Give “Museum night” to 1 photo').first()).toBeVisible();
  await page.getByRole('button', { name: 'Undo: Give “Museum night” to 1 photo' }).click();
  await expect(page.getByRole('option', { name: name ?? '' }).first()).toBeVisible();
});

test('what a cataloguer proposes while typing, a keeper accepts, and the photos have it', async ({ page }) => {
  await signInTo(demo, page, 'cataloguer', '/desk?q=missing%3Aterms');
  await photo(page, 0).click();
  await page.keyboard.press('t');
  await page.keyboard.type('Storm damage');
  await page.getByRole('option', { name: 'Propose “Storm damage” as a new term …' }).click();
  await page.getByLabel('Below which term').fill('coll');
  await page.getByRole('option', { name: /^Collecting and museum work/ }).click();
  await page.getByRole('button', { name: 'Propose', exact: true }).click();
  await expect(page.getByRole('list', { name: 'Terms of the chosen photos' })).toContainText('Storm damage');
  await page.context().clearCookies();

  await signInTo(demo, page, 'keeper', '/vocabulary?show=proposals');
  const proposal = page.getByRole('listitem', { name: 'Proposal Storm damage' });
  await expect(proposal).toContainText('1 photo');
  await proposal.getByRole('button', { name: 'Accept' }).click();
  await expect(proposal).toBeHidden();
  await page.goto(`${demo.url}/desk?q=${encodeURIComponent('term:"Storm damage"')}`);
  await expect(found(page)).toContainText('1 photo');
});

test('a keeper who types an unknown term creates it on the spot', async ({ page }) => {
  await signInTo(demo, page, 'keeper', '/desk?q=missing%3Aterms');
  await photo(page, 1).click();
  await page.keyboard.press('t');
  await page.keyboard.type('Squall');
  await page.getByRole('option', { name: 'Create “Squall” as a new term …' }).click();
  await page.getByLabel('Below which term').fill('coll');
  await page.getByRole('option', { name: /^Collecting and museum work/ }).click();
  await page.getByRole('button', { name: 'Create', exact: true }).click();
  await expect(page.getByRole('list', { name: 'Terms of the chosen photos' })).toContainText('Squall');
  await expect(row(page, 'Squall')).toBeVisible();
  await page.goto(`${demo.url}/ledger`);
  await page.getByRole('button', { name: /^Add the term “Squall” below .*, given to 1 photo$/ }).click();
  const entry = page.getByRole('dialog');
  await expect(
    entry.getByRole('row', { name: /Term “Squall” Broader term – Collecting and museum work/ }),
  ).toBeVisible();
  await entry.getByRole('button', { name: 'Take back' }).click();
  await expect(entry).toBeHidden();
  await page.goto(`${demo.url}/desk?q=${encodeURIComponent('term:Squall')}`);
  await expect(found(page)).toContainText('0 photos');
});

test('axe finds nothing serious on the parts of the screen', async ({ page }) => {
  await signInTo(demo, page, 'keeper', '/vocabulary');
  const looks: Record<string, () => Promise<void>> = {
    card: () => open(page, 'Objects', 'Kites'),
    form: () => page.getByRole('button', { name: 'Edit' }).click(),
    tree: async () => {
      await page.goto(`${demo.url}/vocabulary?view=tree`);
      await page.getByRole('button', { name: 'Unfold Objects' }).click();
    },
    findings: async () => {
      await page.goto(`${demo.url}/vocabulary?show=unused`);
      await expect(page.getByRole('button', { name: 'Remove' }).first()).toBeVisible();
    },
    proposals: async () => {
      await page.goto(`${demo.url}/vocabulary?show=proposals`);
      await expect(page.getByRole('button', { name: 'Accept' }).first()).toBeVisible();
    },
    found: () => page.getByLabel('Find a term').fill('kit'),
    import: () => page.getByRole('button', { name: 'Import' }).click(),
  };
  for (const [look, show] of Object.entries(looks)) {
    await show();
    expect({ look, finds: await axeFinds(page) }).toEqual({ look, finds: [] });
  }
});
