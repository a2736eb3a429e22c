import { expect, test, type Page } from '@playwright/test';
import { ownDemo } from './ownDemo';
import { axeFinds, found, signInTo } from './screen';

const demo = ownDemo();

const map = (page: Page) => page.getByRole('application', { name: /^Map/ });
const strip = (page: Page) => page.getByRole('region', { name: 'Photos of the result' });
const inSight = (page: Page) => page.getByText(/photos? in sight of/);

async function openPlaces(page: Page, query = ''): Promise<void> {
  await signInTo(demo, page, 'keeper', `/places?q=${encodeURIComponent(query)}`);
  await expect(map(page)).toBeVisible();
  await expect(inSight(page)).toBeVisible();
}

test('a photo dragged onto the map is placed there, found there, and back again', async ({ page }) => {
  await openPlaces(page, 'missing:location');
  const photo = strip(page).getByRole('listitem').first().getByRole('button');
  await expect(photo).toBeVisible();
  const name = (await photo.getAttribute('aria-label')) ?? '';
  await page.getByLabel('Find a place').fill('kite mead');
  await expect(page.getByRole('option', { name: /Kite meadow/ })).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(page.getByText('Kite meadow', { exact: true }).last()).toBeVisible();
  await page.getByRole('button', { name: 'Not here' }).click();
  // The map has the meadow in its middle now.
  await expect(page.getByText('0 photos in sight of')).toBeVisible();
  const [from, to] = [await photo.boundingBox(), await map(page).boundingBox()];
  if (!from || !to) throw new Error('there is nothing to drag');
  await page.mouse.move(from.x + 10, from.y + 10);
  await page.mouse.down();
  await page.mouse.move(from.x + 30, from.y - 40, { steps: 4 });
  await page.mouse.move(to.x + to.width / 2, to.y + to.height / 2, { steps: 6 });
  await page.mouse.up();
  const panel = page.getByRole('region', { name: 'Place here' });
  await expect(panel.getByText('Kite meadow')).toBeVisible();
  expect(await axeFinds(page)).toEqual([]);
  await panel.getByRole('button', { name: 'Place 1 photo' }).click();
  await expect(panel).toBeHidden();
  // It has a place now, and is none of this list any more.
  await expect(strip(page).getByRole('button', { name, exact: true })).toHaveCount(0);
  await page.goto(`${demo.url}/desk?q=${encodeURIComponent(`name:"${name}" place:"Kite meadow" has:position`)}`);
  await expect(found(page)).toContainText('1 photo');
  await page.getByRole('button', { name: /^Undo: / }).click();
  await expect(found(page)).toContainText('0 photos');
});

test('by keys: photos are chosen, a place is typed, and they are placed', async ({ page }) => {
  await openPlaces(page, 'missing:location');
  const first = strip(page).getByRole('listitem').first().getByRole('button');
  await first.focus();
  await page.keyboard.press('Space');
  await expect(first).toHaveAttribute('aria-pressed', 'true');
  await page.getByLabel('Find a place').focus();
  await page.keyboard.type('hask');
  await expect(page.getByRole('option', { name: /Hask Hill/ })).toBeVisible();
  await page.keyboard.press('Enter');
  const place = page.getByRole('button', { name: 'Place 1 photo' });
  await expect(place).toBeEnabled();
  await place.focus();
  await page.keyboard.press('Enter');
  await expect(place).toBeHidden();
  await page.getByRole('button', { name: /^All photos/ }).click();
  await expect(inSight(page)).toHaveText(/^\d\d photos/);
  await map(page).focus();
  // The map is moved on until nothing is in sight any more, also where it was still on its way to where they all are.
  await expect
    .poll(async () => {
      await page.keyboard.press('ArrowRight');
      return inSight(page).textContent();
    })
    .toMatch(/^0 photos/);
});

