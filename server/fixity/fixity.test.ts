import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { open, readdir, readFile, rename, rm, stat, utimes, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { checkBagFolder } from '../files/bagFolder';
import { COPY_BACK_STEPS } from '../files/fault';
import { openWorld, putFiles, realJpeg, startWorker, type World } from '../testing/world';
import { writeDriveBag } from './driveBag';
import { readWhatIsDue } from './schedule';
import { takeManifest } from './takeManifest';
import { PROGRAM } from '../catalogue/viewer';

let world: World;
let vault: string;
let second: string;
beforeEach(async () => {
  world = await openWorld();
  [vault, second] = [await world.addDrive('Vault'), await world.addDrive('Second')];
  const kite = await realJpeg({ keywords: ['dunes'] }, 20);
  await putFiles(vault, { '2019/a.jpg': kite, '2019/b.jpg': await realJpeg({}, 90) });
  await putFiles(second, { 'copy.jpg': kite });
  await world.takeIn(vault);
  await world.takeIn(second);
});
afterEach(() => world.close());

const count = (query: string) => world.services.search.all.count(query);
const driveId = async (label = 'Vault') =>
  (await world.services.drives.list(PROGRAM)).find((drive) => drive.label === label)?.id ?? '';
const sha256 = async (path: string) =>
  createHash('sha256')
    .update(await readFile(path))
    .digest('hex');
/** Reads a drive again and waits for the end. */
const readAgain = async (label = 'Vault') => {
  const { id } = await world.services.fixity.readDrive(await driveId(label), world.keeperId);
  return (await world.until(id, ['done'])).result;
};
const knownHash = async (name: string) => {
  const row = await world.services.database.row<{ hash: string }>(
    `select encode(x.sha256, 'hex') as hash from photo_fixity x join photo p on p.id = x.photo_id where p.name = $1`,
    [name],
  );
  return row?.hash;
};
/** Turns a bit of the picture over, as a drive does that forgets: size and time stay. */
const rot = async (path: string) => {
  const { size, atime, mtime } = await stat(path);
  const file = await open(path, 'r+');
  const at = size - 40;
  const { buffer } = await file.read(Buffer.alloc(1), 0, 1, at);
  await file.write(Buffer.from([(buffer[0] ?? 0) ^ 1]), 0, 1, at);
  await file.close();
  await utimes(path, atime, mtime);
};
const damaged = async () => world.services.fixity.listDamaged(PROGRAM);
const idOf = async (name: string) => (await world.ids()).get(name) ?? 0;
const lastJob = async (kind: string) => (await world.services.jobs.list()).find((job) => job.kind === kind);
const writeBack = async () => {
  const { id } = await world.services.writeBack.run(world.services.jobs, { retryFailed: false }, world.keeperId);
  await world.until(id, ['done']);
};
const putBack = async () => {
  await world.apply({ kind: 'putCopyBack', photoId: await idOf('a.jpg'), copyId: await idOf('copy.jpg') });
  const job = await lastJob('copyBack');
  return world.until(job?.id ?? '', ['done']);
};

test('what is taken in is known by its SHA-256, and unchanged when it is read again', async () => {
  expect(await knownHash('a.jpg')).toBe(await sha256(join(vault, '2019/a.jpg')));
  expect(await count('fixity:unchanged')).toBe(3);
  expect(await readAgain()).toMatchObject({ read: 2, damaged: 0, others: 0, missing: 0 });
  expect(await count('fixity:unchanged')).toBe(3);
  const { drives } = await world.services.fixity.show(PROGRAM);
  expect(drives.map(({ label, photos, unchanged }) => ({ label, photos, unchanged }))).toEqual([
    { label: 'Second', photos: 1, unchanged: 1 },
    { label: 'Vault', photos: 2, unchanged: 2 },
  ]);
});

test('our own writes are known as ours, in the file and beside it, and taking them back as well', async () => {
  await world.apply({ kind: 'setRating', selection: { query: 'name:b.jpg' }, rating: 4 });
  await writeBack();
  expect(await count('fixity:ours')).toBe(1);
  expect(await knownHash('b.jpg')).toBe(await sha256(join(vault, '2019/b.jpg')));
  expect(await readAgain()).toMatchObject({ read: 2, damaged: 0, others: 0 });
  expect(await count('fixity:ours')).toBe(1);
});

test('another program’s metadata is no damage: it is read, and known from then on', async () => {
  const path = join(vault, '2019/b.jpg');
  const { atime, mtime } = await stat(path);
  await writeFile(path, await realJpeg({ rating: 5 }, 90));
  // Whoever looks at the time alone sees nothing.
  await utimes(path, atime, mtime);
  expect(await readAgain()).toMatchObject({ read: 2, damaged: 0, others: 1 });
  expect(await count('fixity:others rating:5')).toBe(1);
  expect(await knownHash('b.jpg')).toBe(await sha256(path));
  expect(await readAgain()).toMatchObject({ others: 0 });
  expect(await count('fixity:others')).toBe(1);
});

test('a bit that turned over is found, a good copy is put back, and undo brings the damaged file back', async () => {
  const path = join(vault, '2019/a.jpg');
  await world.apply({ kind: 'setRating', selection: { query: 'name:a.jpg' }, rating: 4 });
  const good = await readFile(path);
  await rot(path);
  const broken = await readFile(path);
  expect(await readAgain()).toMatchObject({ damaged: 1, others: 0 });
  expect(await count('fixity:damaged')).toBe(1);
  const [found] = await damaged();
  expect(found).toMatchObject({ path: 'Vault/2019/a.jpg', copies: [{ path: 'Second/copy.jpg', away: false }] });

  expect((await putBack()).result).toEqual({ putBack: 1, failed: 0 });
  expect(await readFile(path)).toEqual(good);
  expect(await count('fixity:damaged')).toBe(0);
  // What was said of it here stands, and waits to be written.
  expect(await count('name:a.jpg rating:4 is:waiting')).toBe(1);
  expect(await readAgain()).toMatchObject({ damaged: 0 });

  await world.services.ledger.undo(world.keeperId);
  await world.until((await lastJob('copyBack'))?.id ?? '', ['done']);
  expect(await readFile(path)).toEqual(broken);
  expect(await count('fixity:damaged')).toBe(1);
  await world.services.ledger.redo(world.keeperId);
  await world.until((await lastJob('copyBack'))?.id ?? '', ['done']);
  expect(await readFile(path)).toEqual(good);
});

test('a damaged file that we write into stays damaged, and the good copy takes what was written', async () => {
  const path = join(vault, '2019/a.jpg');
  await rot(path);
  await readAgain();
  await world.apply({ kind: 'setRating', selection: { query: 'name:a.jpg' }, rating: 5 });
  await writeBack();
  expect(await count('fixity:damaged')).toBe(1);
  await putBack();
  expect(await count('name:a.jpg rating:5 is:waiting fixity:ours')).toBe(1);
});

test('a copy that is damaged itself is never put in place', async () => {
  await rot(join(vault, '2019/a.jpg'));
  await readAgain();
  const broken = await readFile(join(vault, '2019/a.jpg'));
  // Nobody knows of it yet.
  await rot(join(second, 'copy.jpg'));
  expect((await putBack()).result).toEqual({ putBack: 0, failed: 1 });
  expect(await readFile(join(vault, '2019/a.jpg'))).toEqual(broken);
  expect((await world.services.ledger.list(PROGRAM, { limit: 1 }))[0]?.photos).toBe(0);
  await readAgain('Second');
  expect(await damaged()).toMatchObject([{ copies: [] }, { copies: [] }]);
  await expect(
    world.apply({ kind: 'putCopyBack', photoId: await idOf('a.jpg'), copyId: await idOf('copy.jpg') }),
  ).rejects.toMatchObject({ code: 'noCopyOfIt' });
});

test.each(COPY_BACK_STEPS)('killed at %s the next process goes on, and both files are whole', async (step) => {
  const path = join(vault, '2019/a.jpg');
  const good = await readFile(path);
  await rot(path);
  const broken = await readFile(path);
  await readAgain();
  await world.rest();
  await world.apply({ kind: 'putCopyBack', photoId: await idOf('a.jpg'), copyId: await idOf('copy.jpg') });
  const job = await lastJob('copyBack');
  expect(await startWorker(world, step).ended).toBe('SIGKILL');
  await world.services.start();
  await world.until(job?.id ?? '', ['done']);
  expect(await readFile(path)).toEqual(good);
  const [kept = ''] = await readdir(join(vault, '.stellin-kept'));
  expect(await readFile(join(vault, '.stellin-kept', kept, 'damaged'))).toEqual(broken);
  expect(await count('fixity:damaged')).toBe(0);
});

test('a picture that somebody changed on purpose is taken for the right one when it is said so', async () => {
  await writeFile(join(vault, '2019/b.jpg'), await realJpeg({}, 200));
  await world.takeIn(vault);
  expect(await count('fixity:damaged')).toBe(1);
  await world.services.fixity.accept(await idOf('b.jpg'));
  expect(await count('fixity:damaged')).toBe(0);
  expect(await readAgain()).toMatchObject({ damaged: 0 });
});

test('a file that is gone is missing; one of a drive that is away says nothing', async () => {
  await rm(join(vault, '2019/b.jpg'));
  expect(await readAgain()).toMatchObject({ missing: 1, damaged: 0 });
  expect(await count('fixity:missing is:missing')).toBe(1);
  const { id } = await world.services.fixity.readDrive(await driveId(), world.keeperId);
  await world.until(id, ['done']);
  const away = await world.unplug(second);
  await world.eventually(async () => !(await world.services.drives.isAttached(await driveId('Second'))));
  await expect(world.services.fixity.readDrive(await driveId('Second'), world.keeperId)).rejects.toMatchObject({
    code: 'driveAway',
  });
  await world.plugIn(away, 'second again');
  expect(await count('is:missing')).toBe(1);
});

test('what is due is read in its hours, in its turn, and no more than once', async () => {
  const { database, jobs, fixity } = world.services;
  const at = (time: string) => new Date(new Date(`2000-01-01T${time}`).getTime() + 40 * 365.25 * 24 * 3600 * 1000);
  await fixity.settlePlan({ byItself: true, hours: { from: '22:00', to: '06:00' }, days: 30, megabytes: 1000 });
  const fixityJobs = async () => (await jobs.list()).filter(({ kind }) => kind === 'fixity');
  await readWhatIsDue(database, jobs, at('12:00'));
  expect(await fixityJobs()).toEqual([]);
  await readWhatIsDue(database, jobs, new Date(`${new Date().toISOString().slice(0, 10)}T23:00`));
  expect(await fixityJobs()).toEqual([]);
  await database.rows(`update photo_fixity set proven_at = now() - interval '31 days'`);
  await fixity.settlePlan({ byItself: false, hours: { from: '00:00', to: '00:00' }, days: 30, megabytes: 1000 });
  await readWhatIsDue(database, jobs, new Date());
  expect(await fixityJobs()).toEqual([]);
  await fixity.settlePlan({ byItself: true, hours: { from: '00:00', to: '00:00' }, days: 30, megabytes: 1000 });
  await readWhatIsDue(database, jobs, new Date());
  const started = await fixityJobs();
  expect(started).toHaveLength(2);
  for (const { id } of started) expect((await world.until(id, ['done'])).result).toMatchObject({ damaged: 0, left: 0 });
  await readWhatIsDue(database, jobs, new Date());
  expect(await fixityJobs()).toHaveLength(2);
});

test('killed while a drive is read it goes on where it was, and nothing is taken for what it is not', async () => {
  await rot(join(vault, '2019/b.jpg'));
  await world.rest();
  const { id } = await world.services.fixity.readDrive(await driveId(), world.keeperId);
  expect(await startWorker(world, 'fixity:read').ended).toBe('SIGKILL');
  expect(await count('fixity:unchanged')).toBe(3);
  await world.services.start();
  expect((await world.until(id, ['done'])).result).toMatchObject({ read: 2, damaged: 1 });
  expect(await count('fixity:damaged name:b.jpg')).toBe(1);
});

test('files that are moved keep what is known of them', async () => {
  await rename(join(vault, '2019/b.jpg'), join(vault, '2019/c.jpg'));
  await world.takeIn(vault);
  expect(await count('name:c.jpg fixity:unchanged')).toBe(1);
});

test('what a drive should hold goes out as a bag that other programs check', async () => {
  const folder = join(world.config.home, 'bag');
  expect(await writeDriveBag(world.services.database, 'Vault', folder)).toEqual({ files: 2, unread: 0 });
  const check = () =>
    execFileSync('sha256sum', ['--quiet', '-c', 'manifest-sha256.txt'], { cwd: folder, stdio: 'pipe' });
  check();
  expect(await checkBagFolder(folder)).toEqual({ files: 2, problems: [] });
  await rot(join(vault, '2019/a.jpg'));
  await rm(join(vault, '2019/b.jpg'));
  expect(check).toThrow();
  expect((await checkBagFolder(folder)).problems.sort()).toEqual([
    'data/2019/a.jpg is not as it was written',
    'data/2019/b.jpg is missing',
  ]);
  await expect(writeDriveBag(world.services.database, 'Vault', folder)).rejects.toThrow('is there already');
  await expect(writeDriveBag(world.services.database, 'Nowhere', `${folder} 2`)).rejects.toThrow('no drive “Nowhere”');
});

describe('a manifest of somebody else says what files should hold', () => {
  const take = (lines: Record<string, string>) =>
    takeManifest(
      world.services.database,
      'Vault',
      Object.entries(lines)
        .map(([path, hash]) => `${hash}  ${path}\n`)
        .join(''),
    );
  const OTHER = 'ab'.repeat(32);

  test('files that are as it says, that were others already, and that are not known', async () => {
    const a = await sha256(join(vault, '2019/a.jpg'));
    expect(
      await take({ 'data/2019/a.jpg': a, 'data/2019/b.jpg': OTHER, 'data/c.jpg': OTHER, 'data/c.xmp': OTHER }),
    ).toEqual({
      noted: 0,
      same: 1,
      damaged: ['2019/b.jpg'],
      changed: [],
      unknown: ['c.jpg'],
    });
    expect(await count('fixity:damaged')).toBe(1);
    expect((await damaged()).map(({ path, problem }) => [path, problem])).toEqual([
      ['Vault/2019/b.jpg', expect.stringContaining('not what its manifest says')],
    ]);
  });

  test('a file that was not read yet is compared when it is', async () => {
    await world.services.database.rows('delete from photo_fixity');
    await world.services.database.rows('update photo set fixity = 0');
    const a = await sha256(join(vault, '2019/a.jpg'));
    expect(await take({ '2019/a.jpg': a, '2019/b.jpg': OTHER })).toMatchObject({ noted: 2 });
    expect(await count('fixity:unread')).toBe(3);
    await readAgain();
    expect(await count('fixity:unchanged name:a.jpg')).toBe(1);
    expect(await count('fixity:damaged name:b.jpg')).toBe(1);
  });

  test('what we wrote since is left as it is, and named', async () => {
    const before = await sha256(join(vault, '2019/b.jpg'));
    await world.apply({ kind: 'setRating', selection: { query: 'name:b.jpg' }, rating: 3 });
    await writeBack();
    expect(await take({ '2019/b.jpg': before })).toMatchObject({ changed: ['2019/b.jpg'], damaged: [] });
    expect(await count('fixity:ours')).toBe(1);
  });

  test('one that is no manifest changes nothing', async () => {
    await expect(take({ '2019/a.jpg': 'ab12' })).rejects.toThrow('what it says of “2019/a.jpg” is no SHA-256');
    await expect(takeManifest(world.services.database, 'Vault', 'nonsense')).rejects.toThrow('line 1 of the manifest');
    await expect(takeManifest(world.services.database, 'Nowhere', '')).rejects.toThrow('no drive “Nowhere”');
  });
});
