// Every address behind a view link is asked by those who have no right to it: with altered, foreign, revoked and ended addresses, without having been
// let in, with the cookie of another link, with guessed and foreign keys, and with paths that lead elsewhere. All get one answer.

import type { LinkRequest } from '@stellin/contract/sharing';
import type { Person } from '../catalogue/viewer';
import { openWorld, putFiles, realJpeg, type World } from '../testing/world';
import { pictureKey } from './keys';

const EVIL = '<script>alert(1)</script>"\'><img src=x onerror=alert(2)>';

let world: World;
let keeper: Person;
beforeAll(async () => {
  world = await openWorld({ connections: 3 });
  keeper = await world.services.rights.personOf(world.keeperId);
  const drive = await world.addDrive('Vault');
  await putFiles(drive, {
    [`inside/${EVIL.replaceAll('/', '')}.jpg`]: await realJpeg({ title: EVIL, description: EVIL, creator: [EVIL] }, 10),
    'inside/b.jpg': await realJpeg({ description: 'Harbour' }, 20),
    'inside/private.jpg': await realJpeg({ description: 'Secret workshop' }, 30),
  });
  await world.takeIn(drive);
  await world.apply({ kind: 'setPrivate', selection: { query: 'name:private.jpg' }, private: true });
});
afterAll(() => world.close());

const ALL_ON = {
  columns: ['field:creator', 'field:title'] as const,
  people: true,
  terms: true,
  downloads: true,
  answers: true,
  map: true,
};

async function make(part: Partial<LinkRequest> = {}) {
  const { id, address } = await world.services.viewLinks.make(
    {
      source: { kind: 'fixed', selection: { query: '' }, sort: 'name' },
      settings: { title: EVIL, words: EVIL, ...ALL_ON, columns: [...ALL_ON.columns] },
      ...part,
    },
    keeper,
  );
  return { id, path: address };
}

/** Everything that can be asked of a link, with the key of a picture. */
const ROUTES: readonly (readonly [method: 'GET' | 'POST', below: (key: string) => string])[] = [
  ['GET', () => ''],
  ['GET', () => '?page=2'],
  ['GET', () => '/here'],
  ['GET', () => '/map'],
  ['GET', (key) => `/map?spot=${key}`],
  ['GET', () => '/manifest.json'],
  ['GET', (key) => `/${key}`],
  ['GET', (key) => `/${key}?show`],
  ['GET', (key) => `/${key}/small.jpg`],
  ['GET', (key) => `/${key}/large.jpg`],
  ['GET', (key) => `/${key}/picture.jpg`],
  ['GET', (key) => `/iiif/${key}`],
  ['GET', (key) => `/iiif/${key}/info.json`],
  ['GET', (key) => `/iiif/${key}/full/max/0/default.jpg`],
  ['POST', () => ''],
  ['POST', (key) => `/${key}/answer`],
];
const OF_PICTURES = ROUTES.filter(([, below]) => below('KEY').includes('/KEY') || below('KEY').includes('/iiif'));

const ask = (method: 'GET' | 'POST', url: string, cookie = '') =>
  world.app.inject({
    method,
    url,
    headers: { cookie, 'content-type': 'application/x-www-form-urlencoded' },
    ...(method === 'POST' ? { payload: 'password=x&kind=remark&text=x&sender=x' } : {}),
  });

interface Entered {
  path: string;
  cookie: string;
  keys: string[];
}

