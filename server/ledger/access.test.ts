import type { AccessEntry } from '@stellin/contract/access';
import type { LightMyRequestResponse } from 'fastify';
import { openWorld, PASSWORDS, putFiles, realJpeg, type World } from '../testing/world';
import { forgetAccess } from './accessStore';
import { sealLedger, verifyLedger } from './sealing';

let world: World;
const cookies = new Map<string, string>();

const ask = (
  method: 'GET' | 'POST' | 'DELETE',
  url: string,
  by: string,
  payload?: object,
): Promise<LightMyRequestResponse> =>
  world.app.inject({
    method,
    url,
    headers: { cookie: cookies.get(by) ?? '', 'user-agent': 'Lantern 7' },
    ...(payload ? { payload } : {}),
  });
const signIn = async (name: keyof typeof PASSWORDS, password = PASSWORDS[name]) => {
  const answer = await ask('POST', '/api/session', '', { name, password });
  cookies.set(name, String(answer.headers['set-cookie'] ?? '').split(';')[0] ?? '');
  return answer.statusCode;
};
const recorded = async (filter: string) =>
  (JSON.parse((await ask('GET', `/api/access?${filter}`, 'keeper')).body) as { entries: AccessEntry[] }).entries;
const rows = (sql: string) => world.services.database.rows(sql, []);

beforeAll(async () => {
  world = await openWorld();
  const drive = await world.addDrive('Vault');
  await putFiles(drive, { 'a.jpg': await realJpeg({}, 40), 'b.jpg': await realJpeg({}, 90) });
  await world.takeIn(drive);
  await signIn('keeper');
});
afterAll(() => world.close());

test('who comes, goes and is turned away is recorded, and never what was typed instead of a name', async () => {
  expect(await signIn('viewer', 'a wrong password')).toBe(401);
  expect(await signIn('viewer')).toBe(200);
  await ask('POST', '/api/session', '', { name: 'my secret words', password: 'x' });
  expect((await ask('GET', '/api/team', 'viewer')).statusCode).toBe(403);
  await ask('DELETE', '/api/session', 'viewer');
  const entries = await recorded('limit=5');
  expect(entries.map(({ kind, by, about }) => [kind, by, about])).toEqual([
    ['signedOut', 'The viewer', ''],
    ['refused', 'The viewer', 'All accounts, roles, teams and rights'],
    ['signInRefused', '', ''],
    ['signedIn', 'The viewer', 'Lantern 7'],
    ['signInRefused', 'The viewer', ''],
  ]);
  expect(entries.every(({ address }) => address === '127.0.0.1')).toBe(true);
});

test('a photo that is looked at large is recorded once in a while, and only when it was shown', async () => {
  const id = (await world.ids()).get('a.jpg') ?? 0;
  await signIn('viewer');
  for (let i = 0; i < 3; i++) expect((await ask('GET', `/api/photos/${id}/picture`, 'viewer')).statusCode).toBe(200);
  expect((await ask('GET', `/api/photos/${id + 100}/picture`, 'viewer')).statusCode).toBe(404);
  expect((await recorded(`photoId=${id}`)).map(({ kind, by, photo }) => [kind, by, photo])).toEqual([
    ['looked', 'The viewer', { photoId: id, name: 'a.jpg' }],
  ]);
  expect(await recorded('kind=looked&from=2000-01-01&to=2000-12-31')).toEqual([]);
});

test('the policy says what is left out; who signs in is always recorded', async () => {
  await ask('POST', '/api/access/policy', 'keeper', { leftOut: ['looked', 'signedIn'], keepDays: null });
  const id = (await world.ids()).get('b.jpg') ?? 0;
  await signIn('viewer');
  await ask('GET', `/api/photos/${id}/picture`, 'viewer');
  expect((await recorded('limit=1'))[0]).toMatchObject({ kind: 'signedIn', by: 'The viewer' });
  expect(JSON.parse((await ask('GET', '/api/access/policy', 'keeper')).body)).toEqual({
    leftOut: ['looked', 'signedIn'],
    keepDays: null,
  });
  await ask('POST', '/api/access/policy', 'keeper', { leftOut: [], keepDays: null });
});

test('it is read by who administers, and taken along as a table or for programs', async () => {
  expect((await ask('GET', '/api/access', 'viewer')).statusCode).toBe(403);
  expect((await ask('GET', '/api/ledger/export?format=csv&book=access', 'viewer')).statusCode).toBe(403);
  const id = (await world.ids()).get('a.jpg') ?? 0;
  await world.apply({ kind: 'setRating', selection: { query: 'name:a.jpg' }, rating: 3 });
  await rows(`update access_entry set about = '=1+1' where kind = 'refused'`);
  const csv = await ask('GET', '/api/ledger/export?format=csv&book=access', 'keeper');
  expect(csv.headers['content-type']).toContain('text/csv');
  expect(csv.body.split('\n')[0]).toBe('id,at,by,what,photo,file,about,address');
  expect(csv.body).toContain(`The viewer,Looked at large,${id},a.jpg,`);
  expect(csv.body).toContain(`'=1+1`);
  const json = await ask('GET', '/api/ledger/export?format=json&book=changes&containing=rate', 'keeper');
  expect(JSON.parse(json.body)).toMatchObject([{ by: 'The keeper', photos: 1, state: 'done' }]);
  expect(
    JSON.parse((await ask('GET', '/api/ledger/export?format=json&book=changes&to=2000-01-01', 'keeper')).body),
  ).toEqual([]);
  const wrong = await ask('GET', '/api/ledger/export?format=pdf&book=changes', 'keeper');
  expect([wrong.statusCode, wrong.body]).toEqual([400, expect.stringContaining('format: ')]);
  expect((await recorded('kind=exported')).length).toBe(3);
});

