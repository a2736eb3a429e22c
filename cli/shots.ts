// `./stellin shots`: the pictures of docs/screenshots/, taken from the demo that is running or prepared.

import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { chromium, type Page } from '@playwright/test';
import { DEMO_ACCOUNTS } from '@stellin/server/accounts/demoAccounts';
import { CHROMIUM } from '@stellin/e2e/chromium';
import { readConfig } from '@stellin/server/config';
import { ROOT } from '@stellin/server/root';
import { ensureInstalled, NEEDS } from './debian';
import { step } from './steps';

const FOLDER = join(ROOT, 'docs', 'screenshots');
const SIZE = { width: 1280, height: 800 };

/** Each picture: its name, and what is done on the screen before it is taken. */
const SHOTS: Record<string, (page: Page, url: string) => Promise<void>> = {
  async desk(page, url) {
    await page.goto(`${url}/desk?q=${encodeURIComponent('term:"Single-line kites"')}&sort=taken-desc`);
    await page.locator('[data-photo]').nth(2).click();
    await page
      .locator('[data-photo]')
      .nth(4)
      .click({ modifiers: ['Shift'] });
    for (const label of ['Objects', 'Kites', 'Single-line kites']) {
      await page
        .getByRole('treeitem', { name: new RegExp(`^${label},`) })
        .first()
        .click();
    }
    await page.getByRole('list', { name: 'Terms of the chosen photos' }).waitFor();
  },
  async narrow(page, url) {
    await page.goto(`${url}/desk?q=${encodeURIComponent('term:Kites (kind:tiff or kind:jpeg)')}`);
    await page.getByRole('tab', { name: 'Narrow' }).click();
    await page.getByRole('button', { name: 'Narrower terms of Objects' }).click();
    await page
      .getByRole('button', { name: /^Kites \d/ })
      .first()
      .waitFor();
  },
  async deliver(page, url) {
    await page.goto(`${url}/deliver?q=${encodeURIComponent('drive:"Vault 1" kind:jpeg term:Kites')}&sort=taken`);
    await page.getByRole('button', { name: 'Press', exact: true }).click();
    await page
      .getByRole('cell', { name: /saltmarsh_/ })
      .first()
      .waitFor();
    await page.waitForLoadState('networkidle');
  },
  async 'view-link'(page, url) {
    await page.goto(`${url}/deliver?q=${encodeURIComponent('festival kind:jpeg')}&sort=taken`);
    await page.getByRole('button', { name: 'View link …' }).click();
    await page.getByRole('textbox', { name: /^Title/ }).fill('Festivals of fifteen years');
    await page.getByRole('button', { name: 'Make the link' }).click();
    await page.goto(await page.getByLabel('Address').inputValue());
  },
  async places(page, url) {
    await page.goto(`${url}/places`);
    await page.getByText(/^\d+ photos in sight of/).waitFor();
    await page.getByRole('checkbox', { name: /Round the island/ }).click();
    await page.getByRole('checkbox', { name: /^Chart of Norland/ }).click();
    await page.getByRole('button', { name: 'Farther' }).click();
    await page.waitForLoadState('networkidle');
  },
  async holdings(page, url) {
    await page.goto(`${url}/holdings`);
    await page.getByRole('link', { name: /^Without terms/ }).waitFor();
  },
  async team(page, url) {
    await page.goto(`${url}/team`);
    await page.getByText('Saturday volunteers').first().waitFor();
  },
  async projects(page, url) {
    await page.goto(`${url}/projects`);
    await page.getByRole('row', { name: /^Insurance value/ }).waitFor();
    await page.getByRole('link', { name: /^Dear and away/ }).waitFor();
  },
  async calendar(page, url) {
    await page.goto(`${url}/desk`);
    await page.getByText(/^\d+ undated/).waitFor();
    await page.keyboard.press('Shift+K');
    await page
      .getByRole('button', { name: /^Name / })
      .first()
      .waitFor();
    await page.waitForLoadState('networkidle');
  },
  async intake(page, url) {
    await page.goto(`${url}/intake`);
    await page.getByRole('button', { name: /^Take in/ }).waitFor();
  },
  async keywords(page, url) {
    await page.goto(`${url}/intake/keywords`);
    await page.getByRole('button', { name: /^in another language/ }).click();
    await page.getByRole('button', { name: 'Use the proposals' }).click();
    await page.getByRole('button', { name: /^All/ }).click();
  },
  async viewer(page, url) {
    await page.goto(`${url}/desk?q=${encodeURIComponent('drive:"Vault 1" faces:>=3 has:people')}`);
    await page.locator('[data-photo]').nth(1).dblclick();
    await page.getByRole('region', { name: 'Viewer' }).getByRole('listitem').first().waitFor();
  },
  async fields(page, url) {
    await page.goto(`${url}/desk?q=${encodeURIComponent('drive:"Vault 2" term:Events')}`);
    await page.locator('[data-photo]').nth(2).click();
    await page
      .locator('[data-photo]')
      .nth(6)
      .click({ modifiers: ['Shift'] });
    await page.getByRole('tab', { name: 'Fields' }).click();
    await page.getByRole('radio', { name: /^Content/ }).click();
    await page
      .getByRole('tabpanel')
      .getByLabel(/^Headline/)
      .fill('Kites over the sands');
    await page.getByRole('button', { name: 'Look at 5 photos …' }).waitFor();
  },
  async people(page, url) {
    await page.goto(`${url}/people`);
    await page
      .getByRole('button', { name: /^Face in/ })
      .first()
      .waitFor();
    await page.waitForLoadState('networkidle');
  },
  async doubles(page, url) {
    await page.goto(`${url}/intake/doubles`);
    await page.getByRole('tab', { name: 'Look alike' }).click();
    await page.getByRole('radiogroup').first().waitFor();
  },
  async vocabulary(page, url) {
    await page.goto(`${url}/vocabulary`);
    for (const label of ['Objects', 'Kites', 'Single-line kites', 'Bowed kites', 'Rokaku'])
      await page.getByRole('treeitem', { name: new RegExp(`^${label},`) }).click();
    await page.getByRole('article', { name: 'Card of Rokaku' }).waitFor();
    await page.keyboard.press('g');
    await page.getByLabel('Merge into').fill('rokkaku');
    await page.getByRole('option', { name: /^Rokkaku Objects/ }).click();
    await page.getByRole('button', { name: /^Merge: / }).waitFor();
  },
  async player(page, url) {
    await page.goto(`${url}/desk?q=${encodeURIComponent('media:film')}`);
    await page.locator('[data-photo]').first().dblclick();
    const length = page.getByRole('slider', { name: 'Place in the recording' });
    await length.click({ position: { x: 400, y: 20 } });
    await length.hover({ position: { x: 900, y: 20 } });
  },
  async 'write-back'(page, url) {
    await page.goto(`${url}/write-back`);
    await page.getByText('What will be written').waitFor();
  },
  async ledger(page, url) {
    await page.goto(`${url}/ledger`);
    await page.getByRole('table').waitFor();
  },
};

