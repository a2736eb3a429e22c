import { execFileSync } from 'node:child_process';
import { appendFile, mkdir, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { memorySource } from '@stellin/core/metadata/bytes';
import { readMetadata } from '@stellin/core/metadata/read';
import { places } from '../config';
import { openServices } from '../services';
import { Client } from 'pg';
import { openDatabase } from '../database/database';
import { migrate, MIGRATION_NAMES, migrationsNamed } from '../database/migrate';
import { createDatabase, databaseUrl } from './catalogueStore';
import { openWorld, PASSWORDS, putFiles, realJpeg, type World } from '../testing/world';
import * as catalogue from './catalogueStore';
import { checkedTaken, takeIn } from './takeIn';
import { takeOut } from './takeOut';
import * as store from './takeOutStore';
import pino from 'pino';
import { PROGRAM } from '../catalogue/viewer';

let world: World;
afterEach(() => world.close());

const nobody = () => undefined;
const figuresOf = (url: string) =>
  catalogue.withClient(url, async (client) => {
    await store.settle(client);
    return store.figuresOf(client, await store.takenTables(client));
  });

/** A catalogue with something of everything in it. */
async function busyWorld(): Promise<string> {
  world = await openWorld();
  const drive = await world.addDrive('Vault');
  await putFiles(drive, {
    '1952/a.jpg': await realJpeg({ keywords: ['from before'], description: 'stays', rating: 2 }),
    'b.jpg': await realJpeg(),
    'gone/c.jpg': await realJpeg({ headline: 'Two\u2028lines' }, 33),
  });
  await world.takeIn(drive);
  const apply = world.apply.bind(world);
  await apply({ kind: 'addTerms', parentId: null, terms: [{ label: 'Kites' }] });
  const [term] = await world.services.vocabulary.list();
  await apply({ kind: 'addTerms', parentId: term?.id ?? null, terms: [{ label: 'Rokkaku', scopeNote: 'Six sides' }] });
  const rokkaku = (await world.services.vocabulary.list()).find(({ label }) => label === 'Rokkaku');
  await apply({ kind: 'giveTerms', selection: { query: '' }, termIds: [rokkaku?.id ?? 0] });
  await apply({ kind: 'setRating', selection: { query: 'name:a.jpg' }, rating: 4 });
  await apply({ kind: 'setMark', selection: { query: 'name:b.jpg' }, mark: '=Print' });
  await apply({ kind: 'makeDossier', name: 'Loans', note: 'For 2027' });
  const [dossier] = await world.services.dossiers.list(PROGRAM);
  await apply({ kind: 'putInDossier', dossierId: dossier?.id ?? 0, selection: { query: 'name:a.jpg' } });
  await apply({ kind: 'namePhotos', selection: { query: 'name:a.jpg' }, who: { name: 'Ida Brandt' } });
  await apply({ kind: 'saveSearch', name: 'Best', query: 'rating:>=4', sort: 'taken' });
  await apply({ kind: 'setPrivate', selection: { query: 'name:b.jpg' }, private: true });
  await apply({ kind: 'removePhotos', selection: { query: 'name:c.jpg' } });
  await world.services.ledger.undo(world.keeperId);
  await mkdir(join(places.faces(world.config.home), '0000'), { recursive: true });
  await writeFile(join(places.faces(world.config.home), '0000', '7.webp'), 'a face');
  return drive;
}

const taken = () => join(world.config.home, 'taken out');

test('a catalogue that was taken out and in elsewhere is equal in every table, and goes on', async () => {
  await busyWorld();
  const before = await figuresOf(world.databaseUrl);
  const folder = taken();
  expect(await takeOut(world.config, world.databaseUrl, folder, nobody)).toMatchObject({ photos: 3 });
  // Others can tell whether it is whole.
  execFileSync('sha256sum', ['--quiet', '-c', 'manifest-sha256.txt'], { cwd: folder });

  const other = await openWorld({ working: false });
  const { config } = other;
  try {
    const contents = await checkedTaken(folder);
    await expect(takeIn(config, other.databaseUrl, { folder, contents, replace: false }, nobody)).rejects.toThrow(
      'Something still works with the catalogue',
    );
    await other.app.close();
    await other.services.close();
    await expect(takeIn(config, other.databaseUrl, { folder, contents, replace: false }, nobody)).rejects.toThrow(
      'There is a catalogue already',
    );
    const { kept, tables } = await takeIn(config, other.databaseUrl, { folder, contents, replace: true }, nobody);
    expect(kept).toHaveLength(1);
    expect(tables).toBe(Object.keys(before).length);
    const after = await figuresOf(other.databaseUrl);
    // What is settled in a catalogue that comes from elsewhere: drives are away, and it is noted when it came.
    const settled = new Set(['drive', 'setting', 'job_run']);
    for (const [name, figure] of Object.entries(before))
      if (!settled.has(name)) expect([name, after[name]]).toEqual([name, figure]);
    expect(await readFile(join(places.faces(config.home), '0000', '7.webp'), 'utf8')).toBe('a face');

    const services = await openServices(config, other.databaseUrl, pino({ level: 'silent' }));
    try {
      expect(await services.search.all.count('term:Rokkaku rating:4 person:"Ida Brandt" dossier:Loans')).toBe(1);
      expect(await services.search.all.count('is:private mark:"=Print"')).toBe(1);
      // Nobody signs in before a password was set.
      await expect(services.accounts.signIn('keeper', PASSWORDS.keeper)).rejects.toThrow();
      await services.accounts.setPassword('keeper', 'another-password');
      expect(await services.accounts.signIn('keeper', 'another-password')).toBeTruthy();
      // New rows get numbers of their own.
      await services.ledger.apply(
        { kind: 'makeDossier', name: 'New', note: '', parentId: null, colour: '' },
        world.keeperId,
      );
      expect(await services.dossiers.list(PROGRAM)).toHaveLength(2);
    } finally {
      await services.close();
    }
  } finally {
    await other.close();
  }
});

test('every photo has its sidecar, which says what the catalogue says; lists and vocabularies are there', async () => {
  await busyWorld();
  const folder = taken();
  await takeOut(world.config, world.databaseUrl, folder, nobody);
  const names = await readdir(join(folder, 'data'), { recursive: true });
  expect(names.filter((name) => name.endsWith('.xmp')).sort()).toEqual([
    'sidecars/Vault/1952/a.jpg.xmp',
    'sidecars/Vault/b.jpg.xmp',
    'sidecars/Vault/gone/c.jpg.xmp',
  ]);
  const sidecar = await readFile(join(folder, 'data/sidecars/Vault/1952/a.jpg.xmp'));
  expect(readMetadata(memorySource(sidecar)).fields).toMatchObject({
    description: 'stays',
    rating: 4,
    keywords: expect.arrayContaining(['from before', 'Rokkaku', 'Kites']) as string[],
    personInImage: ['Ida Brandt'],
  });
  const list = (name: string) => readFile(join(folder, 'data/lists', `${name}.csv`), 'utf8');
  expect(await list('photos')).toContain('Vault/1952/a.jpg');
  // No spreadsheet takes it for a formula.
  expect(await list('photos')).toContain(`'=Print`);
  expect(await list('dossiers')).toContain('Loans');
  expect(await list('searches')).toContain('rating:>=4');
  expect(await list('persons')).toContain('Ida Brandt');
  expect(await list('ledger')).toContain('Give “Rokkaku” to 3 photos');
  const [vocabulary = ''] = names.filter((name) => name.endsWith('.ttl'));
  expect(await readFile(join(folder, 'data', vocabulary), 'utf8')).toContain('Rokkaku');
  expect(await readFile(join(folder, 'data/catalogue/account.jsonl'), 'utf8')).not.toContain('argon2');
});

test('what is damaged, cut off or of another kind is refused, and nothing has changed', async () => {
  await busyWorld();
  const folder = taken();
  await takeOut(world.config, world.databaseUrl, folder, nobody);
  await expect(takeOut(world.config, world.databaseUrl, folder, nobody)).rejects.toThrow('is not empty');
  await appendFile(join(folder, 'data/catalogue/photo.jsonl'), '{}\n');
  await rm(join(folder, 'data/catalogue/term.jsonl'));
  await expect(checkedTaken(folder)).rejects.toThrow(/photo\.jsonl is not as it was written; .*term\.jsonl is missing/);
  await rm(join(folder, 'manifest-sha256.txt'));
  await expect(checkedTaken(folder)).rejects.toThrow('no manifest');
  await expect(checkedTaken(join(folder, 'data'))).rejects.toThrow('is no bag');
});

test('all that is given up leaves nothing behind', async () => {
  await busyWorld();
  const folder = taken();
  await expect(
    takeOut(world.config, world.databaseUrl, folder, (doing) => {
      if (doing.includes('photo_text')) throw new Error('given up');
    }),
  ).rejects.toThrow('given up');
  expect((await readdir(join(folder, '..'))).filter((name) => name.includes('taken out'))).toEqual([]);
});

test('what an earlier version took out is taken in, and brought up to date', async () => {
  const admin = new Client({ connectionString: process.env['STELLIN_TEST_SERVER'] });
  await admin.connect();
  const name = `earlier_${process.pid}_${Date.now()}`;
  await createDatabase(admin, name);
  await admin.end();
  const url = databaseUrl(world.databaseUrl, name);
  const earlier = openDatabase(url);
  // Accounts had one role then, and always a password.
  await migrate(earlier, migrationsNamed(MIGRATION_NAMES.filter((one) => one < '0027')));
  await earlier.rows(
    `insert into account (name, display_name, role, password_hash) values ('mara', 'Mara Olt', 'keeper', 'x'), ('elin', 'Elin', 'viewer', 'x')`,
  );
  await earlier.close();
  const folder = taken();
  await takeOut(world.config, url, folder, nobody);
  const other = await openWorld({ working: false });
  await other.app.close();
  await other.services.close();
  await takeIn(
    other.config,
    other.databaseUrl,
    { folder, contents: await checkedTaken(folder), replace: true },
    nobody,
  );
  const services = await openServices(other.config, other.databaseUrl, pino({ level: 'silent' }));
  try {
    expect((await services.accounts.list()).map((one) => [one.name, one.role])).toEqual([
      ['elin', 'Viewer'],
      ['mara', 'Keeper'],
    ]);
    await expect(services.accounts.signIn('mara', 'x')).rejects.toThrow('do not belong together');
  } finally {
    await services.close();
  }
});
