import { PROGRAM } from '../catalogue/viewer';
import { openWorld, PASSWORDS, type World } from '../testing/world';
import { DEMO_ACCOUNTS } from './demoAccounts';
import { accountService, type Accounts } from './service';

let world: World;
let accounts: Accounts;
beforeEach(async () => {
  world = await openWorld({ working: false });
  ({ accounts } = world.services);
});
afterEach(() => world.close());

const signedIn = async (name: keyof typeof PASSWORDS, password = PASSWORDS[name]) => {
  const { headers } = await world.app.inject({ method: 'POST', url: '/api/session', payload: { name, password } });
  return String(headers['set-cookie']).split(';')[0] ?? '';
};
const whoIs = async (cookie: string) =>
  (await world.app.inject({ url: '/api/session', headers: { cookie } })).json<{ name: string } | null>();

test('an account is added once, with a password that is long enough', async () => {
  const account = { name: 'mara', displayName: 'Mara Olt', role: 'keeper' as const, password: 'nine lines out' };
  await accounts.add(account);
  expect((await accounts.signIn('Mara ', account.password)).account).toMatchObject({ name: 'mara' });
  expect((await accounts.list()).find(({ name }) => name === 'mara')?.role).toBe('Keeper');
  await expect(accounts.add(account)).rejects.toThrow('There is an account “mara” already.');
  await expect(accounts.add({ ...account, name: 'ole', password: 'short' })).rejects.toThrow('10 characters');
  expect((await accounts.list()).map(({ name }) => name)).toEqual(['cataloguer', 'keeper', 'mara', 'viewer']);
});

test('a password set on the machine ends all sessions of the account and no others', async () => {
  const [keeper, viewer] = [await signedIn('keeper'), await signedIn('viewer')];
  await accounts.setPassword('Keeper', 'another password');
  expect(await whoIs(keeper)).toBeNull();
  expect(await whoIs(viewer)).toMatchObject({ name: 'viewer' });
  await expect(accounts.signIn('keeper', PASSWORDS.keeper)).rejects.toThrow('do not belong together');
  expect(await whoIs(await signedIn('keeper', 'another password'))).toMatchObject({ name: 'keeper' });
  await expect(accounts.setPassword('nobody', 'another password')).rejects.toThrow('There is no account “nobody”.');
});

test('who knows the present password changes it; all sessions end, the one that asked too', async () => {
  const [here, elsewhere] = [await signedIn('viewer'), await signedIn('viewer')];
  const change = (present: string, password: string) =>
    world.app.inject({
      method: 'POST',
      url: '/api/session/password',
      headers: { cookie: here },
      payload: { present, password },
    });
  expect((await change('wrong password', 'another password')).json()).toMatchObject({
    error: { code: 'presentPasswordWrong' },
  });
  expect((await change(PASSWORDS.viewer, PASSWORDS.viewer)).json()).toMatchObject({
    error: { code: 'passwordRefused' },
  });
  expect((await change(PASSWORDS.viewer, 'short')).statusCode).toBe(400);
  expect(await whoIs(here)).toMatchObject({ name: 'viewer' });
  expect((await change(PASSWORDS.viewer, 'another password')).statusCode).toBe(200);
  expect([await whoIs(here), await whoIs(elsewhere)]).toEqual([null, null]);
  expect(await whoIs(await signedIn('viewer', 'another password'))).toMatchObject({ name: 'viewer' });
});

test('a disabled account is signed out and stays out until it is enabled; the last keeper stays', async () => {
  const viewer = await signedIn('viewer');
  await accounts.disable('viewer');
  expect(await whoIs(viewer)).toBeNull();
  await expect(accounts.signIn('viewer', PASSWORDS.viewer)).rejects.toThrow('do not belong together');
  expect((await accounts.list()).find(({ name }) => name === 'viewer')).toMatchObject({ disabled: true });
  await accounts.enable('viewer');
  await accounts.signIn('viewer', PASSWORDS.viewer);
  await expect(accounts.disable('keeper')).rejects.toThrow('nobody would be left who may administer');
  await accounts.signIn('keeper', PASSWORDS.keeper);
});

test('an archive takes no password that everybody can read; the demo does', async () => {
  const [published] = DEMO_ACCOUNTS;
  if (!published) throw new Error('the demo has no accounts');
  await expect(accounts.setPassword('keeper', published.password)).rejects.toThrow('it belongs to the demo');
  await expect(accounts.ensure([{ ...published, name: 'other' }])).rejects.toThrow('it belongs to the demo');
  await accountService(world.services.database, 'demo').setPassword('keeper', published.password);
  expect(await accounts.withPublishedPassword()).toEqual(['keeper']);
});

test('terms show what they are called in the language somebody reads in', async () => {
  const [german, other] = [await signedIn('viewer'), await signedIn('keeper')];
  const payload = { language: 'de-CH' };
  await world.app.inject({ method: 'POST', url: '/api/account/language', headers: { cookie: german }, payload });
  expect(await whoIs(german)).toMatchObject({ language: 'de-CH' });
  const vocabularies = await world.services.vocabulary.overview(PROGRAM);
  const vocabularyId = vocabularies.vocabularies[0]?.id ?? null;
  const otherLabels = [
    { kind: 'alternative', language: '', label: 'cellular kite' },
    { kind: 'preferred', language: 'de', label: 'Kastendrachen' },
  ];
  const change = { kind: 'addTerms', parentId: null, vocabularyId, terms: [{ label: 'Box kite', otherLabels }] };
  await world.app.inject({ method: 'POST', url: '/api/changes', headers: { cookie: other }, payload: { change } });
  const beside = async (cookie: string) =>
    (await world.app.inject({ url: '/api/vocabulary/find?text=box', headers: { cookie } })).json<object>();
  expect(await beside(german)).toMatchObject({ terms: [{ label: 'Box kite', also: 'Kastendrachen' }] });
  expect(await beside(other)).toMatchObject({ terms: [{ label: 'Box kite', also: 'cellular kite' }] });
});

test('how the interface looks goes with the account, wherever it is signed in', async () => {
  const [here, elsewhere] = [await signedIn('viewer'), await signedIn('viewer')];
  expect(await whoIs(elsewhere)).toMatchObject({ theme: null });
  const payload = { theme: 'dark' };
  await world.app.inject({ method: 'POST', url: '/api/account/theme', headers: { cookie: here }, payload });
  expect(await whoIs(elsewhere)).toMatchObject({ name: 'viewer', theme: 'dark' });
  expect(await whoIs(await signedIn('keeper'))).toMatchObject({ theme: null });
});