async function enter(path: string): Promise<Entered> {
  const first = await ask('GET', path);
  const cookie = String(first.headers['set-cookie']).split(';')[0] ?? '';
  return {
    path,
    cookie,
    keys: [...first.body.matchAll(/href="\/v\/[^/"]+\/([\w-]{22})"><img/g)].map(([, key]) => key ?? ''),
  };
}

/** What everybody gets where there is nothing, but for the names of requests. */
async function expectNothing(method: 'GET' | 'POST', url: string, cookie: string, nothing: string): Promise<void> {
  const answer = await ask(method, url, cookie);
  expect([url, answer.statusCode, answer.body]).toEqual([url, 404, nothing]);
}

test('altered, foreign, revoked and ended addresses get the answer of one that never was, whatever is asked below them', async () => {
  const open = await enter((await make()).path);
  const other = await enter((await make()).path);
  const revoked = await make();
  const ended = await make({ endsOn: '2999-01-01' });
  const [inRevoked, inEnded] = [await enter(revoked.path), await enter(ended.path)];
  await world.services.viewLinks.revoke([revoked.id], keeper);
  await world.services.database.rows(`update view_link set ends_at = now() - interval '1 second' where id = $1`, [
    ended.id,
  ]);
  const nothing = (await ask('GET', '/v/AAAAAAAAAAAAAAAAAAAAAA')).body;
  expect(nothing).toContain('There is nothing here');
  const token = open.path.slice('/v/'.length);
  const altered = [
    `/v/${token.slice(0, -1)}${token.endsWith('A') ? 'B' : 'A'}`,
    `/v/${token.slice(0, -1)}`,
    `/v/${token}A`,
    `/v/${token.toUpperCase() === token ? token.toLowerCase() : token.toUpperCase()}`,
    `/v/%00`,
    `/v/${encodeURIComponent("' or 1=1 --")}`,
  ];
  for (const [method, below] of ROUTES) {
    for (const path of altered) await expectNothing(method, path + below(open.keys[0] ?? ''), open.cookie, nothing);
    for (const { path, cookie, keys } of [inRevoked, inEnded])
      await expectNothing(method, path + below(keys[0] ?? ''), cookie, nothing);
  }
  // Nobody is let into one link by another.
  for (const [method, below] of OF_PICTURES)
    await expectNothing(method, open.path + below(open.keys[0] ?? ''), other.cookie, nothing);
});

test('keys of another link, guessed ones, and those of private photos name nothing', async () => {
  const open = await enter((await make()).path);
  const other = await enter((await make()).path);
  const nothing = (await ask('GET', '/v/AAAAAAAAAAAAAAAAAAAAAA')).body;
  const ids = await world.ids();
  const row = await world.services.database.row<{ secret: Buffer }>(
    'select secret from view_link order by id desc limit 1 offset 1',
  );
  const secretKey = pictureKey(row?.secret ?? Buffer.alloc(32), ids.get('private.jpg') ?? 0);
  // The same way gives the keys of those that are shown.
  expect(open.keys).toContain(pictureKey(row?.secret ?? Buffer.alloc(32), ids.get('b.jpg') ?? 0));
  const guessed = [
    other.keys[0] ?? '',
    secretKey,
    String(ids.get('b.jpg')),
    '0',
    '-1',
    'AAAAAAAAAAAAAAAAAAAAAA',
    '%00',
    '..%2F..%2Fapi%2Fphotos',
    '../api/photos',
  ];
  for (const [method, below] of OF_PICTURES)
    for (const key of guessed) {
      const answer = await ask(method, open.path + below(key), open.cookie);
      expect([key, answer.statusCode]).toEqual([key, 404]);
      expect(answer.body).not.toContain('Secret');
    }
  await expectNothing('GET', `${open.path}/${secretKey}`, open.cookie, nothing);
});

test('without a password nothing is had, and no answer tells whether there is more', async () => {
  const { path } = await make({ password: 'harbour' });
  const plain = await enter((await make()).path);
  const nothing = (await ask('GET', '/v/AAAAAAAAAAAAAAAAAAAAAA')).body;
  for (const [method, below] of ROUTES) {
    const url = path + below(plain.keys[0] ?? '');
    if (below('') === '' || below('').startsWith('?')) continue;
    await expectNothing(method, url, plain.cookie, nothing);
  }
  const asked = await ask('GET', path, plain.cookie);
  expect(asked.body).toContain('These pictures have a password');
  expect(asked.body).not.toMatch(/alert|picture\.jpg|2 pictures/);
});

test('what texts and names of files say is text on every page', async () => {
  const { path, cookie, keys } = await enter((await make()).path);
  for (const key of keys)
    await world.app.inject({
      method: 'POST',
      url: `${path}/${key}/answer`,
      payload: new URLSearchParams({ kind: 'remark', text: EVIL, sender: EVIL }).toString(),
      headers: { cookie, 'content-type': 'application/x-www-form-urlencoded' },
    });
  for (const below of ['', '/map', ...keys.map((key) => `/${key}`), ...keys.map((key) => `/${key}?sent`)]) {
    const { body } = await ask('GET', path + below, `${cookie}; sender=${encodeURIComponent(EVIL)}`);
    expect(body).not.toContain('<script>alert');
    expect(body).not.toContain('<img src=x');
    expect(body).not.toMatch(/inside|Vault/);
  }
  expect((await world.services.viewLinks.answers(keeper)).map(({ text }) => text)).toContain(EVIL);
});

test('passwords can’t be tried at will: by address, and by link from wherever they come', async () => {
  const { path } = await make({ password: 'harbour' });
  const statuses: number[] = [];
  for (let at = 0; at < 30; at++)
    statuses.push(
      (
        await world.app.inject({
          method: 'POST',
          url: path,
          payload: 'password=guess',
          headers: { 'content-type': 'application/x-www-form-urlencoded' },
          // Another machine each time.
          remoteAddress: `10.0.0.${at}`,
        })
      ).statusCode,
    );
  expect(statuses.slice(0, 20).every((status) => status === 403)).toBe(true);
  expect(statuses.slice(20).every((status) => status === 429)).toBe(true);
  const same: number[] = [];
  for (let at = 0; at < 14; at++) same.push((await ask('POST', (await make({ password: 'x' })).path)).statusCode);
  expect(same).toContain(429);
});
