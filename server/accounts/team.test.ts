import { openWorld, PASSWORDS, putFiles, realJpeg, type World } from '../testing/world';
import type { Accounts } from './service';
import type { Teams } from './teams';

let world: World;
let accounts: Accounts;
let teams: Teams;
beforeEach(async () => {
  world = await openWorld({ working: false });
  ({ accounts, teams } = world.services);
});
afterEach(() => world.close());

const GOOD = 'nine lines out';

async function signedIn(name: string, password: string): Promise<string> {
  const { headers } = await world.app.inject({
    method: 'POST',
    url: '/api/session',
    headers: { 'user-agent': `Loom/1 (${name})` },
    payload: { name, password },
  });
  return String(headers['set-cookie']).split(';')[0] ?? '';
}
const whoIs = async (cookie: string) =>
  (await world.app.inject({ url: '/api/session', headers: { cookie } })).json<{
    permissions: string[];
    role: string;
  }>();
const idOf = async (name: string) => (await accounts.find(name))?.id ?? 0;
const roleId = async (name: string) => (await teams.overview()).roles.find((role) => role.name === name)?.id ?? 0;

describe('invitations', () => {
  const invite = async () => {
    const { id } = await accounts.invite({ name: 'tove', displayName: 'Tove Lind', role: 'cataloguer' });
    return { id, ...(await accounts.link(id, world.keeperId)) };
  };

  test('a link is good once, and nobody signs in before it was used', async () => {
    const { token } = await invite();
    await expect(accounts.signIn('tove', '')).rejects.toThrow('do not belong together');
    expect(await accounts.invited(token)).toMatchObject({ name: 'tove', displayName: 'Tove Lind' });
    await expect(accounts.accept(token, 'short')).rejects.toThrow('10 characters');
    await accounts.accept(token, GOOD);
    await accounts.signIn('tove', GOOD);
    await expect(accounts.accept(token, 'another good one')).rejects.toThrow('not good any more');
  });

  test('another link ends the one before; one that is too old, or of a disabled account, is none', async () => {
    const { id, token } = await invite();
    const { token: second } = await accounts.link(id, world.keeperId);
    await expect(accounts.invited(token)).rejects.toThrow('not good any more');
    await accounts.disable(id);
    await expect(accounts.accept(second, GOOD)).rejects.toThrow('not good any more');
    await expect(accounts.link(id, world.keeperId)).rejects.toThrow('is disabled');
    await accounts.enable(id);
    await world.services.database.rows(`update invitation set expires_at = now() - interval '1 second'`);
    await expect(accounts.accept(second, GOOD)).rejects.toThrow('not good any more');
  });

  test('a link in place of a lost password ends all sessions', async () => {
    const cookie = await signedIn('viewer', PASSWORDS.viewer);
    const { token } = await accounts.link(await idOf('viewer'), world.keeperId);
    expect(await whoIs(cookie)).not.toBeNull();
    await accounts.accept(token, GOOD);
    expect(await whoIs(cookie)).toBeNull();
  });
});

test.each([
  ['short', '10 characters'],
  ['password123', 'many people use it'],
  ['Tove123456', 'it is the sign-in name'],
  ['ababababab', 'repeats a few characters'],
])('the password “%s” is refused: %s', async (password, why) => {
  const account = { name: 'tove', displayName: 'Tove Lind', role: 'viewer' as const, password };
  await expect(accounts.add(account)).rejects.toThrow(why);
});

test('one sees where one is signed in, and ends one session or all others', async () => {
  const [here, there, third] = [
    await signedIn('viewer', PASSWORDS.viewer),
    await signedIn('viewer', PASSWORDS.viewer),
    await signedIn('viewer', PASSWORDS.viewer),
  ];
  const list = async () =>
    (await world.app.inject({ url: '/api/session/all', headers: { cookie: here } })).json<{
      sessions: { id: string; device: string; isThis: boolean }[];
    }>().sessions;
  const open = await list();
  expect(open.map(({ device }) => device)).toEqual(Array.from({ length: 3 }, () => 'Loom/1 (viewer)'));
  expect(open.filter(({ isThis }) => isThis)).toHaveLength(1);
  const [keepers] = await world.services.sessions.list(world.keeperId, '');
  expect(keepers).toBeUndefined();
  const other = open.find(({ isThis }) => !isThis);
  const end = (id: string, cookie: string) =>
    world.app.inject({ method: 'DELETE', url: `/api/session/all/${id}`, headers: { cookie } });
  // Nobody ends what is another’s.
  expect((await end(other?.id ?? '', await signedIn('keeper', PASSWORDS.keeper))).statusCode).toBe(404);
  expect((await end(other?.id ?? '', here)).statusCode).toBe(200);
  expect((await Promise.all([there, third].map(whoIs))).filter((person) => person !== null)).toHaveLength(1);
  await world.app.inject({ method: 'POST', url: '/api/session/all/end', headers: { cookie: here }, payload: {} });
  expect(await Promise.all([there, third].map(whoIs))).toEqual([null, null]);
  expect(await list()).toHaveLength(1);
});

