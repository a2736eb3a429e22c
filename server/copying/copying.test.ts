import { link, readdir, readFile, rm, stat, symlink, utimes, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { copyingRoutes, copyRequest, type CopyRequest } from '@stellin/contract/copying';
import type { z } from 'zod';
import { openWorld, PASSWORDS, putFiles, realJpeg, startWorker, type World } from '../testing/world';
import { folderElsewhere } from '../testing/scratch';
import { PROGRAM } from '../catalogue/viewer';

let world: World;
let card: string;
let vault: string;
let second: string;
beforeEach(() => open(true));
afterEach(async () => {
  await world.close();
  await rm(second, { recursive: true, force: true });
});

async function open(working: boolean): Promise<void> {
  world = await openWorld({ working });
  [card, vault] = [await world.addDrive('Card'), await world.addDrive('Vault')];
  second = await folderElsewhere();
  await putFiles(card, {
    'DCIM/100/a.jpg': await realJpeg({ dateCreated: '2019-06-15T10:30:00', keywords: ['dunes'] }, 20),
    'DCIM/100/a.xmp': Buffer.from(SIDECAR),
    'DCIM/100/b.jpg': await realJpeg({ dateCreated: '2019-06-16T11:00:00' }, 90),
    'DCIM/101/a.jpg': await realJpeg({}, 160),
  });
  await putFiles(vault, { 'there/b.jpg': await realJpeg({}, 90) });
  await world.services.drives.addPlace(second);
  await world.services.drives.catalogue(second);
  await (working ? world.takeIn(vault) : world.services.drives.catalogue(vault));
}

const SIDECAR = `<x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#"><rdf:Description xmlns:dc="http://purl.org/dc/elements/1.1/"><dc:title><rdf:Alt><rdf:li xml:lang="x-default">Dunes</rdf:li></rdf:Alt></dc:title></rdf:Description></rdf:RDF></x:xmpmeta>`;
const count = (query = '') => world.services.search.all.count(query);
const idOf = async (place: string) =>
  (await world.services.drives.list(PROGRAM)).find(({ mountPoint }) => mountPoint === place)?.id;
const requestFor = async (more: Partial<z.input<typeof copyRequest>> = {}): Promise<CopyRequest> =>
  copyRequest.parse({
    driveKey: card,
    toDriveId: await idOf(vault),
    toFolder: '{year}/{year}-{month}-{day}',
    name: '{name}',
    ...more,
  });
const copyIn = async (more?: Partial<z.input<typeof copyRequest>>) => {
  const job = await world.services.copying.start(await requestFor(more), world.keeperId);
  return world.until(job.id, ['done']);
};
const tree = async (folder: string) =>
  (await readdir(folder, { recursive: true, withFileTypes: true }))
    .filter((entry) => entry.isFile() && !entry.name.startsWith('.'))
    .map(({ parentPath, name }) => join(parentPath, name).slice(folder.length + 1))
    .sort();

test('files go into dated folders with their sidecars, are proven and taken in; known ones are passed over', async () => {
  await utimes(join(card, 'DCIM/100/a.jpg'), 1e9, 1e9);
  const plan = await world.services.copying.plan(await requestFor());
  expect(plan).toMatchObject({ files: 3, problem: null });
  expect(plan.examples[0]).toEqual({ before: 'DCIM/100/a.jpg', after: '2019/2019-06-15/a.jpg' });
  const job = await copyIn();
  expect(job.result).toMatchObject({ copied: 2, known: 1, failed: 0, new: 2 });
  expect(await tree(vault)).toEqual([
    '2019/2019-06-15/a.jpg',
    '2019/2019-06-15/a.xmp',
    'there/b.jpg',
    'unknown/unknown-unknown-unknown/a.jpg',
  ]);
  expect(await readFile(join(vault, '2019/2019-06-15/a.jpg'))).toEqual(await readFile(join(card, 'DCIM/100/a.jpg')));
  expect((await stat(join(vault, '2019/2019-06-15/a.jpg'))).mtimeMs).toBe(1e12);
  expect(await count('folder:"Vault/2019/2019-06-15" title:Dunes keyword:dunes')).toBe(1);
  const [accession] = await world.services.intake.accessions();
  expect(accession).toMatchObject({ driveLabel: 'Vault', source: 'Card', photosNew: 2 });
  // Once more: all of it is known.
  expect((await copyIn()).result).toMatchObject({ copied: 0, known: 3 });
});

test('names by pattern with one number for files that belong together; nothing is written over', async () => {
  await putFiles(card, { 'DCIM/100/a.png': await readFile(join(card, 'DCIM/101/a.jpg')) });
  const there = Buffer.from('somebody else’s');
  await putFiles(vault, { 'in/kite_0002.jpg': there });
  const job = await copyIn({ toFolder: 'in', name: 'kite_{number:4}', skipKnown: false });
  expect(job.result).toMatchObject({ copied: 4, failed: 0 });
  expect(await tree(join(vault, 'in'))).toEqual([
    'kite_0001.jpg',
    'kite_0001.png',
    'kite_0001.xmp',
    'kite_0002-2.jpg',
    'kite_0002.jpg',
    'kite_0003.jpg',
  ]);
  expect(await readFile(join(vault, 'in/kite_0002.jpg'))).toEqual(there);
});

test('of more files than fit into one step each is copied once, in their order, and proven once', async () => {
  const jpeg = await realJpeg({}, 33);
  const names = Array.from({ length: 60 }, (_, i) => `k${String(i + 1).padStart(3, '0')}.jpg`);
  await putFiles(
    card,
    Object.fromEntries(names.map((name, i) => [`many/${name}`, Buffer.concat([jpeg, Buffer.of(i)])])),
  );
  const job = await copyIn({ folder: 'many', toFolder: 'in', name: '{number:3}', skipKnown: false });
  expect(job).toMatchObject({ total: 120, result: { copied: 60, failed: 0 } });
  for (const [i, name] of names.entries())
    expect(await readFile(join(vault, 'in', `${String(i + 1).padStart(3, '0')}.jpg`))).toEqual(
      await readFile(join(card, 'many', name)),
    );
  expect((await run(job.id, 'prove')).result).toEqual({ proven: 60, unproven: 0 });
});

const run = async (jobId: string, which: 'prove' | 'empty') => {
  const { id } = await world.services.copying[which](jobId, world.keeperId);
  return world.until(id, ['done']);
};
const reasons = async (jobId: string) =>
  Object.fromEntries((await world.services.jobs.failures(jobId)).map(({ subject, message }) => [subject, message]));

describe('emptying the source', () => {
  test.each(['source:proven', 'source:proven:2', 'source:proven:3'] as const)(
    'killed at %s it goes on, and each picture is on the card or proven to be on the drive',
    async (step) => {
      const job = await copyIn({ toFolder: 'in', skipKnown: false });
      const pictures = ['a.jpg', 'a-2.jpg', 'b.jpg'].map((name) => join(vault, 'in', name));
      const before = await Promise.all(pictures.map((path) => readFile(path)));
      await world.rest();
      const { id } = await world.services.copying.empty(job.id, world.keeperId);
      expect(await startWorker(world, step).ended).toBe('SIGKILL');
      expect(await Promise.all(pictures.map((path) => readFile(path)))).toEqual(before);
      await world.services.start();
      expect((await world.until(id, ['done'])).failures).toBe(0);
      expect((await tree(card)).filter((name) => name.endsWith('.jpg'))).toEqual([]);
      expect(await Promise.all(pictures.map((path) => readFile(path)))).toEqual(before);
    },
  );

  test('first it is told what has no proof; that stays, and what was copied twice goes with its sidecar', async () => {
    const secondDriveId = await idOf(second);
    const job = await copyIn({ secondDriveId, skipKnown: false, toFolder: 'in' });
    expect(await tree(join(second, 'in'))).toEqual(['a-2.jpg', 'a.jpg', 'a.xmp', 'b.jpg']);
    const good = await readFile(join(second, 'in/b.jpg'));
    await writeFile(join(second, 'in/b.jpg'), 'no picture any more');
    const proof = await run(job.id, 'prove');
    expect(proof).toMatchObject({ failures: 1, result: { proven: 2, unproven: 1 } });
    expect(await reasons(proof.id)).toEqual({ 'DCIM/100/b.jpg': 'its copy holds another picture' });
    expect(await tree(card)).toHaveLength(4);
    expect((await run(job.id, 'empty')).result).toEqual({ deleted: 2, kept: 1 });
    expect(await tree(card)).toEqual(['DCIM/100/b.jpg']);
    await writeFile(join(second, 'in/b.jpg'), good);
    expect((await run(job.id, 'empty')).result).toEqual({ deleted: 1, kept: 0 });
    expect(await tree(card)).toEqual([]);
  });

  test('a known picture goes only if its other file is there, with the same picture and all that the source says', async () => {
    const job = await copyIn();
    expect((await run(job.id, 'prove')).result).toMatchObject({ proven: 2, unproven: 1 });
    const proof = await run(job.id, 'prove');
    expect((await reasons(proof.id))['DCIM/100/b.jpg']).toMatch(/^its copy lacks .*photoshop:DateCreated/);
    // Once the catalogue's file says it too, and more, nothing is lost with the one on the card.
    await putFiles(vault, {
      'there/b.jpg': await realJpeg({ dateCreated: '2019-06-16T11:00:00', title: 'At the harbour' }, 90),
    });
    expect((await run(job.id, 'prove')).result).toMatchObject({ proven: 3, unproven: 0 });
    await rm(join(vault, 'there/b.jpg'));
    expect((await run(job.id, 'empty')).result).toEqual({ deleted: 2, kept: 1 });
    expect(await tree(card)).toEqual(['DCIM/100/b.jpg']);
  });

  test('a sidecar counts: what has one without a copy of it stays', async () => {
    const job = await copyIn({ toFolder: 'in', skipKnown: false });
    await rm(join(vault, 'in/a.xmp'));
    const proof = await run(job.id, 'prove');
    expect(await reasons(proof.id)).toEqual({ 'DCIM/100/a.jpg': 'its copy lacks dc:title' });
    expect((await run(job.id, 'empty')).result).toEqual({ deleted: 2, kept: 1 });
    expect(await tree(card)).toEqual(['DCIM/100/a.jpg', 'DCIM/100/a.xmp']);
  });

  test('the very same file is no proof, by a link or by another way to it', async () => {
    const job = await copyIn({ toFolder: 'in', skipKnown: false });
    const original = join(card, 'DCIM/100/b.jpg');
    await rm(join(vault, 'in/b.jpg'));
    await link(original, join(vault, 'in/b.jpg'));
    await rm(join(vault, 'in/a-2.jpg'));
    await symlink(join(card, 'DCIM/101/a.jpg'), join(vault, 'in/a-2.jpg'));
    const proof = await run(job.id, 'prove');
    expect(await reasons(proof.id)).toEqual({
      'DCIM/100/b.jpg': 'what counts as its copy is the very same file',
      'DCIM/101/a.jpg': 'its copy lies on the same card or folder',
    });
    expect((await run(job.id, 'empty')).result).toEqual({ deleted: 1, kept: 2 });
    expect(await tree(card)).toContain('DCIM/100/b.jpg');
  });

  test('a source that is a catalogued drive is refused, and its own photos do not count as known elsewhere', async () => {
    const job = await copyIn();
    await world.takeIn(card);
    await expect(world.services.copying.empty(job.id, world.keeperId)).rejects.toThrow('the catalogued drive “Card”');
    await expect(world.services.copying.prove(job.id, world.keeperId)).rejects.toThrow('the catalogued drive “Card”');
    const driveKey = (await idOf(card)) ?? '';
    await rm(join(vault, '2019'), { recursive: true });
    await world.takeIn(vault);
    // Of a.jpg only the card itself has a file now.
    expect((await copyIn({ driveKey, toFolder: 'again' })).result).toMatchObject({ copied: 1, known: 2 });
    expect(await tree(card)).toHaveLength(4);
  });

  test('only keepers may', async () => {
    const { headers } = await world.app.inject({
      method: 'POST',
      url: '/api/session',
      payload: { name: 'cataloguer', password: PASSWORDS.cataloguer },
    });
    const cookie = String(headers['set-cookie']).split(';')[0];
    const payload = { jobId: (await copyIn()).id };
    for (const { path } of [copyingRoutes.proveSource, copyingRoutes.emptySource]) {
      const { statusCode } = await world.app.inject({ method: 'POST', url: path, headers: { cookie }, payload });
      expect({ path, statusCode }).toEqual({ path, statusCode: 403 });
    }
    expect(await tree(card)).toHaveLength(4);
  });

  test('what could not be copied stays', async () => {
    await writeFile(join(vault, 'blocked'), 'a file where a folder is wanted');
    const job = await copyIn({ toFolder: 'blocked', skipKnown: false });
    expect(job).toMatchObject({ failures: 3, result: { copied: 0, failed: 3 } });
    expect((await run(job.id, 'empty')).result).toEqual({ deleted: 0, kept: 3 });
    expect(await tree(card)).toHaveLength(4);
  });
});

test('bad patterns and impossible targets are refused before anything is done', async () => {
  const problem = async (more: Parameters<typeof copyIn>[0]) =>
    (await world.services.copying.plan(await requestFor(more))).problem;
  expect(await problem({ name: '{nam}' })).toContain('no placeholder {nam}');
  expect(await problem({ toFolder: 'a/../../b' })).toContain('can’t be used');
  expect(await problem({ secondDriveId: await idOf(vault) })).toContain('another drive');
  await expect(copyIn({ name: 'what?' })).rejects.toThrow('“?”');
  await expect(copyIn({ folder: 'nowhere' })).rejects.toThrow();
});

test.each(['file:settled', 'file:copied', 'file:moved', 'index:batch'] as const)(
  'killed at %s the next process goes on, and nothing is twice',
  async (step) => {
    await world.close();
    await rm(second, { recursive: true, force: true });
    await open(false);
    const request = await requestFor({ toFolder: 'in', name: '{number}_{name}', skipKnown: false });
    const { id } = await world.services.copying.start(request, world.keeperId);
    expect(await startWorker(world, step).ended).toBe('SIGKILL');
    await world.services.start();
    await world.until(id, ['done']);
    expect(await tree(join(vault, 'in'))).toEqual(['1_a.jpg', '1_a.xmp', '2_b.jpg', '3_a.jpg']);
    expect((await readdir(join(vault, 'in'))).filter((name) => name.includes('part'))).toEqual([]);
    expect(await count('folder:Vault/in')).toBe(3);
  },
);