test('photos follow a track once the clock is put right', async ({ page }) => {
  await openPlaces(page, 'missing:position taken:>=2000');
  await page.getByRole('checkbox', { name: /Round the island/ }).click();
  await page.getByRole('button', { name: /^Match photos with 1 track/ }).click();
  const dialog = page.getByRole('dialog', { name: 'Match photos with tracks' });
  const place = dialog.getByRole('button', { name: /^Place \d+ photos?$/ });
  await expect(place).toBeVisible();
  await dialog.getByLabel('and were behind by').fill('24:00');
  await expect(dialog.getByRole('button', { name: 'Nothing to place' })).toBeDisabled();
  await dialog.getByRole('button', { name: 'Take that' }).click();
  await expect(place).toBeEnabled();
  expect(await axeFinds(page)).toEqual([]);
  const text = (await place.textContent()) ?? '';
  await place.click();
  await expect(dialog).toBeHidden();
  await expect(
    page.getByRole('button', { name: `Undo: Place by 1 track: ${text.replace('Place ', '')}` }),
  ).toBeVisible();
});

test('an own place is added where the map was picked; a box on the map narrows to what is in it', async ({ page }) => {
  await openPlaces(page);
  const box = await map(page).boundingBox();
  if (!box) throw new Error('there is no map');
  await page.mouse.click(box.x + 60, box.y + box.height - 60);
  await expect(page.getByRole('region', { name: 'Place here' })).toBeVisible();
  await page.getByRole('button', { name: 'New …' }).click();
  const dialog = page.getByRole('dialog', { name: 'New place' });
  await dialog.getByLabel('Name', { exact: true }).fill('Wreck of the Wren');
  expect(await axeFinds(page)).toEqual([]);
  await dialog.getByRole('button', { name: 'Add the place' }).click();
  await expect(page.getByRole('button', { name: 'Wreck of the Wren', exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'Not here' }).click();
  await page.keyboard.down('Shift');
  await page.mouse.move(box.x + 5, box.y + 60);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width - 60, box.y + box.height - 5, { steps: 6 });
  await page.mouse.up();
  await page.keyboard.up('Shift');
  await expect(page).toHaveURL(/near%3A/);
  await page.getByRole('link', { name: 'On the Desk', exact: true }).click();
  await expect(found(page)).toHaveText(/\d+\s*photos/);
  await expect(page.getByRole('link', { name: 'On the map' })).toBeVisible();
  // What the box asks for is kept as a search like any other.
  const photos = Number(/\d+/.exec((await found(page).textContent()) ?? '')?.[0]);
  await page.getByRole('button', { name: 'Save search' }).click();
  await page.getByLabel('Name', { exact: true }).fill('In the box');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: /^In the box/ })).toContainText(String(photos));
});

test('names that no place knows are settled: from then on a place is called so, too', async ({ page }) => {
  await openPlaces(page);
  const list = page.getByRole('button', { name: /^Names no place knows \d+$/ });
  const before = Number(/\d+$/.exec((await list.textContent()) ?? '')?.[0]);
  await list.click();
  const panel = page.getByRole('region', { name: 'Names no place knows' });
  await panel.getByRole('button', { name: /Tarred shed/ }).click();
  await expect(inSight(page)).toBeVisible();
  const isCalled = panel.getByLabel('“Tarred shed” is');
  await isCalled.fill('old pi');
  await expect(page.getByRole('option', { name: /Old pier/ })).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(panel.getByRole('button', { name: /Tarred shed/ })).toHaveCount(0);
  await expect(list).toHaveText(new RegExp(`${before - 1}$`));
  await page.getByRole('button', { name: /^Undo: Change the place/ }).click();
  await expect(list).toHaveText(new RegExp(`${before}$`));
});

