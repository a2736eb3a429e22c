import { mkdir, readdir, readFile, rename, rm, stat, truncate, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { execFileSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { places } from '../config';
import { requirePostgresPrograms } from '../database/cluster';
import { openDatabase } from '../database/database';
import { readSetting } from '../database/settings';
import { openServices } from '../services';
import { openWorld, PASSWORDS, putFiles, realJpeg, type World } from '../testing/world';
import * as catalogue from './catalogueStore';
import { writeBag } from './bag';
import { checkedContents, CONTENTS, PACKED_DUMP } from './contents';
import { makeBackup } from './make';
import { environmentOf } from './postgresTools';
import { restoreBackup } from './restore';
import { trialOf } from './trial';
import pino from 'pino';
import { PROGRAM } from '../catalogue/viewer';

let world: World;
afterEach(() => world.close());

const nobody = () => Promise.resolve();
const back = (folder = join(world.config.home, 'backups')) =>
  makeBackup(
    world.config,
    world.databaseUrl,
    { id: randomUUID(), folder, nightly: false, previews: false, likelyBytes: 0 },
    nobody,
  );
const figuresOf = (url: string, summed: catalogue.SummedAs = 'records') =>
  catalogue.withClient(url, (client) => catalogue.readFigures(client, summed));

async function describedDrive(): Promise<string> {
  const drive = await world.addDrive('Vault');
  await putFiles(drive, {
    '1952/a.jpg': await realJpeg({ keywords: ['from before'], description: 'stays' }),
    'b.jpg': await realJpeg(),
    'gone/c.jpg': await realJpeg({}, 33),
  });
  await world.takeIn(drive);
  await world.apply({ kind: 'addTerms', parentId: null, terms: [{ label: 'Rokkaku' }] });
  const [term] = await world.services.vocabulary.list();
  await world.apply({ kind: 'giveTerms', selection: { query: '' }, termIds: [term?.id ?? 0] });
  // Once the finder has read everything it notes how far: from here on nothing but the test writes.
  await world.services.search.all.count('');
  return drive;
}

test('a backup holds every table as it was when it began, though people go on working', async () => {
  world = await openWorld();
  await describedDrive();
  await mkdir(join(places.faces(world.config.home), '0000'), { recursive: true });
  await writeFile(join(places.faces(world.config.home), '0000', '7.webp'), 'a face');
  const before = await figuresOf(world.databaseUrl);
  let changed = false;
  const made = await makeBackup(
    world.config,
    world.databaseUrl,
    { id: randomUUID(), folder: join(world.config.home, 'elsewhere'), nightly: true, previews: true, likelyBytes: 0 },
    async () => {
      if (changed) return;
      changed = true;
      await world.apply({ kind: 'setRating', selection: { query: '' }, rating: 5 });
    },
  );
  expect(changed).toBe(true);
  expect(await figuresOf(world.databaseUrl)).not.toEqual(before);
  const contents = await checkedContents(made.path);
  expect(contents).toMatchObject({ holds: 'archive', nightly: true, previews: true, tables: before });
  expect(await readdir(join(world.config.home, 'elsewhere'))).toHaveLength(1);
  expect((await stat(made.path)).mode & 0o077).toBe(0);
  // What was backed up can be restored, and is dropped after the trial.
  expect(await trialOf(made.path, contents, world.databaseUrl)).toBe(Object.keys(before).length);
  const name = new URL(world.databaseUrl).pathname.slice(1);
  const left = await world.services.database.rows('select 1 from pg_database where starts_with(datname, $1)', [
    `${name}-`,
  ]);
  expect(left).toEqual([]);
});

test('a restored catalogue says what it said; what is there before is kept; files that have moved on are compared, and nothing is overwritten', async () => {
  world = await openWorld();
  const drive = await describedDrive();
  await world.apply({ kind: 'setRating', selection: { query: 'name:b.jpg' }, rating: 2 });
  const made = await back();
  const contents = await checkedContents(made.path);

  // What happens after the backup: more is described and written, and another program changes a file.
  await world.apply({ kind: 'setRating', selection: { query: 'name:b.jpg' }, rating: 4 });
  await world.apply({
    kind: 'setFields',
    selection: { query: 'name:a.jpg' },
    edits: [{ target: 'headline', mode: 'replace', value: 'Said since' }],
  });
  // A folder moves to where nobody knows of it.
  await rename(join(drive, 'gone'), join(drive, 'elsewhere'));
  const { id } = await world.services.writeBack.run(world.services.jobs, { retryFailed: false }, world.keeperId);
  await world.until(id, ['done']);
  const filesNow = await Promise.all(['1952/a.jpg', 'b.jpg'].map((name) => readFile(join(drive, name))));
  await world.services.jobs.start('index', 'under way', { driveId: randomUUID(), folder: '', subFolders: true }, null);

  const { config, databaseUrl } = world;
  await expect(restoreBackup(config, databaseUrl, { path: made.path, contents, replace: true })).rejects.toThrow(
    'Something still works with the catalogue',
  );
  await world.app.close();
  await world.services.close();
  await expect(restoreBackup(config, databaseUrl, { path: made.path, contents, replace: false })).rejects.toThrow(
    'There is a catalogue already, of 3 photos. --replace',
  );
  const restored = await restoreBackup(config, databaseUrl, { path: made.path, contents, replace: true });
  expect(restored.kept[0]).toMatch(/^database test_.*-before-/);

  const database = openDatabase(databaseUrl);
  expect(await readSetting(database, 'restored')).toMatchObject({ at: expect.any(String) as string });
  expect(await database.rows(`select id from job_run where finished_at is null`)).toEqual([]);
  expect(await database.rows('select 1 as x from session')).toEqual([]);
  await database.close();

  const services = await openServices(config, databaseUrl, pino({ level: 'silent' }));
  try {
    const read = async (name: string) =>
      (await services.photos.list(PROGRAM, { query: `name:${name}`, sort: 'added', offset: 0, limit: 1 }))[0];
    expect(await read('b.jpg')).toMatchObject({ rating: 2 });
    await services.start();
    // Drives are compared by themselves: what the files say that the catalogue has not said otherwise is taken.
    for (;;) {
      const jobs = await services.jobs.list();
      if (jobs.some(({ title, state }) => title.startsWith('Compare Vault') && state === 'done')) break;
      await new Promise<void>((resolve) => {
        const unsubscribe = services.events.subscribe(() => {
          unsubscribe();
          resolve();
        });
      });
    }
    const filesAfter = await Promise.all(['1952/a.jpg', 'b.jpg'].map((name) => readFile(join(drive, name))));
    expect(filesAfter).toEqual(filesNow);
    expect(await services.search.all.count('is:conflict name:b.jpg')).toBe(1);
    expect(await services.search.all.count('is:missing name:c.jpg')).toBe(1);
    expect(await services.search.all.count('headline:"Said since"')).toBe(1);
  } finally {
    await services.close();
    await world.rest();
  }
});

test('a backup that is damaged anywhere, cut off, or of something else is refused by name', async () => {
  world = await openWorld();
  await describedDrive();
  const { path } = await back();
  const whole = await readFile(path);
  for (const place of [0.1, 0.3, 0.5, 0.7]) {
    const bytes = Buffer.from(whole);
    const at = Math.floor(bytes.length * place);
    bytes[at] = (bytes[at] ?? 0) ^ 0x40;
    await writeFile(path, bytes);
    await expect(checkedContents(path)).rejects.toThrow(`${path} is damaged`);
  }
  await writeFile(path, whole);
  await truncate(path, whole.length - 4096);
  await expect(checkedContents(path)).rejects.toThrow(/is cut off|is damaged/);
  await truncate(path, Math.floor(whole.length / 2));
  await expect(checkedContents(path)).rejects.toThrow(/is cut off|is damaged/);
  await writeFile(path, 'no backup at all');
  await expect(checkedContents(path)).rejects.toThrow(/no backup of Stellin|is damaged/);
  await writeFile(path, whole);
  expect((await checkedContents(path)).holds).toBe('archive');
});

test('one whose rows were summed up as texts, as the first version did, is still told from what is not the same', async () => {
  world = await openWorld();
  // The finder notes how far it has read; from here on nobody writes.
  await world.services.search.all.count('');
  const { path } = await back();
  const contents = await checkedContents(path);
  const first = { ...contents, version: 1 as const, tables: await figuresOf(world.databaseUrl, 'texts') };
  expect(await trialOf(path, first, world.databaseUrl)).toBeGreaterThan(30);
  const other = { ...first.tables, account: { rows: first.tables['account']?.rows ?? 0, sum: '1' } };
  await expect(trialOf(path, { ...first, tables: other }, world.databaseUrl)).rejects.toThrow(
    'rows of account are others',
  );
});

test('one whose dump was packed by pg_dump itself, as up to the second version, is restored as well', async () => {
  world = await openWorld();
  // The finder notes how far it has read; from here on nobody writes.
  await world.services.search.all.count('');
  const contents = { ...(await checkedContents((await back()).path)), version: 2 as const };
  contents.tables = await figuresOf(world.databaseUrl);
  const path = join(world.config.home, 'second.tar');
  const bag = await writeBag(path, `${path}.part`);
  const dump = execFileSync(
    join(requirePostgresPrograms(), 'pg_dump'),
    ['--format=custom', '--no-owner', '--no-privileges'],
    { env: environmentOf(world.databaseUrl), maxBuffer: 2 ** 30 },
  );
  await bag.begin(PACKED_DUMP, (into) => pipeline(Readable.from([dump]), into));
  await bag.addText(CONTENTS, JSON.stringify(contents));
  await bag.finish({});
  expect(await trialOf(path, await checkedContents(path), world.databaseUrl)).toBeGreaterThan(30);
});

test('one of a newer schema is refused before anything is made', async () => {
  world = await openWorld();
  const { path } = await back();
  const contents = await checkedContents(path);
  const newer = { ...contents, migrations: [...contents.migrations, '9999-later'] };
  await expect(trialOf(path, newer, world.databaseUrl)).rejects.toThrow('made by a newer version of Stellin');
});

test('the job notes what it made or why not; nightly ones beyond the rule go, those that were asked for stay', async () => {
  world = await openWorld();
  const { services } = world;
  const plan = (await services.backups.list()).plan;
  await services.backups.settlePlan({ ...plan, keep: { days: 0, weeks: 0, months: 0 } });
  for (const nightly of [true, false, true, true]) {
    const { id } = await services.backups.start(world.keeperId, nightly);
    await world.until(id, ['done']);
  }
  const { backups } = await services.backups.list();
  expect(backups.map(({ nightly, there, problem }) => [nightly, there, problem])).toEqual([
    [true, true, null],
    [false, true, null],
  ]);
  expect(await readdir(services.backups.ownFolder)).toHaveLength(2);

  const checking = await services.backups.check(backups[0]?.id ?? '', world.keeperId);
  await world.until(checking.id, ['done']);
  expect(await services.backups.state()).toMatchObject({
    last: { isOld: false },
    failed: null,
    checked: { problem: null },
  });
  await writeFile(backups[0]?.path ?? '', 'broken');
  const again = await services.backups.check(backups[0]?.id ?? '', world.keeperId);
  await world.until(again.id, ['failed']);
  expect((await services.backups.state()).checked?.problem).toMatch(/damaged|no backup/);
});

test('where the folder can’t be used, that is said; a try that failed is kept with its reason, and nothing half-made is left', async () => {
  world = await openWorld();
  const { services } = world;
  const file = join(world.config.home, 'a file');
  await writeFile(file, '');
  const { plan } = await services.backups.list();
  await expect(services.backups.settlePlan({ ...plan, folder: join(file, 'below') })).rejects.toThrow('can’t be used');
  const folder = join(world.config.home, 'disk');
  await services.backups.settlePlan({ ...plan, folder });
  await rm(folder, { recursive: true });
  await writeFile(folder, '');
  const { id } = await services.backups.start(null, true);
  await world.until(id, ['failed']);
  expect(await services.backups.state()).toMatchObject({
    last: null,
    failed: { problem: expect.stringContaining(folder) as string },
  });
});

test('everybody sees how old the last one is; only keepers see where they are, and make them', async () => {
  world = await openWorld();
  const signedIn = await world.app.inject({
    method: 'POST',
    url: '/api/session',
    payload: { name: 'viewer', password: PASSWORDS.viewer },
  });
  const viewer = { cookie: String(signedIn.headers['set-cookie']).split(';')[0] ?? '' };
  const state = await world.app.inject({ url: '/api/backups/state', headers: viewer });
  expect(state.json()).toEqual({ nightly: true, last: null, failed: null, checked: null });
  for (const [method, url] of [
    ['GET', '/api/backups'],
    ['POST', '/api/backups'],
  ] as const)
    expect((await world.app.inject({ method, url, headers: viewer })).statusCode).toBe(403);
});