/** Whether the pictures in sight have come; asked in the page, which evaluates no text. */
function picturesAreThere(): boolean {
  const { document, innerHeight, innerWidth } = globalThis as unknown as PageWithPictures;
  return [...document.images].every((image) => {
    const { top, left } = image.getBoundingClientRect();
    return image.complete || top > innerHeight || left > innerWidth;
  });
}
interface PageWithPictures {
  document: { images: Iterable<{ complete: boolean; getBoundingClientRect: () => { top: number; left: number } }> };
  innerHeight: number;
  innerWidth: number;
}

/** Takes all pictures; the demo has to be running. */
export async function shots(): Promise<number> {
  const { port } = readConfig();
  const url = `http://127.0.0.1:${port}`;
  await fetch(`${url}/api/session`).catch(() => {
    throw new Error(`nothing answers at ${url}: start ./stellin demo first`);
  });
  await ensureInstalled([NEEDS.chromium]);
  mkdirSync(FOLDER, { recursive: true });
  const browser = await chromium.launch(CHROMIUM);
  try {
    const page = await browser.newPage({ viewport: SIZE });
    await signIn(page, url);
    for (const [name, prepare] of Object.entries(SHOTS)) {
      await step(`docs/screenshots/${name}.png`, async () => {
        await prepare(page, url);
        await page.waitForLoadState('networkidle');
        // Pictures of faces are cut out when they are first asked for.
        await page.waitForFunction(picturesAreThere);
        await page.screenshot({ path: join(FOLDER, `${name}.png`) });
      });
    }
  } finally {
    await browser.close();
  }
  return 0;
}

async function signIn(page: Page, url: string): Promise<void> {
  const [keeper] = DEMO_ACCOUNTS;
  await page.goto(url);
  await page.getByLabel('Name').fill(keeper?.name ?? '');
  await page.getByLabel('Password').fill(keeper?.password ?? '');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await page.getByRole('link', { name: 'Desk' }).waitFor();
}
