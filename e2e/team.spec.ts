import { expect, test, type Page } from '@playwright/test';
import { ownDemo } from './ownDemo';
import { axeFinds, choose, found, signInTo } from './screen';

const demo = ownDemo();

const rightsOf = (page: Page, name: string) => page.getByRole('dialog', { name: `What ${name} may do` });

/** Opens what can be done with somebody, and chooses of it. */
async function menu(page: Page, who: string, item: string): Promise<void> {
  await page.getByRole('button', { name: `What can be done with ${who}` }).click();
  await page.getByRole('menuitem', { name: item }).click();
}

test('somebody is invited, chooses a password, and works; a keeper disables the account, and they are out at once', async ({
  page,
  browser,
}) => {
  await signInTo(demo, page, 'keeper', '/holdings');
  await page.getByRole('button', { name: 'Mara Olt' }).click();
  await page.getByRole('menuitem', { name: 'Team', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'Team', exact: true })).toBeVisible();
  expect(await axeFinds(page)).toEqual([]);
  await page.getByRole('button', { name: 'Invite somebody …' }).click();
  await page.getByLabel('Their name, as others see it').fill('Tove Lind');
  await page.getByLabel('Sign-in name').fill('Tove!');
  await page.keyboard.press('Enter');
  await expect(page.getByText('a sign-in name has letters', { exact: false })).toBeVisible();
  await page.getByLabel('Sign-in name').fill('tove');
  expect(await axeFinds(page)).toEqual([]);
  await page.getByRole('button', { name: 'Make the link' }).click();
  const link = await page.getByRole('textbox', { name: 'Link' }).inputValue();
  expect(await axeFinds(page)).toEqual([]);
  await page.getByRole('button', { name: 'Done' }).click();
  await expect(page.getByRole('row', { name: /^Tove Lind/ })).toContainText('invited');

  const other = await browser.newContext();
  const hers = await other.newPage();
  await hers.goto(link);
  await expect(hers.getByText('Welcome, Tove Lind', { exact: false })).toBeVisible();
  expect(await axeFinds(hers)).toEqual([]);
  const choosePassword = async (password: string) => {
    await hers.getByLabel('Password', { exact: true }).fill(password);
    await hers.getByLabel('Password again').fill(password);
    await hers.keyboard.press('Enter');
  };
  await choosePassword('password123');
  await expect(hers.getByRole('alert')).toContainText('many people use it');
  await choosePassword('nine lines out');
  await expect(found(hers)).toContainText('photos');
  await hers.goto(link);
  await expect(hers.getByRole('alert')).toContainText('This link is not good any more');

  await hers.goto(`${demo.url}/account`);
  await expect(hers.getByRole('row', { name: /this one/ })).toBeVisible();
  expect(await axeFinds(hers)).toEqual([]);
  await menu(page, 'Tove Lind', 'Disable');
  await expect(hers.getByRole('button', { name: 'Sign in' })).toBeVisible();
  await other.close();
});

test('who may see one folder finds nothing else by any means on the screen', async ({ page, browser }) => {
  await signInTo(demo, page, 'keeper', '/team');
  await menu(page, 'Elin Dorsey', 'Rights …');
  const rights = rightsOf(page, 'Elin Dorsey');
  await choose(page, rights.getByRole('combobox', { name: 'Where' }), /^a folder/);
  await rights.getByLabel('Which one').fill('Vault 1 › 2009');
  await page.getByRole('option', { name: /2009$/ }).first().click();
  expect(await axeFinds(page)).toEqual([]);
  await rights.getByRole('button', { name: 'Give the role' }).click();
  await expect(rights.getByText(/^Viewer in the folder .*2009$/)).toBeVisible();

  const other = await browser.newContext();
  const hers = await other.newPage();
  await signInTo(demo, hers, 'viewer', '/desk');
  await expect(found(hers)).toContainText(/\d/);
  const all = Number((await found(hers).textContent())?.match(/\d+/)?.[0]);
  // What she may see becomes less while she looks at it.
  await rights.getByRole('button', { name: 'Take away: Viewer everywhere' }).click();
  await expect.poll(async () => Number((await found(hers).textContent())?.match(/\d+/)?.[0])).toBeLessThan(all / 2);

  await expect(hers.getByText('Vault 2')).toHaveCount(0);
  const line = hers.getByRole('combobox', { name: 'Query' });
  await line.fill('folder:*2012*');
  await line.press('Enter');
  await expect(hers.getByText('0 photos', { exact: false }).first()).toBeVisible();
  await line.fill('within:"Vault 2"');
  await line.press('Enter');
  await expect(hers.getByText('0 photos', { exact: false }).first()).toBeVisible();
  await hers.goto(`${demo.url}/people`);
  await expect(hers.getByText('Likeness groups')).toHaveCount(0);
  // Places of work that she may not do are not there, and lead to the Desk.
  await expect(hers.getByRole('link', { name: 'Intake' })).toHaveCount(0);
  await hers.goto(`${demo.url}/team`);
  await expect(found(hers)).toBeVisible();
  expect(await axeFinds(hers)).toEqual([]);
  await other.close();
});

test('by keys: a role of the team’s own is made, a team holds it, and the last keeper can’t be disabled', async ({
  page,
}) => {
  await signInTo(demo, page, 'keeper', '/team');
  await page.getByRole('button', { name: 'New role …' }).focus();
  await page.keyboard.press('Enter');
  await page.keyboard.type('Summer helper');
  await page.getByRole('checkbox', { name: /^Describe/ }).focus();
  await page.keyboard.press('Space');
  expect(await axeFinds(page)).toEqual([]);
  await page.getByRole('button', { name: 'Make the role' }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('columnheader', { name: /Summer helper/ })).toBeVisible();

  await page.getByRole('button', { name: 'New team …' }).focus();
  await page.keyboard.press('Enter');
  await page.keyboard.type('Summer helpers');
  await page.getByRole('checkbox', { name: /^Elin Dorsey/ }).focus();
  await page.keyboard.press('Space');
  await page.getByRole('button', { name: 'Make the team' }).focus();
  await page.keyboard.press('Enter');
  await menu(page, 'the team Summer helpers', 'Rights …');
  const rights = rightsOf(page, 'the team Summer helpers');
  await choose(page, rights.getByRole('combobox', { name: 'Role' }), 'Summer helper');
  await rights.getByRole('button', { name: 'Give the role' }).focus();
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('row', { name: /^Elin Dorsey/ })).toContainText(
    'Summer helper everywhere, as Summer helpers',
  );

  await menu(page, 'Signe Holt', 'Disable');
  await menu(page, 'Mara Olt', 'Disable');
  await expect(page.getByText('nobody would be left who may administer', { exact: false })).toBeVisible();
});
