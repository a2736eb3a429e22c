import { readFile } from 'node:fs/promises';
import { expect, test, type Locator, type Page } from '@playwright/test';
import { ownDemo } from './ownDemo';
import { axeFinds, found, signInTo } from './screen';

const demo = ownDemo();

const plan = (page: Page) => page.getByRole('application', { name: /^Site plan/ });
const strip = (page: Page) => page.getByRole('region', { name: 'Photos of the result' });
const pin = (page: Page, name: string) => page.getByRole('button', { name: new RegExp(`^Pin ${name},`) });
const panel = (page: Page, name: string) => page.getByRole('region', { name });

/** Opens one of the plans of the museum. */
async function open(page: Page, name: string): Promise<void> {
  await signInTo(demo, page, 'keeper', '/places/plans');
  await page.getByRole('button', { name: new RegExp(`^${name}`) }).click();
  await expect(page.getByRole('application', { name: new RegExp(`^Site plan ${name}`) })).toBeVisible();
}

async function middleOf(element: Locator): Promise<{ x: number; y: number }> {
  const box = await element.boundingBox();
  if (!box) throw new Error('it is not there');
  return { x: box.x + box.width / 2, y: box.y + box.height / 2 };
}

async function fromTo(page: Page, from: Locator, to: { x: number; y: number }): Promise<void> {
  const { x, y } = await middleOf(from);
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move((x + to.x) / 2, (y + to.y) / 2, { steps: 5 });
  await page.mouse.move(to.x, to.y, { steps: 5 });
  await page.mouse.up();
}

test('by keys: a pin is put in the middle, named, given a photo, found on the Desk, and taken back', async ({
  page,
}) => {
  await open(page, 'Ground floor');
  await page.getByRole('button', { name: 'Put a pin' }).press('Enter');
  await plan(page).press('Enter');
  const label = page.getByLabel('Label');
  await expect(label).toBeFocused();
  await page.keyboard.type('Loft');
  await page.keyboard.press('Enter');
  await expect(panel(page, 'Loft')).toBeVisible();
  expect(await axeFinds(page)).toEqual([]);
  await page.getByRole('button', { name: 'Look and choose' }).press('Enter');
  const before = await strip(page).getByRole('listitem').count();
  expect(before).toBeGreaterThan(0);
  await page.keyboard.press('j');
  await expect(strip(page).getByText(/^1 of/)).toBeVisible();
  await page.keyboard.press('Shift+G');
  await expect(panel(page, 'Loft').getByRole('heading', { name: '1 photo' })).toBeVisible();
  await panel(page, 'Loft').getByRole('link', { name: 'On the Desk' }).press('Enter');
  await expect(found(page)).toHaveText(/^1 /);
  expect(new URL(page.url()).searchParams.get('q')).toBe('plan:"Ground floor/Loft"');
  await page.keyboard.press('Control+z');
  await expect(found(page)).toHaveText(/^0 /);
});

test('by pointer: photos are dropped on a pin, a pin and an area are drawn and moved, layers are hidden', async ({
  page,
}) => {
  await open(page, 'Ground floor');
  const wall = pin(page, 'North wall');
  const photos = async () => Number(/, ([\d,]+) photo/.exec((await wall.getAttribute('aria-label')) ?? '')?.[1]);
  const had = await photos();
  await fromTo(page, strip(page).getByRole('listitem').first().getByRole('button'), await middleOf(wall));
  await expect.poll(photos).toBe(had + 1);
  const at = await middleOf(wall);
  await fromTo(page, wall, { x: at.x + 40, y: at.y + 30 });
  await expect.poll(async () => Math.round((await middleOf(wall)).x - at.x)).toBeGreaterThan(30);

  await page.getByRole('button', { name: 'Draw an area, corner by corner' }).click();
  const box = await plan(page).boundingBox();
  if (!box) throw new Error('there is no plan');
  // Two clicks at once would be a double one, which comes closer.
  for (const [i, [x, y]] of (
    [
      [0.3, 0.6],
      [0.45, 0.6],
      [0.4, 0.8],
    ] as const
  ).entries()) {
    await page.mouse.click(box.x + x * box.width, box.y + y * box.height);
    await expect(page.locator('span.bg-ink.rounded-full')).toHaveCount(i + 1);
  }
  await page.getByRole('button', { name: 'Close the outline' }).click();
  await expect(page.getByText('Area', { exact: true })).toBeVisible();
  await page.keyboard.type('Chalk');
  await page.getByRole('combobox', { name: 'Layer' }).fill('Ideas');
  await page.getByRole('button', { name: 'Keep it so' }).click();
  await expect(page.getByRole('list', { name: 'Pins on the layer Ideas' })).toBeVisible();
  await page.getByRole('button', { name: 'Show the layer Ideas' }).click();
  await expect(pin(page, 'Chalk')).toHaveCount(0);
});

