import { chmod, mkdir, readdir, readFile, rename, rmdir, stat, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import sharp from 'sharp';
import { concatBytes, memorySource } from '@stellin/core/metadata/bytes';
import { readMetadata } from '@stellin/core/metadata/read';
import { pictureRanges } from '@stellin/core/metadata/write';
import { holdingFiles } from '../database/filesLock';
import type { FaultStep } from '../files/fault';
import { serializeEntry } from '../files/journal';
import { openWorld, putFiles, realJpeg, startWorker, type World } from '../testing/world';

import { openJournals } from './store';

let world: World;
afterEach(() => world.close());

async function pictureOf(path: string): Promise<Uint8Array> {
  const bytes = await readFile(path);
  return concatBytes(pictureRanges(memorySource(bytes)).map(({ start, end }) => bytes.subarray(start, end)));
}

const fieldsOf = async (path: string) => readMetadata(memorySource(await readFile(path))).fields;
const blocksOf = async (path: string) => readMetadata(memorySource(await readFile(path))).blocks;

async function addTerms(...labels: string[]): Promise<number[]> {
  await world.apply({ kind: 'addTerms', parentId: null, terms: labels.map((label) => ({ label })) });
  const terms = await world.services.vocabulary.list();
  return labels.map((label) => terms.find((term) => term.label === label)?.id ?? 0);
}

async function write() {
  const { id } = await world.services.writeBack.run(world.services.jobs, { retryFailed: false }, world.keeperId);
  return world.until(id, ['done']);
}

const count = (query: string) => world.services.search.all.count(query);
const give = (query: string, ...termIds: number[]) => world.apply({ kind: 'giveTerms', selection: { query }, termIds });

test('terms go into XMP and IIM of a JPEG beside the keywords it came with, with broader terms as their rule says', async () => {
  world = await openWorld();
  const drive = await world.addDrive('Vault');
  await putFiles(drive, { 'a.jpg': await realJpeg({ keywords: ['from before'], description: 'stays' }) });
  await chmod(join(drive, 'a.jpg'), 0o640);
  const before = await pictureOf(join(drive, 'a.jpg'));
  await world.takeIn(drive);
  await world.apply({
    kind: 'addTerms',
    parentId: null,
    terms: [
      {
        label: 'Objects',
        heading: true,
        narrower: [{ label: 'Kites', narrower: [{ label: 'Rokkaku' }, { label: 'Sled', writeBroader: false }] }],
      },
    ],
  });
  const terms = await world.services.vocabulary.list();
  const idOf = (label: string) => terms.find((term) => term.label === label)?.id ?? 0;
  await give('', idOf('Rokkaku'));
  expect((await world.services.writeBack.listPending({ offset: 0, limit: 10 })).photos).toMatchObject([
    { name: 'a.jpg', state: 'waiting', add: ['Kites', 'Rokkaku'], remove: [], rating: null },
  ]);

  expect((await write()).result).toEqual({ written: 1, conflict: 0, failed: 0 });
  const blocks = await blocksOf(join(drive, 'a.jpg'));
  expect(blocks.xmp).toMatchObject({
    keywords: ['from before', 'Kites', 'Rokkaku'],
    description: 'stays',
    keywordHierarchy: {
      Hierarchy: [
        { Keyword: 'Objects', Children: [{ Keyword: 'Kites', Children: [{ Keyword: 'Rokkaku', Applied: true }] }] },
      ],
    },
    aboutCvTerm: [{ CvTermName: 'Rokkaku' }],
  });
  expect(blocks.iim).toMatchObject({ keywords: ['from before', 'Kites', 'Rokkaku'], description: 'stays' });
  expect(await pictureOf(join(drive, 'a.jpg'))).toEqual(before);
  expect((await stat(join(drive, 'a.jpg'))).mode & 0o777).toBe(0o640);
  expect(await count('is:written')).toBe(1);

  // Taking off removes what we wrote and nothing else; a rename of a broader term makes its photos wait.
  await world.apply({ kind: 'takeTerms', selection: { query: '' }, termIds: [idOf('Rokkaku')] });
  await give('', idOf('Sled'));
  await write();
  expect(await fieldsOf(join(drive, 'a.jpg'))).toMatchObject({
    keywords: ['from before', 'Sled'],
    keywordHierarchy: { Hierarchy: [{ Keyword: 'Sled', Applied: true }] },
    aboutCvTerm: [{ CvTermName: 'Sled' }],
  });
  await world.apply({ kind: 'renameTerm', termId: idOf('Sled'), label: 'Sled kite' });
  expect(await count('is:waiting')).toBe(1);
  await world.services.ledger.undo(world.keeperId);
  expect(await count('is:waiting')).toBe(0);
  expect(await readdir(drive)).toEqual(expect.not.arrayContaining([expect.stringContaining('stellin-part')]));

  // Our own write is no change by another program.
  expect((await world.takeIn(drive)).result).toMatchObject({ new: 0, changed: 0 });
});

test('kinds that are not embedded get a sidecar, and what stood in one stays', async () => {
  world = await openWorld();
  const drive = await world.addDrive('Studio');
  const picture = await sharp({ create: { width: 60, height: 40, channels: 3, background: 'grey' } })
    .gif()
    .toBuffer();
  const sidecar =
    '<x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#"><rdf:Description rdf:about="" xmlns:own="http://example.org/own/" own:Kept="yes"/></rdf:RDF></x:xmpmeta>';
  await putFiles(drive, { 'new.gif': picture, 'old.gif': picture, 'old.xmp': new TextEncoder().encode(sidecar) });
  await world.takeIn(drive);
  await give('', ...(await addTerms('Edo')));
  await world.apply({ kind: 'setRating', selection: { query: '' }, rating: 4 });
  expect((await write()).result).toMatchObject({ written: 2 });
  for (const name of ['new.gif', 'old.gif'])
    expect(new Uint8Array(await readFile(join(drive, name)))).toEqual(new Uint8Array(picture));
  const old = await readFile(join(drive, 'old.xmp'));
  expect(old.toString()).toContain('own:Kept="yes"');
  expect(readMetadata(memorySource(picture), old).fields).toMatchObject({ keywords: ['Edo'], rating: 4 });
  expect(readMetadata(memorySource(picture), await readFile(join(drive, 'new.xmp'))).fields).toMatchObject({
    keywords: ['Edo'],
    rating: 4,
  });
});

test('a file that another program changed is merged: what is new in it is taken, what was said here is written on top', async () => {
  world = await openWorld();
  const drive = await world.addDrive('Vault');
  const path = join(drive, 'a.jpg');
  await putFiles(drive, { 'a.jpg': await realJpeg({ keywords: ['first'] }) });
  await world.takeIn(drive);
  await give('', ...(await addTerms('Delta')));
  await writeFile(path, await realJpeg({ keywords: ['first', 'theirs'], description: 'their caption' }));
  expect((await write()).result).toEqual({ written: 1, conflict: 0, failed: 0 });
  expect(await fieldsOf(path)).toMatchObject({ keywords: ['first', 'theirs', 'Delta'], description: 'their caption' });
  expect(await count('is:written theirs term:Delta caption:"their caption"')).toBe(1);
});

test('what both sides changed is a conflict: the file is left alone until it is settled, and settling can be undone', async () => {
  world = await openWorld();
  const drive = await world.addDrive('Vault');
  const path = join(drive, 'a.jpg');
  await putFiles(drive, { 'a.jpg': await realJpeg({ keywords: ['first'], rating: 1 }) });
  await world.takeIn(drive);
  await world.apply({ kind: 'setRating', selection: { query: '' }, rating: 4 });
  const theirs = await realJpeg({ keywords: ['first', 'theirs'], rating: 2 });
  await writeFile(path, theirs);
  const job = await write();
  expect(job.result).toEqual({ written: 0, conflict: 1, failed: 0 });
  expect(await world.services.jobs.failures(job.id)).toEqual([
    { subject: 'Vault: a.jpg', message: expect.stringContaining('Rating') as string },
  ]);
  expect(new Uint8Array(await readFile(path))).toEqual(new Uint8Array(theirs));
  expect(await count('is:conflict')).toBe(1);

  // Looking at the file again settles nothing.
  await world.takeIn(drive);
  expect(await count('is:conflict theirs rating:4')).toBe(1);
  expect((await world.services.writeBack.listPending({ offset: 0, limit: 10 })).photos).toMatchObject([
    { state: 'conflict', fields: [{ field: 'rating', before: 1, after: 4, file: 2, conflicts: true }] },
  ]);

  await world.apply({ kind: 'settleConflicts', selection: { query: '' }, keep: 'file' });
  expect(await count('rating:2 not is:waiting not is:conflict')).toBe(1);
  await world.services.ledger.undo(world.keeperId);
  expect(await count('is:conflict rating:4')).toBe(1);
  await world.apply({ kind: 'settleConflicts', selection: { query: '' }, field: 'rating', keep: 'catalogue' });
  expect(await count('is:waiting theirs')).toBe(1);
  await write();
  expect(await fieldsOf(path)).toMatchObject({ keywords: ['first', 'theirs'], rating: 4 });
});

test('fields: what one side changed stands, what both changed waits to be settled field by field, and a write can be taken back', async () => {
  world = await openWorld();
  const drive = await world.addDrive('Vault');
  const path = join(drive, 'a.jpg');
  const original = await realJpeg({ title: 'Old title', headline: 'Old headline', city: 'Fenwick' });
  await putFiles(drive, { 'a.jpg': original });
  await world.takeIn(drive);
  const set = (target: 'title' | 'headline' | 'source', value: string) =>
    world.apply({ kind: 'setFields', selection: { query: '' }, edits: [{ target, mode: 'replace', value }] });
  await set('title', 'Our title');
  await set('headline', 'Our headline');
  await set('source', 'Bequest');
  await writeFile(path, await realJpeg({ title: 'Their title', headline: 'Their headline', city: 'Saltmarsh' }));
  expect((await write()).result).toEqual({ written: 0, conflict: 1, failed: 0 });
  expect(await count('is:conflict title:"Our title" city:Saltmarsh source:Bequest')).toBe(1);
  await world.apply({ kind: 'settleConflicts', selection: { query: '' }, field: 'title', keep: 'file' });
  expect(await count('is:conflict title:"Their title" headline:"Our headline"')).toBe(1);
  await world.apply({ kind: 'settleConflicts', selection: { query: '' }, field: 'headline', keep: 'catalogue' });
  expect((await write()).result).toEqual({ written: 1, conflict: 0, failed: 0 });
  const settled = { title: 'Their title', headline: 'Our headline', city: 'Saltmarsh', source: 'Bequest' };
  expect(await fieldsOf(path)).toMatchObject(settled);
  expect(await count('is:written')).toBe(1);

  // The file goes back byte by byte; the catalogue stays and waits.
  const job = await world.services.writeBack.takeBack(
    world.services.jobs,
    { query: '', minus: [], plus: [] },
    world.keeperId,
  );
  await world.until(job.id, ['done']);
  expect(await fieldsOf(path)).toMatchObject({ headline: 'Their headline' });
  expect(await count('is:waiting headline:"Our headline" source:Bequest')).toBe(1);
  await write();
  expect(await fieldsOf(path)).toMatchObject(settled);
});

test('a file that can’t be written is named with the reason, and can be tried again', async () => {
  world = await openWorld();
  const drive = await world.addDrive('Vault');
  const whole = await realJpeg();
  await putFiles(drive, { 'broken.jpg': whole.slice(0, 40), 'fine.jpg': whole });
  await world.takeIn(drive);
  await give('', ...(await addTerms('Delta')));
  const job = await write();
  expect(job.result).toEqual({ written: 1, conflict: 0, failed: 1 });
  expect(await world.services.jobs.failures(job.id)).toEqual([
    { subject: 'Vault: broken.jpg', message: expect.stringContaining('JPEG') as string },
  ]);
  expect(new Uint8Array(await readFile(join(drive, 'broken.jpg')))).toEqual(whole.slice(0, 40));
  expect(await count('is:failed name:broken.jpg')).toBe(1);
  const again = await world.services.writeBack.run(world.services.jobs, { retryFailed: true }, world.keeperId);
  expect((await world.until(again.id, ['done'])).result).toMatchObject({ failed: 1 });
});

test('writes for a drive that is away wait; one that goes away in the middle pauses the job and loses nothing', async () => {
  // Several batches more than are written before the drive can be pulled out.
  const PHOTOS = 500;
  world = await openWorld();
  const drive = await world.addDrive('Field disk');
  const bytes = await realJpeg();
  await putFiles(drive, Object.fromEntries(Array.from({ length: PHOTOS }, (_, i) => [`${1000 + i}.jpg`, bytes])));
  await world.takeIn(drive);
  await give('', ...(await addTerms('Delta')));
  let shelf = await world.unplug(drive);
  await expect(
    world.services.writeBack.run(world.services.jobs, { retryFailed: false }, world.keeperId),
  ).rejects.toThrow('Nothing waits on a drive that is attached');

  const again = await world.plugIn(shelf, 'bay-1');
  const { id } = await world.services.writeBack.run(world.services.jobs, { retryFailed: false }, world.keeperId);
  await untilWritten(5);
  shelf = await world.unplug(again);
  await world.until(id, ['waiting']);
  const now = await world.plugIn(shelf, 'bay-2');
  await world.until(id, ['done']);
  expect(await count('is:written')).toBe(PHOTOS);
  for (const name of await readdir(now))
    if (name.endsWith('.jpg')) expect((await fieldsOf(join(now, name))).keywords).toEqual(['Delta']);
  expect((await readdir(now)).filter((name) => name.includes('stellin-part'))).toEqual([]);
});

test('one file that can’t be sorted out is told and left: others go on, and once it can be, nothing of it is lost', async () => {
  world = await openWorld();
  const drive = await world.addDrive('Vault');
  await putFiles(drive, { 'a.jpg': await realJpeg({ keywords: ['own'] }), 'b.jpg': await realJpeg({}, 90) });
  const before = await readFile(join(drive, 'a.jpg'));
  await world.takeIn(drive);
  await give('name:a.jpg', ...(await addTerms('Edo')));
  // Nobody works here any more when it is queued: else it may be written before the process that is to die has begun.
  await world.rest();
  const first = await world.services.writeBack.run(world.services.jobs, { retryFailed: false }, world.keeperId);
  expect(await startWorker(world, 'write:halfPatched').ended).toBe('SIGKILL');
  const torn = await readFile(join(drive, 'a.jpg'));
  expect(torn.equals(before)).toBe(false);
  // Something that can't be written stands in its place.
  await rename(join(drive, 'a.jpg'), join(drive, 'aside'));
  await mkdir(join(drive, 'a.jpg'));
  await world.services.start();
  await world.until(first.id, ['done']);
  const state = () => world.services.writeBack.listPending({ offset: 0, limit: 10 });
  expect((await state()).photos).toMatchObject([
    { name: 'a.jpg', state: 'failed', message: expect.stringContaining('can’t be sorted out') as string },
  ]);
  await give('name:b.jpg', ...(await addTerms('Delta')));
  expect((await write()).result).toMatchObject({ written: 1 });

  await rmdir(join(drive, 'a.jpg'));
  await rename(join(drive, 'aside'), join(drive, 'a.jpg'));
  const { id } = await world.services.writeBack.run(world.services.jobs, { retryFailed: true }, world.keeperId);
  expect((await world.until(id, ['done'])).result).toMatchObject({ written: 1 });
  expect(await fieldsOf(join(drive, 'a.jpg'))).toMatchObject({ keywords: ['own', 'Edo'] });
  expect(await pictureOf(join(drive, 'a.jpg'))).toEqual(
    concatBytes(pictureRanges(memorySource(before)).map(({ start, end }) => before.subarray(start, end))),
  );
});

test('what another process is writing is not sorted out under its hands', async () => {
  world = await openWorld();
  const drive = await world.addDrive('Vault');
  await putFiles(drive, { 'a.jpg': await realJpeg() });
  await world.takeIn(drive);
  const { database, writeBack } = world.services;
  const id = (await world.ids()).get('a.jpg') ?? 0;
  const part = join(drive, '.a.jpg.stellin-part');
  await writeFile(part, 'half a file');
  let release: () => void = () => undefined;
  const held = new Promise<void>((resolve) => (release = resolve));
  const begun = new Promise<void>((resolve, reject) => {
    holdingFiles(database, 'together', async () => {
      await openJournals(database, [
        {
          photoId: id,
          entries: [serializeEntry({ path: 'a.jpg', temporary: '.a.jpg.stellin-part', mtimeMs: null, patches: [] })],
          intended: { keywords: [], termKeywords: [], rating: 0, mark: '', fields: {}, references: {} },
        },
      ]);
      resolve();
      await held;
    }).catch(reject);
  });
  await begun;
  let recovered = false;
  const recovering = writeBack.recover().then(() => (recovered = true));
  await database.rows('select pg_sleep(0.3)');
  expect([recovered, (await readdir(drive)).includes('.a.jpg.stellin-part')]).toEqual([false, true]);
  release();
  await recovering;
  expect((await readdir(drive)).includes('.a.jpg.stellin-part')).toBe(false);
});

test('a write is taken back byte for byte, read again, and waits; what another program wrote since is left alone', async () => {
  world = await openWorld();
  const drive = await world.addDrive('Vault');
  const gif = await sharp({ create: { width: 60, height: 40, channels: 3, background: 'grey' } })
    .gif()
    .toBuffer();
  await putFiles(drive, { 'a.jpg': await realJpeg({ keywords: ['own'] }), 'b.gif': gif, 'c.jpg': await realJpeg() });
  const before = await readFile(join(drive, 'a.jpg'));
  await world.takeIn(drive);
  await give('', ...(await addTerms('Edo')));
  await write();
  const ids = await world.ids();
  expect(await world.services.writeBack.listVersions(ids.get('a.jpg') ?? 0)).toMatchObject([{ targets: ['file'] }]);
  expect(await world.services.writeBack.listVersions(ids.get('b.gif') ?? 0)).toMatchObject([
    { targets: ['sidecar'], keptBytes: 0 },
  ]);
  const theirs = await realJpeg({ keywords: ['theirs'] });
  await writeFile(join(drive, 'c.jpg'), theirs);

  const takeBack = async () => {
    const { id } = await world.services.writeBack.takeBack(
      world.services.jobs,
      { query: '', minus: [], plus: [] },
      world.keeperId,
    );
    return world.until(id, ['done']);
  };
  const job = await takeBack();
  expect(job.result).toEqual({ takenBack: 2, failed: 1 });
  expect(await world.services.jobs.failures(job.id)).toEqual([
    { subject: 'Vault: c.jpg', message: expect.stringContaining('by another program since') as string },
  ]);
  expect((await readFile(join(drive, 'a.jpg'))).equals(before)).toBe(true);
  expect(new Uint8Array(await readFile(join(drive, 'c.jpg')))).toEqual(new Uint8Array(theirs));
  expect((await readdir(drive)).sort()).toEqual(['.stellin-drive.json', 'a.jpg', 'b.gif', 'c.jpg']);
  expect(await count('is:waiting term:Edo')).toBe(2);
  expect(await count('keyword:own')).toBe(1);
  expect(await world.services.writeBack.listVersions(ids.get('a.jpg') ?? 0)).toEqual([]);

  await write();
  expect((await fieldsOf(join(drive, 'a.jpg'))).keywords).toEqual(['own', 'Edo']);
});

/** A file that says nothing yet grows, so it is written beside; one with room in its packet is written where it stands. What is half-written there is neither old nor new, and the next process makes it whole. */
const STEPS: [FaultStep, 'beside' | 'in place', 'old' | 'new' | 'torn'][] = [
  ['write:planned', 'beside', 'old'],
  ['write:journaled', 'in place', 'old'],
  ['write:copied', 'beside', 'old'],
  ['write:verified', 'beside', 'old'],
  ['write:renamed', 'beside', 'new'],
  ['write:halfPatched', 'in place', 'torn'],
  ['write:patched', 'in place', 'new'],
  ['write:recorded', 'in place', 'new'],
];

test.each(STEPS)(
  'a process killed at %s, writing %s, leaves the %s file, and the next process sorts it out',
  async (step, way, state) => {
    world = await openWorld({ working: false });
    const drive = await world.addDrive('Vault');
    const path = join(drive, 'a.jpg');
    await putFiles(drive, { 'a.jpg': await realJpeg(way === 'beside' ? {} : { keywords: ['own'] }, 60) });
    await world.services.start();
    await world.takeIn(drive);
    await world.rest();
    await give('name:a.jpg', ...(await addTerms('Kite')));
    const before = await readFile(path);
    const picture = await pictureOf(path);
    const { id } = await world.services.writeBack.run(world.services.jobs, { retryFailed: false }, world.keeperId);
    expect(await startWorker(world, step).ended).toBe('SIGKILL');
    const wanted = way === 'beside' ? ['Kite'] : ['own', 'Kite'];
    const after = await readFile(path);
    expect(after.equals(before) ? 'old' : state === 'torn' ? 'torn' : 'new').toBe(state);
    if (state === 'new') expect((await fieldsOf(path)).keywords).toEqual(wanted);
    if (state !== 'torn') expect(await pictureOf(path)).toEqual(picture);

    await world.services.start();
    await world.until(id, ['done']);
    expect((await fieldsOf(path)).keywords).toEqual(wanted);
    expect(await pictureOf(path)).toEqual(picture);
    expect(await count('is:waiting or is:conflict or is:failed')).toBe(0);
    expect((await readdir(drive)).filter((name) => name !== '.stellin-drive.json')).toEqual(['a.jpg']);
  },
);

/** Resolves when at least `wanted` files are written. */
async function untilWritten(wanted: number): Promise<void> {
  await new Promise<void>((resolve) => {
    const look = () => void count('is:written').then((now) => now >= wanted && (unsubscribe(), resolve()));
    const unsubscribe = world.services.events.subscribe(look);
    look();
  });
}
