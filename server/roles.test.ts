// Every route is asked as nobody and as each of the three roles: who may not is refused before anything is looked at, who may
// gets an answer that the contract knows.

import { api } from '@stellin/contract/index';
import { ROLES, type Role, type Route } from '@stellin/contract/route';
import { addressOf, samplesOf } from './testing/requests';
import { openWorld, PASSWORDS, putFiles, realJpeg, type World } from './testing/world';

let world: World;
let driveId: string;
const cookies = new Map<Role, string>();
beforeAll(async () => {
  // The demo has the routes of its drive bay besides.
  world = await openWorld({ kind: 'demo' });
  const drive = await world.addDrive('Vault');
  await putFiles(drive, { 'a.jpg': await realJpeg({ keywords: ['dunes'] }, 40), 'b.jpg': await realJpeg({}, 90) });
  await world.takeIn(drive);
  await world.apply({ kind: 'addTerms', parentId: null, terms: [{ label: 'Kites' }] });
  await world.apply({ kind: 'makeDossier', name: 'Loans' });
  await world.apply({ kind: 'namePhotos', selection: { query: 'name:a.jpg' }, who: { name: 'Ida Brandt' } });
  driveId = (await world.services.drives.list())[0]?.id ?? '';
  for (const role of ROLES) {
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
/** Who may make a change may take it back: they look at the entry as well. */
const BY_ENTRY = new Set(['takeBackEntry', 'repeatEntry']);
const RANKS: Record<Role, number> = { viewer: 0, cataloguer: 1, keeper: 2 };

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
    if (route.access === 'public') expect(statusCode).toBeLessThan(400);
    else expect(statusCode).toBe(401);
  });

  test.each(ROLES)('is asked as %s', async (role) => {
    const { statusCode, json, headers } = await ask(route, role);
    if (route.access !== 'public' && RANKS[role] < RANKS[route.access]) {
      expect([statusCode, json<{ error: { code: string } }>().error.code]).toEqual([403, 'notAllowed']);
      return;
    }
    if (BY_ENTRY.has(name) && statusCode === 403) return;
    expect([401, 403]).not.toContain(statusCode);
    if (!String(headers['content-type']).startsWith('application/json')) return;
    if (statusCode === 200) expect(route.response.safeParse(json()).error).toBeUndefined();
    else expect(json<{ error: { message: string } }>().error.message).not.toBe('');
  });
});
