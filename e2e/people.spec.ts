import { expect, test, type Page } from '@playwright/test';
import exifr from 'exifr';
import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { ownDemo } from './ownDemo';
import { axeFinds, choose, found, photo, signInTo } from './screen';

const demo = ownDemo();

const groups = (page: Page) => page.getByRole('list', { name: 'Likeness groups' }).locator(':scope > li');
const current = (page: Page) => page.locator('li[aria-current="true"]');
const heading = (page: Page) => page.getByRole('heading', { name: /likeness groups? to settle/ });
const faces = (page: Page) => current(page).getByRole('button', { name: /^Face in/ });

/** The number of groups that are to be settled. */
async function left(page: Page): Promise<number> {
  await expect(heading(page)).toBeVisible();
  return Number((await heading(page).textContent())?.replace(/\D/g, ''));
}

interface PhotoDetails {
  id: number;
  name: string;
  width: number;
  height: number;
  facts: { orientation?: number };
}

/** A photo whose pixels lie as a camera held upright stores them. */
async function turnedPhoto(page: Page): Promise<PhotoDetails> {
  const query = new URLSearchParams({ query: 'shape:portrait kind:jpeg not is:away', limit: '40' });
  const answer = (await (await page.request.get(`${demo.url}/api/photos?${query}`)).json()) as {
    photos: { id: number }[];
  };
  for (const { id } of answer.photos) {
    const details = (await (await page.request.get(`${demo.url}/api/photos/${id}`)).json()) as PhotoDetails;
    if (details.facts.orientation === 6 || details.facts.orientation === 8) return details;
  }
  throw new Error('the demo has no turned photo');
}

async function regionsIn(
  name: string,
): Promise<{ Name: string; Area: { x: number; y: number; w: number; h: number } }[]> {
  const root = join(demo.home, 'drives');
  const paths = (await readdir(root, { recursive: true })).filter((each) => each.endsWith(`/${name}`));
  return (await Promise.all(paths.map((path) => regionsAt(join(root, path))))).flat();
}

async function regionsAt(path: string): ReturnType<typeof regionsIn> {
  const read = (await exifr.parse(await readFile(path), { xmp: true, mergeOutput: false })) as {
    'mwg-rs'?: { Regions?: { RegionList?: object | object[] } };
  };
  return [read['mwg-rs']?.Regions?.RegionList ?? []].flat() as Awaited<ReturnType<typeof regionsIn>>;
}

test('groups are settled by keyboard: one face is left out, the others are named, and undo brings the group back', async ({
  page,
}) => {
  await signInTo(demo, page, 'cataloguer', '/people');
  const before = await left(page);
  // The largest group that nobody is proposed for.
  while ((await current(page).getByText('Who is this?').count()) === 0) await page.keyboard.press('ArrowDown');
  const count = await faces(page).count();
  expect(count).toBeGreaterThan(1);
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('x');
  await expect(current(page).getByText('left out')).toHaveCount(1);
  await page.keyboard.press('w');
  await expect(current(page).getByRole('combobox', { name: 'Who is this?' })).toBeFocused();
  await page.keyboard.type('Walda Wren');
  await page.keyboard.press('Enter');
  const person = page.getByRole('navigation', { name: 'Persons' }).getByRole('link', { name: /Walda Wren/ });
  await expect(person).toContainText(String(count - 1));
  // The face that was left out stands for itself now.
  await expect.poll(() => left(page)).toBe(before);
  await page.keyboard.press('Control+z');
  await expect(person).toBeHidden();
  await expect.poll(() => left(page)).toBe(before);
  await page.keyboard.press('Control+Shift+Z');
  await expect(person).toBeVisible();
});

test('a proposed name is taken with Y and refused with N; what is no face goes with O', async ({ page }) => {
  await signInTo(demo, page, 'cataloguer', '/people');
  await left(page);
  const asked = groups(page).filter({ hasText: 'in 100 sure' });
  await expect(asked.first()).toBeVisible();
  const chooseFirst = async (rows: ReturnType<typeof groups>) => {
    const row = rows.first();
    await row
      .getByRole('button', { name: /^Face in/ })
      .first()
      .click();
    await expect(row).toHaveAttribute('aria-current', 'true');
  };
  const name = (await asked.first().locator('b').first().textContent()) ?? '';
  let before = await left(page);
  await chooseFirst(asked);
  await page.keyboard.press('y');
  await expect(page.getByText(new RegExp(`Name \\d+ faces? ${name}`)).first()).toBeVisible();
  await expect.poll(() => left(page)).toBe(--before);
  if ((await asked.count()) > 0) {
    await chooseFirst(asked);
    await page.keyboard.press('n');
    await expect(page.getByText(/faces?: not /).first()).toBeVisible();
  }
  await chooseFirst(groups(page).filter({ hasText: 'Who is this?' }).last());
  await page.keyboard.press('o');
  await expect.poll(() => left(page)).toBe(--before);
});

