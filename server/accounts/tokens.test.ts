import type { Permission } from '@stellin/core/accounts/permissions';
import { openWorld, PASSWORDS, putFiles, realJpeg, type World } from '../testing/world';

let world: World;
let cookie: string;
beforeAll(async () => {
  world = await openWorld();
  const drive = await world.addDrive('Vault');
  await putFiles(drive, { 'a.jpg': await realJpeg({}, 40), 'b.jpg': await realJpeg({}, 60) });
  await world.takeIn(drive);
  await world.apply({ kind: 'setPrivate', selection: { query: 'name:b.jpg' }, private: true });
  const { headers } = await world.app.inject({
    method: 'POST',
    url: '/api/session',
    payload: { name: 'cataloguer', password: PASSWORDS.cataloguer },
  });
  cookie = String(headers['set-cookie']).split(';')[0] ?? '';
});
afterAll(() => world.close());

const make = async (permissions: Permission[], days = 30) =>
  (
    await world.app.inject({
      method: 'POST',
      url: '/api/tokens',
      headers: { cookie },
      payload: { name: 'A script', permissions, days },
    })
  ).json<{ id: number; token: string }>();
const ask = (token: string, url: string, payload?: object) =>
  world.app.inject({
    url,
    headers: { authorization: `Bearer ${token}` },
    ...(payload ? { method: 'POST', payload } : {}),
  });
const rate = (token: string) =>
  ask(token, '/api/changes', { change: { kind: 'setRating', selection: { query: 'name:a.jpg' }, rating: 3 } });
const count = async (token: string) => (await ask(token, '/api/photos/count?query=')).json<{ count: number }>().count;

test('a script does what its token allows, in the name of who made it, and sees no more than that', async () => {
  const [looking, describing] = [await make([]), await make(['describe', 'private', 'administer'])];
  expect([await count(looking.token), await count(describing.token)]).toEqual([1, 2]);
  expect((await rate(looking.token)).statusCode).toBe(403);
  expect((await rate(describing.token)).json()).toMatchObject({ entry: { by: 'The cataloguer' } });
  // What the person has not, the token has not either.
  expect((await ask(describing.token, '/api/team')).statusCode).toBe(403);
});

test('it is no session: what is one’s own is not a script’s, tokens least of all', async () => {
  const { token } = await make(['describe']);
  for (const url of ['/api/session/all', '/api/tokens']) expect((await ask(token, url)).statusCode).toBe(403);
  expect((await ask(token, '/api/tokens', { name: 'Another', permissions: [], days: 9 })).statusCode).toBe(403);
  expect((await ask(token, '/api/session')).json()).toMatchObject({
    name: 'cataloguer',
    permissions: ['see', 'describe'],
  });
});

test('one that is revoked, over, unknown, or of a disabled account is none; only its hash is kept', async () => {
  const { id, token } = await make([]);
  const { database, accounts } = world.services;
  const kept = await database.rows<{ row: string }>('select to_jsonb(t)::text as row from api_token t');
  expect(kept.some(({ row }) => row.includes(token))).toBe(false);
  expect((await ask('stellin_unknown', '/api/photos')).statusCode).toBe(401);
  await accounts.disable('cataloguer');
  expect((await ask(token, '/api/photos')).statusCode).toBe(401);
  await accounts.enable('cataloguer');
  expect((await ask(token, '/api/photos')).statusCode).toBe(200);
  const { headers } = await world.app.inject({
    method: 'POST',
    url: '/api/session',
    payload: { name: 'cataloguer', password: PASSWORDS.cataloguer },
  });
  cookie = String(headers['set-cookie']).split(';')[0] ?? '';
  const listed = (await world.app.inject({ url: '/api/tokens', headers: { cookie } })).json<{
    tokens: { id: number; lastUsedAt: string | null }[];
  }>();
  expect(listed.tokens.find((one) => one.id === id)?.lastUsedAt).not.toBeNull();
  const revoke = (who: string) =>
    world.app.inject({ method: 'DELETE', url: `/api/tokens/${id}`, headers: { cookie: who } });
  expect([(await revoke(cookie)).statusCode, (await ask(token, '/api/photos')).statusCode]).toEqual([200, 401]);
  const { token: short } = await make([]);
  await database.rows(`update api_token set expires_at = now() - interval '1 second'`);
  expect((await ask(short, '/api/photos')).statusCode).toBe(401);
});

test('what can be asked is read in a browser, without a network', async () => {
  const page = await world.app.inject({ url: '/api/docs/' });
  expect(page.statusCode).toBe(200);
  expect(page.body).not.toMatch(/(src|href)="(https?:)?\/\//);
  const { paths } = (await world.app.inject({ url: '/api/openapi.json' })).json<{ paths: object }>();
  expect(Object.keys(paths)).toContain('/api/tokens');
});
