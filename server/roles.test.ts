// Every route is asked as nobody and as each of the three roles: who may not is refused before anything is looked at, who may
// gets an answer that the contract knows.

import { api } from '@stellin/contract/index';
import type { Route } from '@stellin/contract/route';
import { addressOf, samplesOf } from './testing/requests';
import { openWorld, PASSWORDS, putFiles, realJpeg, type World } from './testing/world';
import { PROGRAM } from './catalogue/viewer';

let world: World;
let driveId: string;
const cookies = new Map<Role, string>();
const ROLE_NAMES = ['keeper', 'cataloguer', 'viewer'] as const;
beforeAll(async () => {
  // The demo has the routes of its drive bay besides.
  world = await openWorld({ kind: 'demo' });
  const drive = await world.addDrive('Vault');
  await putFiles(drive, { 'a.jpg': await realJpeg({ keywords: ['dunes'] }, 40), 'b.jpg': await realJpeg({}, 90) });
  await world.takeIn(drive);
  await world.apply({ kind: 'addTerms', parentId: null, terms: [{ label: 'Kites' }] });
  await world.apply({ kind: 'makeDossier', name: 'Loans' });
  await world.apply({ kind: 'namePhotos', selection: { query: 'name:a.jpg' }, who: { name: 'Ida Brandt' } });
  driveId = (await world.services.drives.list(PROGRAM))[0]?.id ?? '';
  for (const role of ROLE_NAMES) {
    const { headers } = await world.app.inject({
      method: 'POST',
      url: '/api/session',
      payload: { name: role, password: PASSWORDS[role] },
    });
    cookies.set(role, String(headers['set-cookie']).split(';')[0] ?? '');
  }
});
afterAll(() => world.close());

/** Asked by other tests: they end the session, or stop what runs. */
const LEFT_OUT = new Set(['signIn', 'signOut', 'changePassword']);
/** What somebody may change is decided by the change. */
const BY_CHANGE = new Set(['apply', 'controlJob']);
/** Who may make a change may take it back: they look at the entry as well. */
const BY_ENTRY = new Set(['takeBackEntry', 'repeatEntry']);

/** What each role is meant to have in the whole catalogue, and whether everything exists for it. */
const ROLES = {
  keeper: {
    may: 'see private describe people vocabulary files writeBack intake deliver share administer',
    seesAll: true,
  },
  cataloguer: { may: 'see private describe people writeBack intake deliver', seesAll: true },
  viewer: { may: 'see', seesAll: false },
} as const;
type Role = keyof typeof ROLES;

function isLetIn(role: Role, { access, shows }: Route): boolean {
  if (access === 'public' || access === 'signedIn') return true;
  const { may, seesAll } = ROLES[role];
  return may.split(' ').includes(access) && (seesAll || shows !== 'all');
}

async function ask(route: Route, role?: Role) {
  const [params] = samplesOf(route.params, driveId);
  const [query] = samplesOf(route.query, driveId);
  const [body] = samplesOf(route.body, driveId);
  return world.app.inject({
    method: route.method,
    url: addressOf(route.path, params, query),
    headers: { ...(role ? { cookie: cookies.get(role) } : {}) },
    ...(route.method === 'POST' ? { payload: (body ?? {}) as object } : {}),
  });
}

describe.each(Object.entries<Route>(api).filter(([name]) => !LEFT_OUT.has(name)))('%s', (name, route) => {
  test('is asked as nobody', async () => {
    const { statusCode } = await ask(route);
    // A link that is none is refused by what it is.
    if (route.access === 'public')
      expect(name.endsWith('Invitation') ? [400, 410].includes(statusCode) : statusCode < 400).toBe(true);
    else expect(statusCode).toBe(401);
  });

  test.each(ROLE_NAMES)('is asked as %s', async (role) => {
    const { statusCode, json, headers } = await ask(route, role);
    if (!isLetIn(role, route)) {
      expect([statusCode, json<{ error: { code: string } }>().error.code]).toEqual([403, 'notAllowed']);
      return;
    }
    if ((BY_ENTRY.has(name) || BY_CHANGE.has(name)) && statusCode === 403) return;
    expect([401, 403]).not.toContain(statusCode);
    if (!String(headers['content-type']).startsWith('application/json')) return;
    if (statusCode === 200) expect(route.response.safeParse(json()).error).toBeUndefined();
    else expect(json<{ error: { message: string } }>().error.message).not.toBe('');
  });
});
