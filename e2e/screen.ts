// What tests of the interface do on any screen.

import AxeBuilder from '@axe-core/playwright';
import { expect, type BrowserContext, type Locator, type Page } from '@playwright/test';
import type { RunningDemo } from './demo';

type Cookies = Parameters<BrowserContext['addCookies']>[0];
const sessions = new Map<string, Cookies>();

/** Signs in without the form, which e2e/path.spec.ts goes through, and opens a screen. */
export async function signInTo(demo: RunningDemo, page: Page, name = 'cataloguer', path = '/'): Promise<void> {
  // A session that is there already is used again: one may not try to sign in as often as one likes.
  const known = sessions.get(`${demo.url} ${name}`);
  if (known) await page.context().addCookies(known);
  const signedIn = known && (await (await page.request.get(`${demo.url}/api/session`)).json());
  if (!signedIn) {
    const data = { name, password: `saltmarsh-${name}` };
    expect((await page.request.post(`${demo.url}/api/session`, { data })).ok()).toBe(true);
    sessions.set(`${demo.url} ${name}`, await page.context().cookies());
  }
  await page.goto(`${demo.url}${path}`);
  await expect(page.getByRole('navigation', { name: 'Places' }).getByRole('link', { name: 'Desk' })).toBeVisible();
}

/** How many photos the Desk has found, as it says. */
export const found = (page: Page): Locator => page.getByTestId('found');
export const photo = (page: Page, index: number): Locator => page.locator('[data-photo]').nth(index);

/** The slot of the bay in which a drive is, as Intake shows it, below the demo's data folder. */
export async function folderOf(page: Page, label: string): Promise<string> {
  await page
    .getByRole('button', { name: new RegExp(`^${label}`) })
    .first()
    .click();
  const shown = page.getByText(/\/drives\/bay-\d$/);
  await expect(page.getByRole('heading', { name: label, level: 1 })).toBeVisible();
  return (await shown.textContent()) ?? '';
}

/** What axe finds serious or worse, by all its rules or by some. Messages that come and go are left aside: half faded they have no contrast. */
export async function axeFinds(page: Page, rules?: readonly string[]): Promise<string[]> {
  const builder = new AxeBuilder({ page })
    .exclude('[data-sonner-toaster]')
    // There are no frames, for which it would open a page of its own.
    .setLegacyMode()
    // What is right is not listed: that takes most of the time.
    .options({
      resultTypes: ['violations'],
      preload: false,
      ...(rules && { runOnly: { type: 'rule', values: [...rules] } }),
    });
  const { violations } = await builder.analyze();
  return violations
    .filter(({ impact }) => impact === 'serious' || impact === 'critical')
    .flatMap(({ id, nodes }) => nodes.map(({ html }) => `${id}: ${html}`));
}

/** Chooses from a list that opens, by the label of what is wanted or its beginning. */
export async function choose(page: Page, list: Locator, option: string | RegExp): Promise<void> {
  await list.click();
  await page.getByRole('option', { name: option, exact: true }).click();
}

/** Drags something onto a place and drops it there once the place shows that it takes it. */
export async function drag(page: Page, from: Locator, to: Locator): Promise<void> {
  await to.scrollIntoViewIfNeeded();
  await from.hover();
  await page.mouse.down();
  const [start, end] = [await from.boundingBox(), await to.boundingBox()];
  if (!start || !end) throw new Error('what is dragged, or the place, is not there');
  await page.mouse.move(start.x + start.width / 2, start.y + start.height / 2 + 10, { steps: 3 });
  await page.mouse.move(end.x + end.width / 2, end.y + end.height / 2, { steps: 10 });
  await expect(page.locator('[data-over]')).toHaveCount(1);
  await page.mouse.up();
}