test('find by example: filters narrow, what is found is named and gathered', async ({ page }) => {
  await signInTo(demo, page, 'cataloguer', '/people');
  await left(page);
  await groups(page)
    .first()
    .getByRole('button', { name: /^Face in/ })
    .first()
    .dblclick();
  await expect(page.getByRole('heading', { name: 'Find by example' })).toBeVisible();
  const said = page.getByText(/^\d+ faces?$/);
  const number = async () => Number((await said.textContent())?.replace(/\D/g, ''));
  await expect(said).toBeVisible();
  const answered = page.waitForResponse(
    (response) =>
      response.url().endsWith('/api/people/like') &&
      (JSON.parse(response.request().postData() ?? '{}') as { strictness?: number }).strictness === 0,
  );
  await page.getByRole('slider').press('Home');
  const wide = ((await (await answered).json()) as { faces: unknown[] }).faces.length;
  expect(wide).toBeGreaterThan(1);
  await expect.poll(number).toBe(wide);
  // Exact: only what is almost the same.
  await page.getByRole('slider').press('End');
  await expect.poll(number).toBeLessThan(wide);
  await page.getByRole('slider').press('Home');
  await expect.poll(number).toBe(wide);
  const tile = page
    .getByRole('main')
    .getByRole('button', { name: /^Face in/ })
    .first();
  const name = ((await tile.getAttribute('aria-label')) ?? '').replace('Face in ', '');
  await page.getByRole('textbox', { name: /Within/ }).fill(`name:"${name}"`);
  await expect.poll(number).toBeLessThan(wide);
  await choose(page, page.getByLabel('Named or not'), 'Not named');
  await page.getByRole('button', { name: 'Whole pictures' }).click();
  await expect(page.locator('figure').first().getByRole('link')).toBeVisible();
  await page.getByRole('button', { name: /^Gather \d+ photos? …$/ }).click();
  await page.getByLabel('Name of the dossier').fill('Alike');
  await page.keyboard.press('Enter');
  await expect(page.getByText(/Make the dossier “Alike”/).first()).toBeVisible();
});

test('a face is drawn and named on a turned photo in the viewer, written, and read back by another library', async ({
  page,
}) => {
  await signInTo(demo, page, 'keeper', '/people');
  const turned = await turnedPhoto(page);
  await page.goto(`${demo.url}/desk?q=${encodeURIComponent(`name:"${turned.name}"`)}`);
  await photo(page, 0).click();
  await page.keyboard.press('Enter');
  await page.keyboard.press('Shift+D');
  const area = page.getByRole('application', { name: 'Draw the box of a face' });
  const frame = await area.boundingBox();
  if (!frame) throw new Error('the picture is not there');
  const at = (x: number, y: number) => [frame.x + x * frame.width, frame.y + y * frame.height] as const;
  await page.mouse.move(...at(0.1, 0.2));
  await page.mouse.down();
  await page.mouse.move(...at(0.2, 0.3), { steps: 3 });
  await page.mouse.move(...at(0.3, 0.4), { steps: 3 });
  await page.mouse.up();
  const boxes = page.getByRole('region', { name: 'Viewer' }).getByRole('list', { name: 'Faces' }).getByRole('listitem');
  // What was drawn is chosen.
  await expect(page.getByRole('group', { name: 'The chosen face' })).toBeVisible();
  await page.keyboard.press('Shift+S');
  await expect(page.getByRole('combobox', { name: 'Who this face shows' }).first()).toBeFocused();
  await page.keyboard.type('Finn Tarrow');
  await page.keyboard.press('Enter');
  await expect(boxes.filter({ hasText: 'Finn Tarrow' })).toHaveCount(1);

  await page.getByRole('link', { name: /Write-back/ }).click();
  await page.getByRole('button', { name: /^Write [1-9]\d* photos on attached drives$/ }).click();
  await expect
    .poll(async () => (await regionsIn(turned.name)).some(({ Name }) => Name === 'Finn Tarrow'), { timeout: 60_000 })
    .toBe(true);
  const region = (await regionsIn(turned.name)).find(({ Name }) => Name === 'Finn Tarrow');
  // Seen at 0.2, 0.3; stored a quarter turned.
  const [x, y] = turned.facts.orientation === 6 ? [0.3, 0.8] : [0.7, 0.2];
  expect(Number(region?.Area.x)).toBeCloseTo(x, 1);
  expect(Number(region?.Area.y)).toBeCloseTo(y, 1);
});

test('the People tab says who is in the chosen photos, and searches find them', async ({ page }) => {
  await signInTo(demo, page, 'cataloguer', '/desk');
  await photo(page, 0).click();
  await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('Shift+I');
  await expect(page.getByRole('combobox', { name: 'Say who is in the chosen photos' })).toBeFocused();
  await page.keyboard.type('Orla Finch');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('list', { name: 'People in the chosen photos' })).toContainText('Orla Finch');
  await page.goto(`${demo.url}/desk?q=${encodeURIComponent('person:"Orla Finch"')}`);
  await expect(found(page)).toContainText('2 photos');
});

test('axe finds nothing serious on the screens of people', async ({ page }) => {
  await signInTo(demo, page, 'keeper', '/people');
  await left(page);
  expect(await axeFinds(page)).toEqual([]);
  for (const place of ['Names from files', 'Find by example']) {
    await page.getByRole('link', { name: new RegExp(`^${place}`) }).click();
    await expect(page.getByRole('heading', { name: place })).toBeVisible();
    expect({ place, finds: await axeFinds(page) }).toEqual({ place, finds: [] });
  }
  await page
    .getByRole('navigation', { name: 'Persons' })
    .getByRole('link', { name: /Walda Wren/ })
    .click();
  await expect(page.getByRole('heading', { name: /^Confirmed/ })).toBeVisible();
  await page.getByRole('button', { name: 'Edit …' }).click();
  expect(await axeFinds(page)).toEqual([]);
});