describe('the chain of hashes', () => {
  const problems = async (known: string[] = []) =>
    (await verifyLedger(world.services.database, known)).flatMap(({ problems: found }) => found);
  /** Does something to the tables, looks what shows, and takes it back. */
  const tampered = async (sql: string) => {
    const { database } = world.services;
    let found: string[] = [];
    await database
      .transaction(async (tx) => {
        await database.rows(sql, [], tx);
        found = (
          await verifyLedger({
            ...database,
            rows: (text, bind) => database.rows(text, bind, tx),
            row: (text, bind) => database.row(text, bind, tx),
          })
        ).flatMap((book) => book.problems);
        throw new Error('taken back');
      })
      .catch(() => undefined);
    return found;
  };
  let head = '';

  beforeAll(async () => {
    await world.apply({ kind: 'setRating', selection: { query: '' }, rating: 4 });
    await world.apply({ kind: 'makeDossier', name: 'Poster', selection: { query: '' } });
    await world.services.access.flush();
    await sealLedger(world.services.database);
    head = (await verifyLedger(world.services.database))[0]?.head ?? '';
    await world.apply({ kind: 'setRating', selection: { query: '' }, rating: 5 });
    await sealLedger(world.services.database);
  });

  test('what was not touched is whole, and a hash that was told before is known; undo leaves it so', async () => {
    expect(head).toMatch(/^[0-9a-f]{64}$/);
    await world.services.ledger.undo(world.keeperId);
    expect(await problems([head])).toEqual([]);
    expect(await problems(['00ff'])).toEqual(['no chain has ever come by 00ff']);
  });

  test.each([
    [
      'the title of an entry',
      `update ledger_entry set title = 'Nothing' where id = (select max(id) from ledger_entry where seal_id is not null)`,
    ],
    [
      'when it was',
      `update ledger_entry set at = at - interval '1 day' where id = (select max(id) from ledger_entry where seal_id is not null)`,
    ],
    ['what it did to a photo', `update ledger_photo set after = '1' where aspect = 'rating'`],
    [
      'what it did to an object',
      `update ledger_object set after = after || '{"name": "Other"}' where kind = 'dossier'`,
    ],
    ['who came', `update access_entry set account_id = null where kind = 'signedIn'`],
  ])('%s can’t be altered without a trace', async (_, sql) => {
    expect(await tampered(sql)).toContainEqual(expect.stringMatching(/^entry \d+ is not what it was/));
  });

  test('nor removed, nor exchanged with its digest, nor can a seal', async () => {
    expect(await tampered(`delete from access_entry where kind = 'looked'`)).toContainEqual(
      expect.stringMatching(/of the entries of seal \d+ are gone/),
    );
    expect(
      await tampered(`update access_entry set about = 'x', digest = sha256('x'::bytea) where kind = 'looked'`),
    ).toContainEqual(expect.stringMatching(/^entries of seal \d+ were exchanged|^entry \d+ is not/));
    expect(
      await tampered(`delete from ledger_seal where id = (select min(id) from ledger_seal where book = 'changes')`),
    ).toContainEqual(expect.stringContaining('the chain is broken'));
    expect(await tampered(`update ledger_seal set digest = sha256('x'::bytea) where book = 'access'`)).toContainEqual(
      expect.stringContaining('the chain is broken'),
    );
  });

  test('what was recorded of a photo that is gone for good stays, and so does the chain', async () => {
    await rows(`delete from photo where name = 'b.jpg'`);
    expect(await problems()).toEqual([]);
    expect(await tampered('delete from ledger_photo_gone')).toContainEqual(expect.stringMatching(/^entry \d+ is not/));
  });

  test('what is older than it is kept goes by whole seals, which is no break', async () => {
    const { database, access } = world.services;
    const before = (await recorded('limit=500')).length;
    expect(await forgetAccess(database, 30)).toBe(0);
    // As if it were long ago: the first seal and all in it.
    const [seal] = (await rows(`select min(id) as id from ledger_seal where book = 'access'`)) as { id: number }[];
    await rows(`update access_entry set at = at - interval '40 days' where seal_id = ${seal?.id ?? 0}`);
    await access.setPolicy({ leftOut: [], keepDays: 30 });
    const gone = await access.forgetOld();
    expect(gone).toBeGreaterThan(0);
    expect((await recorded('limit=500')).length).toBe(before - gone + 1);
    expect((await recorded('kind=forgotten'))[0]?.about).toBe(`${gone} entries older than 30 days`);
    expect(await problems()).toEqual([]);
  });

  test('an entry is sealed once its files are where it says', async () => {
    const isSealed = async (entryId: number) =>
      (
        await world.services.database.row<{ sealed: boolean }>(
          'select seal_id is not null as sealed from ledger_entry where id = $1',
          [entryId],
        )
      )?.sealed;
    await world.rest();
    const { id } = await world.apply({ kind: 'trashFiles', selection: { query: 'name:a.jpg' } });
    await sealLedger(world.services.database);
    expect(await isSealed(id)).toBe(false);
    await world.services.start();
    await world.eventually(async () => (await world.services.jobs.list()).every(({ state }) => state === 'done'));
    await sealLedger(world.services.database);
    expect(await isSealed(id)).toBe(true);
    expect(await problems()).toEqual([]);
  });
});
