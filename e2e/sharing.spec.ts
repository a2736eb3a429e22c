import { expect, test, type Page } from '@playwright/test';
import { ownDemo } from './ownDemo';
import { axeFinds, photo, signInTo } from './screen';

const demo = ownDemo();
const desk = (query: string) => `/desk?q=${encodeURIComponent(query)}`;

/** Makes a view link of two photos from the Desk on; returns its address. */
async function makeLink(page: Page, fill: (dialog: ReturnType<Page['getByRole']>) => Promise<void>): Promise<string> {
  await signInTo(demo, page, 'keeper', desk('drive:"Vault 1" kind:jpeg'));
  await photo(page, 0).click();
  await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('Shift+X');
  await page.getByRole('button', { name: 'View link …' }).press('Enter');
  const dialog = page.getByRole('dialog', { name: 'View link' });
  await fill(dialog);
  expect(await axeFinds(page)).toEqual([]);
  await dialog.getByRole('button', { name: 'Make the link' }).press('Enter');
  return page.getByRole('dialog', { name: 'The link is made' }).getByLabel('Address').inputValue();
}

test('a link is made by keys; somebody without an account looks through it on a phone without scripts, until it is revoked', async ({
  page,
  browser,
}) => {
  const address = await makeLink(page, async (dialog) => {
    await dialog.getByRole('textbox', { name: /^Title/ }).fill('Kites for Ida');
    await dialog.getByRole('textbox', { name: 'For whom' }).fill('Ida Brandt');
    await dialog.getByRole('checkbox', { name: 'Pictures may be downloaded' }).press('Space');
    await dialog.getByRole('checkbox', { name: /Who looks may answer/ }).press('Space');
  });
  const phone = await browser.newContext({ viewport: { width: 390, height: 844 }, javaScriptEnabled: false });
  const guest = await phone.newPage();
  await guest.goto(address);
  await expect(guest.getByRole('heading', { name: 'Kites for Ida' })).toBeVisible();
  await expect(guest.getByText('2 pictures')).toBeVisible();
  await guest.getByRole('listitem').first().getByRole('link').press('Enter');
  await expect(guest.getByText('1 of 2')).toBeVisible();
  const large = guest.getByRole('figure').getByRole('img');
  await expect(large).toBeVisible();
  await guest.getByRole('link', { name: 'Next' }).press('Enter');
  await expect(guest.getByText('2 of 2')).toBeVisible();
  const file = guest.waitForEvent('download');
  await guest.getByRole('link', { name: 'Download' }).press('Enter');
  expect((await file).suggestedFilename()).toBe('picture.jpg');
  // Nothing of ours is let in by it.
  expect((await guest.request.get(`${demo.url}/api/photos`)).status()).toBe(401);

  const seeing = await (await browser.newContext()).newPage();
  await seeing.goto(address);
  expect(await axeFinds(seeing)).toEqual([]);
  await seeing.getByRole('link', { name: 'Slide show' }).click();
  await expect(seeing.getByRole('link', { name: 'Stop' })).toBeVisible();
  expect(await axeFinds(seeing)).toEqual([]);

  // What they say waits for the team, and changes nothing by itself.
  await guest.getByRole('radio', { name: 'A remark' }).check();
  await guest.getByRole('textbox', { name: 'Your words' }).fill('This was in the summer of 1962.');
  await guest.getByRole('textbox', { name: 'Your name' }).fill('Ida');
  await guest.getByRole('button', { name: 'Send' }).press('Enter');
  await expect(guest.getByRole('status')).toHaveText('Thank you, it was sent.');

  await page.goto(`${demo.url}/deliver/links`);
  const answer = page.getByRole('listitem', { name: 'A remark, from Ida' });
  expect(await axeFinds(page)).toEqual([]);
  await answer.getByRole('button', { name: 'Add to the caption' }).press('Enter');
  await expect(answer).toBeHidden();

  const row = page.getByRole('row', { name: /Kites for Ida/ });
  await expect(row).toContainText('Ida Brandt');
  await expect(row).toContainText('2');
  expect(await axeFinds(page)).toEqual([]);
  await row.getByRole('button', { name: 'Revoke Kites for Ida' }).press('Enter');
  await expect(row).toContainText('revoked');
  await guest.reload();
  await expect(guest.getByRole('heading', { name: 'There is nothing here' })).toBeVisible();
});

