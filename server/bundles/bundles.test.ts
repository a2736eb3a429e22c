import { readFile, rm, utimes } from 'node:fs/promises';
import { join } from 'node:path';
import { tinyTiff } from '@stellin/core/metadata/testing';
import type { ChangeInput } from '@stellin/contract/ledger';
import { openWorld, putFiles, realJpeg, type World } from '../testing/world';
import { PROGRAM } from '../catalogue/viewer';

const sized = [
  { tag: 256, type: 3, count: 1, data: Uint8Array.of(16, 0) },
  { tag: 257, type: 3, count: 1, data: Uint8Array.of(8, 0) },
];
const DNG = tinyTiff([[...sized, { tag: 50706, type: 1, count: 4, data: Uint8Array.of(1, 7, 0, 0) }]]);
/** The picture is what a sensor's colour filters let through: raw. */
const RAW = tinyTiff([[...sized, { tag: 262, type: 3, count: 1, data: Uint8Array.of(0x23, 0x80) }]]);

let world: World;
let drive: string;
beforeEach(async () => {
  world = await openWorld();
  drive = await world.addDrive('Vault');
  await putFiles(drive, {
    'a.jpg': await realJpeg({ keywords: ['dunes'] }, 20),
    'A.dng': DNG,
    'b.jpg': await realJpeg({}, 90),
    'c.jpg': await realJpeg({}, 160),
    'else/a.nef': RAW,
  });
  await world.takeIn(drive);
});
afterEach(() => world.close());

const count = (query = '') => world.services.search.all.count(query);
const list = async (query = '') => {
  const photos = await world.services.photos.list(PROGRAM, { query, sort: 'name', offset: 0, limit: 200 });
  return photos.map(({ name, bundle }) =>
    bundle ? `${name} ${bundle.photos}${bundle.closed ? ' closed' : ''}` : name,
  );
};
const on = (query: string) => ({ query });
const does = (change: ChangeInput) => world.apply(change);
const undo = () => world.services.ledger.undo(world.keeperId);

test('raw and JPEG of one name in one folder bundle by themselves, and stand as one', async () => {
  expect(await list()).toEqual(['a.jpg 2 closed', 'a.nef', 'b.jpg', 'c.jpg']);
  expect(await world.services.photos.count(PROGRAM, '')).toMatchObject({ count: 4, folded: 1 });
  // Whichever of the two meets the query.
  expect(await list('kind:dng')).toEqual(['a.jpg 2 closed']);
  expect(await list('keyword:dunes')).toEqual(['a.jpg 2 closed']);
  expect(await count('is:bundled')).toBe(1);
});

test('what is done to a closed bundle is done to all in it', async () => {
  const entry = await does({ kind: 'setRating', selection: on('name:a.jpg'), rating: 4 });
  expect(entry.photos).toBe(2);
  await does({ kind: 'openBundles', selection: on('name:a.jpg') });
  expect(await list('rating:4')).toEqual(['A.dng 2', 'a.jpg 2']);
  await does({ kind: 'setRating', selection: on('name:A.dng kind:dng'), rating: 1 });
  expect(await list('rating:4')).toEqual(['a.jpg 2']);
  await does({ kind: 'closeBundles', selection: on('rating:1') });
  expect(await list('rating:1')).toEqual(['a.jpg 2 closed']);
  expect(await count()).toBe(4);
});

test('bundling by hand, choosing another lead, taking out, and undo of each', async () => {
  const ids = await world.ids();
  const entry = await does({ kind: 'bundlePhotos', selection: on('name:b.jpg or name:c.jpg') });
  expect(entry.title).toBe('Bundle 2 photos');
  expect(await list()).toEqual(['a.jpg 2 closed', 'a.nef', 'b.jpg 2 closed']);
  await does({ kind: 'chooseLead', photoId: ids.get('c.jpg') ?? 0 });
  expect(await list()).toEqual(['a.jpg 2 closed', 'a.nef', 'c.jpg 2 closed']);
  expect(await list('is:lead')).toEqual(['a.jpg 2 closed', 'c.jpg 2 closed']);
  await does({ kind: 'unbundlePhotos', selection: on('name:c.jpg') });
  expect(await list()).toEqual(['a.jpg 2 closed', 'a.nef', 'b.jpg', 'c.jpg']);
  await undo();
  await undo();
  expect(await list()).toEqual(['a.jpg 2 closed', 'a.nef', 'b.jpg 2 closed']);
  await undo();
  expect(await count()).toBe(4);
});

test('a photo that joins another bundle leaves a pair of one, which is no bundle', async () => {
  await does({ kind: 'openBundles', selection: on('name:a.jpg') });
  await does({ kind: 'bundlePhotos', selection: on('kind:dng or name:b.jpg') });
  expect(await list()).toEqual(['a.jpg', 'a.nef', 'b.jpg 2 closed', 'c.jpg']);
  await expect(does({ kind: 'bundlePhotos', selection: on('name:c.jpg') })).rejects.toThrow('two photos');
});

test('a pair taken apart by hand stays apart when it is read again', async () => {
  await does({ kind: 'unbundlePhotos', selection: on('name:a.jpg') });
  await putFiles(drive, { 'a.jpg': await realJpeg({ keywords: ['beach'] }, 20) });
  await world.takeIn(drive);
  expect(await list()).toEqual(['A.dng', 'a.jpg', 'a.nef', 'b.jpg', 'c.jpg']);
});

test('moving and trashing a closed bundle takes all of it along', async () => {
  const bytes = await readFile(join(drive, 'A.dng'));
  await does({ kind: 'trashFiles', selection: on('name:a.jpg') });
  const [job] = await world.services.jobs.list();
  await world.until(job?.id ?? '', ['done']);
  expect(await list()).toEqual(['a.nef', 'b.jpg', 'c.jpg']);
  expect(await readFile(join(drive, '.stellin-trash/A.dng'))).toEqual(bytes);
  expect(await list('is:trashed')).toEqual(['a.jpg 2 closed']);
});

test.each(['moved', 'copied anew'])('a bundle whose raw file arrives later (%s) closes over it', async (how) => {
  await rm(join(drive, 'else/a.nef'));
  await putFiles(drive, { 'b.nef': RAW });
  // Of another time it is a new file until its picture is known again.
  if (how !== 'moved') await utimes(join(drive, 'b.nef'), 1e9, 1e9);
  await world.takeIn(drive);
  expect(await list('name:b.*')).toEqual(['b.jpg 2 closed']);
});
