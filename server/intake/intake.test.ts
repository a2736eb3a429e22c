import { createHash } from 'node:crypto';
import { readdir, readFile, stat, utimes, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import sharp from 'sharp';
import { NOW } from '@stellin/core/metadata/testing';
import { planSidecar } from '@stellin/core/metadata/write';
import { MARKER_NAME } from '../drives/marker';
import { openWorld, putFiles, realJpeg, startWorker, type World } from '../testing/world';
import { PROGRAM } from '../catalogue/viewer';

let world: World;
afterEach(() => world.close());

/** What every file of a drive holds and when it was changed; the marker aside. */
async function stateOf(folder: string): Promise<Record<string, string>> {
  const state: Record<string, string> = {};
  for (const name of await readdir(folder, { recursive: true })) {
    const path = join(folder, name);
    const { mtimeMs } = await stat(path);
    if (name === MARKER_NAME || (await stat(path)).isDirectory()) continue;
    state[name] = `${mtimeMs} ${createHash('sha256')
      .update(await readFile(path))
      .digest('hex')}`;
  }
  return state;
}

async function manyFiles(count: number): Promise<Record<string, Uint8Array>> {
  const bytes = await Promise.all([60, 110, 160].map((shade) => realJpeg({ keywords: ['kite'] }, shade)));
  return Object.fromEntries(
    Array.from({ length: count }, (_, i) => [
      `2019/Festival ${i % 5}/IMG_${String(i).padStart(4, '0')}.jpg`,
      bytes[i % 3] ?? new Uint8Array(),
    ]),
  );
}

const count = (query = '') => world.services.search.all.count(query);

test('a drive is taken in where it is: records, folders, previews, and nothing in the originals changes', async () => {
  world = await openWorld();
  const drive = await world.addDrive('Vault 1');
  await putFiles(drive, {
    'loose.jpg': await realJpeg({ description: 'Björk am Strand', keywords: ['rokaku'], rating: 4, city: 'Saltmarsh' }),
    '2019/June/b.JPG': await realJpeg(),
    '2019/scan.tif': await sharp({ create: { width: 60, height: 40, channels: 3, background: 'grey' } })
      .tiff()
      .toBuffer(),
    '2019/scan.xmp': planSidecar(undefined, { description: 'from the sidecar', dateCreated: '1932' }, { now: NOW }),
    '.hidden/no.jpg': await realJpeg(),
    'notes.txt': new Uint8Array([1]),
  });
  const before = await stateOf(drive);
  const job = await world.takeIn(drive);
  expect(job).toMatchObject({ state: 'done', result: { new: 3, changed: 0, damaged: 0 }, done: 6, total: 6 });
  expect(await stateOf(drive)).toEqual(before);

  const id = (await world.ids()).get('loose.jpg') ?? 0;
  expect(await world.services.photos.find(PROGRAM, id)).toMatchObject({
    rating: 4,
    keywords: ['rokaku'],
    fields: { description: 'Björk am Strand' },
    width: 320,
    height: 200,
    previewVersion: 1,
  });
  expect(await count('bjork')).toBe(1);
  expect(await count('keyword:roka*')).toBe(1);
  expect(await count('taken:1932 kind:tiff sidecar')).toBe(1);
  expect(await count('missing:terms')).toBe(3);
  const folders = await world.services.drives.listFolders(PROGRAM);
  expect(folders.map(({ path, photos, photosWithin }) => [path, photos, photosWithin])).toEqual([
    ['', 1, 3],
    ['2019', 1, 2],
    ['2019/June', 1, 1],
  ]);
});

test('broken files are catalogued as damaged, with the reason, and the job goes on', async () => {
  world = await openWorld();
  const drive = await world.addDrive('Card');
  const whole = await realJpeg();
  await putFiles(drive, {
    'empty.jpg': new Uint8Array(),
    'cut.jpg': whole.slice(0, Math.floor(whole.length * 0.6)),
    'head.jpg': whole.slice(0, 30),
    'text.jpg': new TextEncoder().encode('no picture'),
    'whole.jpg': whole,
  });
  const job = await world.takeIn(drive);
  expect(job.result['damaged']).toBe(4);
  expect(await count('is:damaged')).toBe(4);
  const failures = await world.services.jobs.failures(job.id);
  expect(failures.map(({ subject }) => subject).sort()).toEqual(['cut.jpg', 'empty.jpg', 'head.jpg', 'text.jpg']);
  const empty = await world.services.photos.find(PROGRAM, (await world.ids()).get('empty.jpg') ?? 0);
  expect(empty.issues).toContain('the file is empty');
});

test('taking in again passes over what is known, reads what changed, and keeps what was said here', async () => {
  world = await openWorld();
  const drive = await world.addDrive('Vault');
  await putFiles(drive, { 'a.jpg': await realJpeg({ rating: 1 }), 'b.jpg': await realJpeg({ rating: 1 }) });
  await world.takeIn(drive);
  await world.apply({ kind: 'setRating', selection: { query: 'name:a.jpg' }, rating: 5 });
  await writeFile(join(drive, 'a.jpg'), await realJpeg({ rating: 2, description: 'new' }));
  await writeFile(join(drive, 'b.jpg'), await realJpeg({ rating: 3 }));
  await utimes(join(drive, 'b.jpg'), new Date(), new Date(Date.now() + 5000));
  await putFiles(drive, { 'c.jpg': await realJpeg() });
  expect((await world.takeIn(drive)).result).toMatchObject({ new: 1, changed: 2 });
  // Changed on both sides: what was said here stays until it is settled; changed only in the file: the file's.
  expect(await count('name:a.jpg rating:5 caption:new is:conflict')).toBe(1);
  expect(await count('name:b.jpg rating:3 not is:waiting')).toBe(1);
  expect((await world.takeIn(drive)).result).toMatchObject({ new: 0, changed: 0 });
});

test.each([
  ['of reading', () => untilPhotos(10)],
  ['of making previews', () => untilPreviews(5)],
])(
  'a drive that goes away in the middle %s pauses the job, which goes on when it returns at another place',
  async (_, middle) => {
    world = await openWorld();
    const drive = await world.addDrive('Field disk');
    await putFiles(drive, await manyFiles(240));
    await world.services.drives.refresh();
    const [entry] = await world.services.drives.list(PROGRAM);
    const job = await world.services.intake.takeIn(
      { driveKey: entry?.key ?? '', folder: '', subFolders: true },
      world.keeperId,
    );
    await middle();
    const shelf = await world.unplug(drive);
    const waiting = await world.until(job.id, ['waiting']);
    expect(waiting.current).toContain('Field disk');
    expect(await count('is:away')).toBeGreaterThan(0);
    const now = await world.plugIn(shelf, 'another place');
    const done = await world.until(job.id, ['done']);
    expect(done.failures).toBe(0);
    expect(await count()).toBe(240);
    expect(await count('is:away')).toBe(0);
    expect((await world.services.drives.list(PROGRAM))[0]).toMatchObject({
      label: 'Field disk',
      mountPoint: now,
      photos: 240,
    });
  },
);

test('a process killed in the middle of indexing loses nothing: the next one goes on', async () => {
  world = await openWorld({ working: false });
  const drive = await world.addDrive('Vault');
  await putFiles(drive, await manyFiles(200));
  const before = await stateOf(drive);
  await world.services.drives.refresh();
  const [entry] = await world.services.drives.list(PROGRAM);
  const job = await world.services.intake.takeIn(
    { driveKey: entry?.key ?? '', folder: '', subFolders: true },
    world.keeperId,
  );
  expect(await startWorker(world, 'index:batch:3').ended).toBe('SIGKILL');
  const half = await count();
  expect(half).toBeGreaterThan(0);
  expect(half).toBeLessThan(200);
  expect((await world.services.jobs.find(job.id)).state).toBe('running');

  await world.services.start();
  const done = await world.until(job.id, ['done']);
  expect(await count()).toBe(200);
  expect(done.result['new']).toBe(200);
  expect(await world.services.intake.accessions()).toMatchObject([{ photosNew: 200, photosChanged: 0 }]);
  expect(await stateOf(drive)).toEqual(before);
});

test('a job can be paused, resumed and cancelled', async () => {
  world = await openWorld();
  const drive = await world.addDrive('Vault');
  await putFiles(drive, await manyFiles(240));
  await world.services.drives.refresh();
  const [entry] = await world.services.drives.list(PROGRAM);
  const request = { driveKey: entry?.key ?? '', folder: '', subFolders: true };
  const { id } = await world.services.intake.takeIn(request, world.keeperId);
  await expect(world.services.intake.takeIn(request, world.keeperId)).rejects.toThrow('is running already');
  await untilPhotos(5);
  await world.services.jobs.control(id, 'pause');
  await world.until(id, ['paused']);
  await world.services.jobs.control(id, 'run');
  await world.until(id, ['running']);
  await world.services.jobs.control(id, 'cancel');
  expect((await world.until(id, ['cancelled', 'done'])).finishedAt).not.toBeNull();
});

test('a file that is gone when its preview is to be made is named, and nothing is concluded from that', async () => {
  world = await openWorld();
  const drive = await world.addDrive('Vault');
  await putFiles(drive, { 'a.jpg': await realJpeg() });
  await world.takeIn(drive);
  const id = (await world.ids()).get('a.jpg') ?? 0;
  const tasks = ['a.jpg', 'gone.jpg'].map((path) => ({
    id,
    path,
    kind: 'jpeg' as const,
    version: 0,
    orientation: 1,
    shownAs: 1,
    poster: null,
    hash: null,
    known: null,
  }));
  const failures: string[] = [];
  const { changed, lost, noted } = await world.services.previews.look(drive, tasks, (path) =>
    Promise.resolve(void failures.push(path)),
  );
  await noted;
  expect({ changed, lost }).toEqual({ changed: 0, lost: ['gone.jpg'] });
  expect(failures).toEqual([]);
  expect(await count('is:damaged')).toBe(0);
});

/** Resolves when a number of previews are made. */
async function untilPreviews(wanted: number): Promise<void> {
  await world.eventually(async () => {
    const row = await world.services.database.row<{ made: number }>(
      'select count(*)::int as made from photo where preview_version > 0',
    );
    return (row?.made ?? 0) >= wanted;
  });
}

/** Resolves when the catalogue holds a number of photos, or more. */
async function untilPhotos(wanted: number): Promise<void> {
  await new Promise<void>((resolve) => {
    const look = () => void count().then((now) => now >= wanted && (unsubscribe(), resolve()));
    const unsubscribe = world.services.events.subscribe(look);
    look();
  });
}

test('ten thousand files in one folder are recorded, and previews of what is looked at need not wait for the rest', async () => {
  world = await openWorld();
  const drive = await world.addDrive('Full folder');
  const bytes = await realJpeg({}, 20);
  const names = Array.from({ length: 10_000 }, (_, i) => `kite_${String(i).padStart(5, '0')}.jpg`);
  for (let at = 0; at < names.length; at += 500)
    await putFiles(drive, Object.fromEntries(names.slice(at, at + 500).map((name) => [`one/${name}`, bytes])));
  const { services } = world;
  await services.drives.refresh();
  const job = await services.intake.takeIn({ driveKey: drive, folder: '' }, world.keeperId);
  await world.eventually(async () => (await services.search.all.count('folder:"Full folder/one"')) === 10_000);
  const [last] = await services.photos.list(PROGRAM, { query: '', sort: 'name-desc', offset: 0, limit: 1 });
  expect(last?.name).toBe('kite_09999.jpg');
  expect(await services.previews.fileOf(last?.id ?? 0)).not.toBeNull();
  await services.jobs.control(job.id, 'cancel');
  await world.eventually(async () => (await services.jobs.find(job.id)).state === 'cancelled');
});