test('a password is asked for, and opens the link', async ({ page, browser }) => {
  const address = await makeLink(page, async (dialog) => {
    await dialog.getByRole('textbox', { name: /^Title/ }).fill('With a password');
    await dialog.getByRole('textbox', { name: 'Password' }).fill('tern over dunes');
  });
  const guest = await (await browser.newContext()).newPage();
  await guest.goto(address);
  await guest.getByLabel('Password').fill('kite');
  await guest.getByLabel('Password').press('Enter');
  await expect(guest.getByRole('alert')).toHaveText('That is not the password.');
  expect(await axeFinds(guest)).toEqual([]);
  await guest.getByLabel('Password').fill('tern over dunes');
  await guest.getByLabel('Password').press('Enter');
  await expect(guest.getByRole('heading', { name: 'With a password' })).toBeVisible();
});

test('a link goes by mail to somebody from the address book, by keys, and is read in the stand-in box by who got it', async ({
  page,
  browser,
}) => {
  await makeLink(page, async (dialog) => {
    await dialog.getByRole('textbox', { name: /^Title/ }).fill('Kites by mail');
    await dialog.getByRole('checkbox', { name: 'Where they were taken, on a map' }).press('Space');
  });
  await page.getByRole('button', { name: 'Send by mail …' }).press('Enter');
  const letter = page.getByRole('dialog', { name: 'Send “Kites by mail” by mail' });
  const to = letter.getByRole('combobox', { name: /^To/ });
  await to.fill('Edda Quill <edda@island.example>');
  await to.press('Enter');
  await to.fill('gone@nobody.example');
  await to.press('Enter');
  await expect(letter.getByRole('region', { name: 'How it will look' })).toContainText('Dear Edda Quill');
  expect(await axeFinds(page)).toEqual([]);
  await letter.getByRole('button', { name: 'Send', exact: true }).press('Enter');
  await expect(letter).toBeHidden();

  await page.goto(`${demo.url}/deliver/mail`);
  await expect(page.getByRole('row', { name: /edda@island.example.* sent / })).toBeVisible();
  await expect(page.getByRole('row', { name: /gone@nobody.example.*came back/ })).toContainText('no such mailbox');
  expect(await axeFinds(page)).toEqual([]);
  const box = page.getByRole('region', { name: 'Stand-in mail box' });
  await box.getByText('Kites by mail').first().click();
  const said = (await box.getByText('Dear Edda Quill').textContent()) ?? '';
  const address = /http\S+\/v\/\S+/.exec(said)?.[0] ?? '';
  const guest = await (await browser.newContext()).newPage();
  await guest.goto(address);
  await expect(guest.getByRole('heading', { name: 'Kites by mail' })).toBeVisible();
  await guest.getByRole('link', { name: 'On a map' }).press('Enter');
  await expect(guest.getByRole('heading', { name: 'Kites by mail: on a map' })).toBeVisible();
  expect(await axeFinds(guest)).toEqual([]);

  // Who was written to once is offered from then on.
  await page.goto(`${demo.url}/deliver/links`);
  await page.getByRole('button', { name: 'New address for Kites by mail' }).press('Enter');
  await page.getByRole('button', { name: 'Send by mail …' }).press('Enter');
  await page.getByRole('combobox', { name: /^To/ }).pressSequentially('edda');
  await expect(page.getByRole('option', { name: /Edda Quill/ })).toBeVisible();
});
