// View links by a process of their own, with the database role that is made for it.

import { Client } from 'pg';
import pino from 'pino';
import type { LinkRequest } from '@stellin/contract/sharing';
import type { Person } from './catalogue/viewer';
import { openLinkServer, type LinkServer } from './linkServer';
import { makeLinksRole } from './sharing/grantStore';
import { openWorld, putFiles, realJpeg, type World } from './testing/world';

let world: World;
let keeper: Person;
let url: string;
let links: LinkServer;
const log = pino({ level: 'silent' });

beforeAll(async () => {
  world = await openWorld({ connections: 3 });
  keeper = await world.services.rights.personOf(world.keeperId);
  const drive = await world.addDrive('Vault');
  await putFiles(drive, {
    'inside/a.jpg': await realJpeg({ description: 'Dunes', creator: ['Ida Brandt'], keywords: ['kites'] }, 10),
    'inside/b.jpg': await realJpeg({ description: 'Harbour', personInImage: ['Tomas Rehak'] }, 20),
    'outside/c.jpg': await realJpeg({ description: 'Secret workshop' }, 30),
  });
  await world.takeIn(drive);
  await world.apply({ kind: 'setPrivate', selection: { query: 'name:c.jpg' }, private: true });
  url = await makeLinksRole(world.services.database, "a pass'word/ with signs");
  links = await openLinkServer(world.config, url, log);
});
afterAll(async () => {
  await links.close();
  await world.close();
});

async function make(part: Partial<LinkRequest> = {}, person = keeper): Promise<{ id: number; path: string }> {
  const { id, address } = await world.services.viewLinks.make(
    {
      source: { kind: 'fixed', selection: { query: '' }, sort: 'name' },
      settings: {
        title: 'Kites',
        columns: ['field:creator'],
        terms: true,
        people: true,
        answers: true,
        downloads: true,
      },
      ...part,
    },
    person,
  );
  const job = (await world.services.jobs.list()).find(({ kind }) => kind === 'linkPictures');
  if (job) await world.until(job.id, ['done']);
  return { id, path: address };
}
const get = (path: string, cookie?: string) =>
  links.app.inject({ method: 'GET', url: path, ...(cookie ? { headers: { cookie } } : {}) });
const cookieOf = ({ headers }: Awaited<ReturnType<typeof get>>) => String(headers['set-cookie']).split(';')[0] ?? '';
const post = (path: string, form: Record<string, string>, cookie = '') =>
  links.app.inject({
    method: 'POST',
    url: path,
    payload: new URLSearchParams(form).toString(),
    headers: { 'content-type': 'application/x-www-form-urlencoded', cookie },
  });