test('two photos of a pin are laid over one another', async ({ page }) => {
  await open(page, 'Ground floor');
  await pin(page, 'Bench').click();
  for (const i of [0, 1]) await strip(page).getByRole('listitem').nth(i).getByRole('button').click();
  await panel(page, 'Bench').getByRole('button', { name: 'Put the chosen photos here' }).click();
  const photos = page.getByRole('list', { name: 'Photos at Bench' }).getByRole('button');
  await photos.nth(0).click();
  await photos.nth(1).click();
  await page.getByRole('button', { name: 'Then and now …' }).click();
  const dialog = page.getByRole('dialog', { name: 'Then and now at Bench' });
  const share = dialog.getByRole('slider', { name: 'Share of the two pictures' });
  await share.press('ArrowRight');
  await expect(share).toHaveAttribute('aria-valuenow', '51');
  expect(await axeFinds(page)).toEqual([]);
});

test('a plan is printed, its pins are taken along and taken in again; a tied one proposes', async ({ page }) => {
  await open(page, 'Kite meadow');
  const menu = page.getByRole('button', { name: 'What to do with the plan Kite meadow' });
  const file = async (entry: string) => {
    const download = page.waitForEvent('download');
    await menu.click();
    await page.getByRole('menuitem', { name: entry }).click();
    return download;
  };
  expect((await file('Print, with pictures')).suggestedFilename()).toBe('Kite meadow.pdf');
  const geojson = await file('Export the pins: GeoJSON');
  expect(geojson.suggestedFilename()).toBe('Kite meadow.geojson');
  const path = await geojson.path();
  await page.getByRole('button', { name: /^Ground floor/ }).click();
  await page.getByRole('button', { name: 'What to do with the plan Ground floor' }).click();
  await page.getByRole('menuitem', { name: 'Take in pins …' }).click();
  await page.getByLabel('File with pins').setInputFiles({
    ...{ name: 'meadow.geojson', mimeType: 'application/geo+json' },
    buffer: await readFile(path),
  });
  const dialog = page.getByRole('dialog', { name: 'Take in pins for Ground floor' });
  await expect(dialog.getByRole('status')).toHaveText('3 pins');
  expect(await axeFinds(page)).toEqual([]);
  await dialog.getByRole('button', { name: 'Put them on the plan' }).click();
  await expect(pin(page, 'Pond')).toBeVisible();

  await page.getByRole('button', { name: /^Kite meadow/ }).click();
  await menu.click();
  await page.getByRole('menuitem', { name: 'Propose pins by positions' }).click();
  const proposals = panel(page, 'Proposed by positions');
  await expect(proposals.getByRole('status')).toHaveText(/of the result/);
});

test('in the drawer a photo says its pins, and is put at the pin meant last', async ({ page }) => {
  await open(page, 'Ground floor');
  await pin(page, 'Foyer').click();
  await page.goto(`${demo.url}/desk?q=${encodeURIComponent('drive:"Vault 1" missing:plan kind:jpeg')}`);
  await page.locator('[data-photo]').first().click();
  await page.getByRole('tab', { name: 'Place & time' }).click();
  const plans = page.getByRole('region', { name: 'Site plans' });
  await expect(plans.getByText('This photo is at no pin.')).toBeVisible();
  await page.locator('[data-photo]').first().focus();
  await page.keyboard.press('Shift+G');
  await expect(page.getByText('Pin 1 photo at “Ground floor/Foyer”')).toBeVisible();
});