test('rights count from the next request on: own ones, those of teams, and roles that are altered', async () => {
  const cookie = await signedIn('viewer', PASSWORDS.viewer);
  expect(await whoIs(cookie)).toMatchObject({ permissions: ['see'], role: 'Viewer' });
  const volunteer = await teams.saveRole({ id: null, name: 'Volunteer', permissions: ['describe'] });
  const members = [await idOf('viewer')];
  const team = await teams.saveTeam({ id: null, name: 'Saturday', note: '', members });
  await teams.giveRight({ kind: 'team', id: team }, volunteer, { kind: 'catalogue' });
  expect(await whoIs(cookie)).toMatchObject({ permissions: ['see', 'describe'], role: 'Viewer, Volunteer' });
  await teams.saveRole({ id: volunteer, name: 'Volunteer', permissions: ['describe', 'private'] });
  expect(await whoIs(cookie)).toMatchObject({ permissions: ['see', 'private', 'describe'], seesAll: true });
  await expect(teams.removeRole(volunteer)).rejects.toThrow('is still held');
  await teams.saveTeam({ id: team, name: 'Saturday', note: 'now empty', members: [] });
  expect(await whoIs(cookie)).toMatchObject({ permissions: ['see'] });
  await teams.removeTeam(team);
  await teams.removeRole(volunteer);
  expect((await teams.overview()).roles.map(({ name }) => name)).toEqual(['Keeper', 'Cataloguer', 'Viewer']);
  await expect(teams.saveRole({ id: await roleId('Viewer'), name: 'Guest', permissions: [] })).rejects.toThrow(
    'every archive has',
  );
});

test('somebody is left who administers, whichever way it would end', async () => {
  const helping = await teams.saveRole({ id: null, name: 'Helper', permissions: ['administer'] });
  const team = await teams.saveTeam({ id: null, name: 'Office', note: '', members: [await idOf('viewer')] });
  const own = (await teams.overview()).rights.find(
    ({ holder }) => holder.kind === 'account' && holder.id === world.keeperId,
  );
  const refusal = 'nobody would be left';
  await expect(teams.takeRight(own?.id ?? 0)).rejects.toThrow(refusal);
  await expect(accounts.disable('keeper')).rejects.toThrow(refusal);
  // A right to a part of the catalogue is none to administer it.
  await teams.giveRight({ kind: 'team', id: team }, helping, { kind: 'search', searchId: 1 });
  await expect(accounts.disable('keeper')).rejects.toThrow(refusal);
  await teams.giveRight({ kind: 'team', id: team }, helping, { kind: 'catalogue' });
  await accounts.disable('keeper');
  await expect(teams.removeTeam(team)).rejects.toThrow(refusal);
  await expect(teams.saveTeam({ id: team, name: 'Office', note: '', members: [] })).rejects.toThrow(refusal);
  await expect(teams.saveRole({ id: helping, name: 'Helper', permissions: [] })).rejects.toThrow(refusal);
  await expect(accounts.disable('viewer')).rejects.toThrow(refusal);
});

test('of two who disable each other at once one stays', async () => {
  await world.close();
  world = await openWorld({ working: false, connections: 4 });
  ({ accounts, teams } = world.services);
  await accounts.add({ name: 'mara', displayName: 'Mara Olt', role: 'keeper', password: GOOD });
  const ended = await Promise.allSettled([accounts.disable('keeper'), accounts.disable('mara')]);
  expect(ended.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected']);
});

test('what a saved search finds is what its right is for, and follows the search', async () => {
  await world.close();
  world = await openWorld();
  ({ accounts, teams } = world.services);
  const drive = await world.addDrive('Vault');
  await putFiles(drive, {
    'a.jpg': await realJpeg({ rating: 5 }, 40),
    'b.jpg': await realJpeg({ rating: 1 }, 60),
  });
  await world.takeIn(drive);
  const { objectId } = await world.apply({ kind: 'saveSearch', name: 'Best', query: 'rating:5', sort: 'taken' });
  const { id } = await accounts.add({ name: 'guest', displayName: 'Guest', role: null, password: GOOD });
  await teams.giveRight({ kind: 'account', id }, await roleId('Viewer'), { kind: 'search', searchId: objectId ?? 0 });
  const names = async () => {
    const guest = await world.services.rights.personOf(id);
    const page = { query: '', sort: 'added' as const, offset: 0, limit: 10 };
    return (await world.services.photos.list(guest, page)).map(({ name }) => name);
  };
  expect(await names()).toEqual(['a.jpg']);
  // Who does not administer changes nobody’s rights by it.
  const cataloguer = await idOf('cataloguer');
  for (const change of [
    { kind: 'changeSearch', searchId: objectId ?? 0, query: '' },
    { kind: 'removeSearch', searchId: objectId ?? 0 },
  ] as const)
    await expect(world.services.ledger.apply(change, cataloguer)).rejects.toThrow('is what some people may see');
  await world.services.ledger.apply({ kind: 'changeSearch', searchId: objectId ?? 0, note: 'for guests' }, cataloguer);
  await world.apply({ kind: 'changeSearch', searchId: objectId ?? 0, query: 'rating:1' });
  expect(await names()).toEqual(['b.jpg']);
  // A search that is gone is a right to nothing.
  await world.apply({ kind: 'removeSearch', searchId: objectId ?? 0 });
  expect(await names()).toEqual([]);
  expect(
    (await teams.overview()).rights.find(({ holder }) => holder.kind === 'account' && holder.id === id),
  ).toMatchObject({
    placeName: null,
  });
});