async function view(path: string) {
  const first = await get(path);
  const keys = [...first.body.matchAll(/href="\/v\/[^/"]+\/([\w-]+)"><img/g)].map(([, key]) => key ?? '');
  return { first, cookie: cookieOf(first), keys };
}

test('pages, pictures, downloads and answers are had with that role, and who came is recorded', async () => {
  const { path } = await make();
  const { first, cookie, keys } = await view(path);
  expect([first.statusCode, keys.length]).toEqual([200, 2]);
  const page = await get(`${path}/${keys[0]}`, cookie);
  expect(page.body).toContain('Ida Brandt');
  expect((await get(`${path}/${keys[1]}`, cookie)).body).toContain('Tomas Rehak');
  for (const name of ['small.jpg', 'large.jpg', 'picture.jpg'])
    expect((await get(`${path}/${keys[0]}/${name}`, cookie)).statusCode).toBe(200);
  const said = { kind: 'remark', text: 'In the summer of 1962', sender: 'Ida' };
  expect((await post(`${path}/${keys[0]}/answer`, said, cookie)).statusCode).toBe(303);
  expect((await post(`${path}/${keys[0]}/answer`, said, cookie)).statusCode).toBe(303);
  expect(await world.services.viewLinks.answers(keeper)).toMatchObject([
    { text: 'In the summer of 1962', sender: 'Ida' },
  ]);
  await world.eventually(async () => (await world.services.access.list({ kind: 'viewedLink' }, 10)).length > 0);
});

test('a password opens it; what the server of the catalogue ends or hides is gone here at once', async () => {
  const { id, path } = await make({ password: 'harbour' });
  expect((await get(path)).body).toContain('password');
  const opened = await post(path, { password: 'harbour' });
  expect(opened.statusCode).toBe(303);
  const cookie = cookieOf(opened);
  expect((await get(path, cookie)).body).toContain('2 pictures');
  await world.apply({ kind: 'setPrivate', selection: { query: 'name:b.jpg' }, private: true });
  expect((await get(path, cookie)).body).toContain('1 picture');
  await world.apply({ kind: 'setPrivate', selection: { query: 'name:b.jpg' }, private: false });
  await world.services.viewLinks.revoke([id], keeper);
  expect((await get(path, cookie)).statusCode).toBe(404);
});

test('a link that follows shows what was found for it; nothing else of ours is served', async () => {
  const { path } = await make({ source: { kind: 'following', query: 'name:a.jpg or rating:5', sort: 'name' } });
  expect((await view(path)).keys).toHaveLength(1);
  await world.apply({ kind: 'setRating', selection: { query: 'name:b.jpg' }, rating: 5 });
  await world.services.linksFollow.run();
  expect((await view(path)).keys).toHaveLength(2);
  for (const other of ['/', '/api/session', '/api/photos', '/api/openapi.json', '/v/', '/v/../api/photos'])
    expect((await get(other)).statusCode).toBe(404);
  expect((await get(path)).headers['content-security-policy']).toContain("default-src 'none'");
});

test.each([
  ['a folder', async () => ({ kind: 'folder' as const, folderId: await folderOf('inside') })],
  [
    'a search',
    async () => ({
      kind: 'search' as const,
      searchId: await searchFor('creator:"Ida Brandt" rating:>=0 not is:double'),
    }),
  ],
  [
    'a search that asks for what the role can’t read',
    async () => ({ kind: 'search' as const, searchId: await searchFor('name:a.jpg not has:faces not changed:>2000') }),
  ],
])('of who may deliver only %s others see no more, whatever the role can read', async (_, place) => {
  const { teams, accounts, rights } = world.services;
  const name = `helper${helpers++}`;
  await accounts.ensure([{ name, displayName: 'Helper', role: 'viewer', password: 'a password of theirs' }]);
  const id = (await accounts.find(name))?.id ?? 0;
  const role = await teams.saveRole({ id: null, name: `Delivers ${name}`, permissions: ['deliver'] });
  await teams.giveRight({ kind: 'account', id }, role, await place());
  const helper = await rights.personOf(id);
  const { path } = await make({ source: { kind: 'fixed', selection: { query: 'name:a.jpg' }, sort: 'name' } }, helper);
  const { first } = await view(path);
  expect([200, 404]).toContain(first.statusCode);
  expect(first.body).not.toContain('Harbour');
  if (!_.includes('can’t')) expect(first.body).toContain('1 picture');
});

let helpers = 0;
const folderOf = async (path: string) =>
  (await world.services.database.row<{ id: number }>('select id from folder where path = $1', [path]))?.id ?? 0;
async function searchFor(query: string) {
  const { id } = await world.apply({ kind: 'saveSearch', name: `Search ${helpers}`, query, sort: 'taken' });
  const row = await world.services.database.row<{ id: number }>(
    'select max(id) as id from saved_search where $1::int > 0',
    [id],
  );
  return row?.id ?? 0;
}

/** What an attacker who has the role’s password can say. */
async function asRole<Result>(work: (say: (sql: string) => Promise<unknown[]>) => Promise<Result>): Promise<Result> {
  const client = new Client({ connectionString: url });
  await client.connect();
  try {
    return await work(async (sql) => (await client.query<Record<string, unknown>>(sql)).rows);
  } finally {
    await client.end();
  }
}

test.each([
  'select password_hash from account',
  'select * from session',
  'select * from api_token',
  'select * from ledger_entry',
  'select * from link_answer',
  'select * from access_entry',
  'select * from delivery_server',
  'select * from letter',
  'select mount_point from drive',
  "update photo set private = false where name = 'c.jpg'",
  "update view_link set query = ''",
  'update view_link set photo_ids = photo_ids',
  'delete from view_link',
  'insert into account (name) values (1)',
  'drop table photo',
  'create table public.mine (id int)',
])('the role may not: %s', async (sql) => {
  await expect(asRole((say) => say(sql))).rejects.toThrow(/permission denied|must be owner/);
});

test('private photos, revoked links and other settings do not exist for the role', async () => {
  const { id } = await make();
  await world.services.viewLinks.revoke([id], keeper);
  await world.services.database.rows(
    `insert into setting (name, value) values ('secretOfOurs', '1') on conflict do nothing`,
  );
  await asRole(async (say) => {
    expect(await say('select name from photo order by name')).toEqual([{ name: 'a.jpg' }, { name: 'b.jpg' }]);
    expect(await say('select count(*)::int as count from photo_text')).toEqual([{ count: 2 }]);
    expect(await say(`select id from view_link where id = ${id}`)).toEqual([]);
    expect(await say(`update view_link set views = 0 where id = ${id} returning id`)).toEqual([]);
    expect(await say(`select name from setting where name = 'secretOfOurs'`)).toEqual([]);
  });
});

test('a role that may do more, or less, is refused', async () => {
  await expect(openLinkServer(world.config, world.databaseUrl, log)).rejects.toThrow(
    'may do more than show view links',
  );
  await world.services.database.rows(`create role nobody_${process.pid} login password 'x'`);
  const other = new URL(world.databaseUrl);
  [other.username, other.password] = [`nobody_${process.pid}`, 'x'];
  await expect(openLinkServer(world.config, other.href, log)).rejects.toThrow('may not show view links');
});