test('a line drawn around photos narrows to them, and the old chart lies over the map', async ({ page }) => {
  await openPlaces(page, 'place:Norland');
  await page.getByRole('checkbox', { name: 'Chart of Norland, 1874' }).click();
  await page.getByRole('slider', { name: /^How strongly Chart/ }).focus();
  await page.keyboard.press('ArrowRight');
  await page.getByRole('button', { name: 'Draw a line around photos' }).click();
  await expect(page.getByText('Draw a line around the photos')).toBeVisible();
  const box = await map(page).boundingBox();
  if (!box) throw new Error('there is no map');
  const at = (x: number, y: number) => [box.x + box.width * x, box.y + box.height * y] as const;
  await page.mouse.move(...at(0.05, 0.3));
  await page.mouse.down();
  for (const [x, y] of [
    [0.8, 0.2],
    [0.9, 0.9],
    [0.1, 0.9],
  ] as const)
    await page.mouse.move(...at(x, y), { steps: 5 });
  await page.mouse.up();
  await expect(page.getByLabel('What the map shows')).toHaveValue(/^place:Norland near:"/);
  await page.getByRole('link', { name: 'On the Desk', exact: true }).click();
  await expect(found(page)).toContainText(/[1-9]\d* photos?/);
});

test('from the calendar an event is named by keys: term, field and dossier in one step', async ({ page }) => {
  await signInTo(demo, page, 'keeper', '/desk');
  await expect(page.locator('[data-photo]').first()).toBeVisible();
  await page.keyboard.press('Shift+K');
  const calendar = page.getByRole('region', { name: 'Calendar' });
  const year = calendar.getByRole('button', { name: /^2019: \d+ photos$/ });
  await expect(year).toBeVisible();
  expect(await axeFinds(page)).toEqual([]);
  await year.focus();
  await page.keyboard.press('Enter');
  await expect(calendar.getByRole('heading', { name: '2019' })).toBeVisible();
  const name = calendar.getByRole('button', { name: /^Name .*2019/ }).first();
  await name.focus();
  await page.keyboard.press('Enter');
  const dialog = page.getByRole('dialog', { name: 'Name this event' });
  await dialog.getByLabel('Name', { exact: true }).fill('Lantern night');
  const submit = dialog.getByRole('button', { name: /^Name \d+ photos$/ });
  const photos = Number(/\d+/.exec((await submit.textContent()) ?? '')?.[0]);
  await page.keyboard.press('Enter');
  await expect(dialog).toBeHidden();
  const count = async (query: string) => {
    await page.goto(`${demo.url}/desk?q=${encodeURIComponent(query)}`);
    return expect(found(page));
  };
  for (const query of ['term:"Lantern night"', 'dossier:"Lantern night"', 'event:"Lantern night"'])
    await (await count(query)).toContainText(`${photos} photos`);
  await page.getByRole('button', { name: /^Undo: Name the event/ }).click();
  await expect(found(page)).toContainText('0 photos');
});

test('two cameras are lined up by keys, and what the second clock was wrong by is noted and taken back', async ({
  page,
}) => {
  await openPlaces(page);
  // The streets that the demo lays into its data folder are drawn, too.
  await expect(page.getByText('Norland survey (made up)')).toBeVisible();
  await page.getByRole('button', { name: 'Line up two cameras …' }).click();
  const dialog = page.getByRole('dialog', { name: 'Line up two cameras' });
  await dialog.getByRole('group', { name: /move them by a second/ }).focus();
  const said = dialog.getByRole('status');
  await dialog.getByLabel('It was behind by').fill('2:00');
  await page.keyboard.press('Enter');
  await expect(said).toContainText('was 2 h behind');
  await dialog.getByRole('group', { name: /move them by a second/ }).focus();
  await page.keyboard.press('Shift+ArrowRight');
  await expect(said).toContainText('was 2 h 1 min behind');
  expect(await axeFinds(page)).toEqual([]);
  await dialog.getByRole('button', { name: 'Only note it' }).click();
  await expect(dialog).toBeHidden();
  await expect(page.getByText('2 h 1 min behind', { exact: false })).toBeVisible();
  await page.getByRole('button', { name: /^Undo: Note the clock/ }).click();
  await expect(page.getByText('2 h 1 min behind', { exact: false })).toBeHidden();
});

test('axe finds nothing serious on the map', async ({ page }) => {
  await openPlaces(page);
  expect(await axeFinds(page)).toEqual([]);
  await page.getByRole('button', { name: /^Names from positions/ }).click();
  await expect(page.getByRole('dialog', { name: 'Names from positions' })).toBeVisible();
  expect(await axeFinds(page)).toEqual([]);
});
