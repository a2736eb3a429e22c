// What tests of the interface do on any screen.

import AxeBuilder from '@axe-core/playwright';
import { expect, type Locator, type Page } from '@playwright/test';
import type { RunningDemo } from './demo';

export async function signInTo(demo: RunningDemo, page: Page, name = 'cataloguer', path = '/'): Promise<void> {
  await page.goto(`${demo.url}${path}`);
  await page.getByLabel('Name').fill(name);
  await page.getByLabel('Password').fill(`saltmarsh-${name}`);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('link', { name: 'Desk' })).toBeVisible();
}

/** How many photos the Desk has found, as it says. */
export const found = (page: Page): Locator => page.getByTestId('found');
export const photo = (page: Page, index: number): Locator => page.locator('[data-photo]').nth(index);

/** What axe finds serious or worse. Messages that come and go are left aside: half faded they have no contrast. */
export async function axeFinds(page: Page): Promise<string[]> {
  const { violations } = await new AxeBuilder({ page })
    .exclude('[data-sonner-toaster]')
    // What is right is not listed: that takes most of the time.
    .options({ resultTypes: ['violations'], preload: false })
    .analyze();
  return violations
    .filter(({ impact }) => impact === 'serious' || impact === 'critical')
    .flatMap(({ id, nodes }) => nodes.map(({ html }) => `${id}: ${html}`));
}
