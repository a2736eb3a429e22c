import { execFileSync } from 'node:child_process';
import { existsSync } from 'node:fs';
import { chmod, mkdir, readdir, readFile, rm, stat, symlink, utimes, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { ChangeInput } from '@stellin/contract/ledger';
import { openWorld, putFiles, realJpeg, type World } from '../testing/world';
import { folderElsewhere } from '../testing/scratch';
import { holdingFiles } from '../database/filesLock';
import { PROGRAM } from '../catalogue/viewer';

let world: World;
let vault: string;
let other: string;
beforeEach(async () => {
  world = await openWorld();
  [vault, other] = [await world.addDrive('Vault'), await world.addDrive('Other')];
  await putFiles(vault, {
    '2019/a.jpg': await realJpeg({ keywords: ['dunes'] }, 20),
    '2019/a.xmp': Buffer.from(SIDECAR),
    '2019/b.jpg': await realJpeg({}, 90),
    'c.jpg': await realJpeg({}, 160),
  });
  await putFiles(other, { 'd.jpg': await realJpeg({}, 200) });
  await world.takeIn(vault);
  await world.takeIn(other);
});
afterEach(() => world.close());

const SIDECAR = `<x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#"><rdf:Description xmlns:dc="http://purl.org/dc/elements/1.1/"><dc:title><rdf:Alt><rdf:li xml:lang="x-default">Dunes</rdf:li></rdf:Alt></dc:title></rdf:Description></rdf:RDF></x:xmpmeta>`;
const count = (query = '') => world.services.search.all.count(query);
const names = (folder: string) => readdir(folder).then((found) => found.filter((name) => !name.startsWith('.')).sort());
const driveId = async (label: string) =>
  (await world.services.drives.list(PROGRAM)).find((drive) => drive.label === label)?.id ?? '';
/** The last job of this kind, when it has ended. */
const ended = async (kind = 'filing') => {
  const job = (await world.services.jobs.list()).find((candidate) => candidate.kind === kind);
  return world.until(job?.id ?? '', ['done']);
};
const does = async (change: ChangeInput) => {
  const entry = await world.apply(change);
  return { entry, job: await ended() };
};
const moves = async (query: string, to: string, folder: string) =>
  does({ kind: 'moveFiles', selection: { query }, driveId: await driveId(to), folder });
const undo = async () => {
  const entry = await world.services.ledger.undo(world.keeperId);
  await ended();
  return entry;
};

test('a folder is made as soon as nobody works on files any more, who need the connections meanwhile', async () => {
  const { database } = world.services;
  let held: (() => void) | undefined;
  const isHeld = new Promise<void>((resolve) => (held = resolve));
  let go: (() => void) | undefined;
  const mayGo = new Promise<void>((resolve) => (go = resolve));
  const reading = holdingFiles(database, 'together', async () => {
    held?.();
    await mayGo;
    return (await database.rows('select 1 as one')).length;
  });
  await isHeld;
  const making = world.apply({ kind: 'makeFolder', driveId: await driveId('Vault'), parent: '', name: 'new' });
  // One connection for all: it is free while the folder waits.
  const waits = async () =>
    (await database.rows(`select 1 from pg_locks where locktype = 'advisory' and not granted`)).length > 0;
  while (!(await waits())) await new Promise((resolve) => setImmediate(resolve));
  expect(existsSync(join(vault, 'new'))).toBe(false);
  go?.();
  expect(await reading).toBe(1);
  await making;
  expect(existsSync(join(vault, 'new'))).toBe(true);
});

test('moved files take their sidecar and what was said along, and come back by undo', async () => {
  const id = (await world.ids()).get('a.jpg');
  await utimes(join(vault, '2019/a.jpg'), 1e9, 1e9);
  await world.takeIn(vault);
  await world.apply({ kind: 'setRating', selection: { query: 'name:a.jpg' }, rating: 4 });
  const { entry, job } = await moves('name:a.jpg', 'Vault', 'kept/best');
  expect(entry.title).toBe('Move 1 photo to Vault/kept/best');
  expect(job.result).toEqual({ moved: 1, copied: 0, failed: 0 });
  expect(await names(join(vault, 'kept/best'))).toEqual(['a.jpg', 'a.xmp']);
  expect(await names(join(vault, '2019'))).toEqual(['b.jpg']);
  expect((await stat(join(vault, 'kept/best/a.jpg'))).mtimeMs).toBe(1e12);
  expect((await world.ids()).get('a.jpg')).toBe(id);
  expect(await count('folder:"Vault/kept/best" rating:4 title:Dunes')).toBe(1);
  // Looking through the drive again finds nothing new.
  expect((await world.takeIn(vault)).result).toMatchObject({ new: 0, changed: 0, moved: 0, missing: 0 });
  await undo();
  expect(await names(join(vault, '2019'))).toEqual(['a.jpg', 'a.xmp', 'b.jpg']);
  expect(await count('folder:"Vault/2019" rating:4')).toBe(1);
  await world.services.ledger.redo(world.keeperId);
  await ended();
  expect(await count('folder:"Vault/kept/best" rating:4')).toBe(1);
});

test('a name that is taken is never written over: the file gets a number', async () => {
  const there = Buffer.from('somebody else’s');
  await putFiles(vault, { 'kept/a.xmp': there });
  await moves('name:b.jpg', 'Vault', '');
  await writeFile(join(vault, '2019/c.jpg'), await realJpeg({}, 33));
  await world.takeIn(vault);
  await moves('name:c.jpg folder:Vault/2019', 'Vault', '');
  expect(await names(vault)).toEqual(['2019', 'b.jpg', 'c-2.jpg', 'c.jpg', 'kept']);
  await moves('name:a.jpg', 'Vault', 'kept');
  expect(await names(join(vault, 'kept'))).toEqual(['a-2.jpg', 'a-2.xmp', 'a.xmp']);
  expect(await readFile(join(vault, 'kept/a.xmp'))).toEqual(there);
  expect(await count('title:Dunes name:a-2.jpg')).toBe(1);
});

test('a sidecar that another file needs stays, and a copy of it goes along', async () => {
  await putFiles(vault, { '2019/a.png': await readFile(join(vault, 'c.jpg')) });
  await world.takeIn(vault);
  await moves('name:a.jpg', 'Vault', 'x');
  expect(await names(join(vault, '2019'))).toEqual(['a.png', 'a.xmp', 'b.jpg']);
  expect(await names(join(vault, 'x'))).toEqual(['a.jpg', 'a.xmp']);
  await moves('name:a.png', 'Vault', 'x');
  expect(await names(join(vault, '2019'))).toEqual(['b.jpg']);
  expect(await names(join(vault, 'x'))).toEqual(['a.jpg', 'a.png', 'a.xmp']);
});

test('copies have a record of their own that says the same; undone, they are in the trash', async () => {
  await world.apply({ kind: 'setRating', selection: { query: 'name:a.jpg' }, rating: 3 });
  const { job } = await does({
    kind: 'copyFiles',
    selection: { query: 'folder:Vault/2019' },
    driveId: await driveId('Other'),
    folder: 'for print',
  });
  expect(job.result).toMatchObject({ copied: 2, failed: 0 });
  expect(await names(join(other, 'for print'))).toEqual(['a.jpg', 'a.xmp', 'b.jpg']);
  expect(await names(join(vault, '2019'))).toEqual(['a.jpg', 'a.xmp', 'b.jpg']);
  expect(await count('name:a.jpg rating:3 keyword:dunes title:Dunes is:waiting')).toBe(2);
  expect((await world.takeIn(other)).result).toMatchObject({ new: 0, changed: 0, missing: 0 });
  await undo();
  expect(await count('drive:Other')).toBe(1);
  expect(await count('is:trashed drive:Other')).toBe(2);
  expect(await names(join(other, 'for print'))).toEqual([]);
});

test('a copy is private, in dossiers, and shows whom the first photo shows', async () => {
  const photoId = (await world.ids()).get('a.jpg') ?? 0;
  const selection = { query: 'name:a.jpg' };
  await world.apply({ kind: 'setPrivate', selection, private: true });
  const dossier = await world.apply({ kind: 'makeDossier', name: 'Loans' });
  await world.apply({ kind: 'putInDossier', dossierId: dossier.objectId ?? 0, selection });
  await world.apply({ kind: 'namePhotos', selection, who: { name: 'Ida Brandt' } });
  const box = { left: 0.1, top: 0.2, width: 0.25, height: 0.5 };
  await world.apply({ kind: 'drawFace', photoId, box, who: { name: 'Tomas Rehak' } });
  await does({ kind: 'copyFiles', selection, driveId: await driveId('Other'), folder: 'for print' });
  for (const said of ['is:private', 'dossier:Loans', 'person:"Ida Brandt"', 'person:"Tomas Rehak"', 'faces:1'])
    expect([said, await count(`name:a.jpg ${said}`)]).toEqual([said, 2]);
  const copyId = (
    await world.services.photos.list(PROGRAM, { query: 'drive:Other name:a.jpg', sort: 'added', offset: 0, limit: 1 })
  )[0]?.id;
  const { faces } = await world.services.people.ofSelection(PROGRAM, { query: null, plus: [copyId ?? 0], minus: [] });
  expect(faces).toMatchObject([{ state: 'named', person: { name: 'Tomas Rehak' }, drawn: true, box }]);
});

test('trashed photos are out of sight, restorable, and deleted for good only by emptying', async () => {
  const { entry } = await does({ kind: 'trashFiles', selection: { query: 'within:Vault/2019' } });
  expect(entry.title).toBe('Trash 2 photos');
  expect([await count(), await count('is:trashed')]).toEqual([2, 2]);
  expect(await names(join(vault, '.stellin-trash/2019'))).toEqual(['a.jpg', 'a.xmp', 'b.jpg']);
  expect((await world.services.drives.listFolders(PROGRAM)).map(({ path }) => path)).not.toContain(
    '.stellin-trash/2019',
  );
  // Neither a look through the drive nor write-back touches them.
  expect((await world.takeIn(vault)).result).toMatchObject({ new: 0, missing: 0 });
  await does({ kind: 'restoreFiles', selection: { query: 'is:trashed name:a.jpg' } });
  expect(await names(join(vault, '2019'))).toEqual(['a.jpg', 'a.xmp']);
  expect(await count('folder:Vault/2019 title:Dunes')).toBe(1);
  const trash = await world.services.filing.listTrash();
  expect(trash.drives).toMatchObject([{ label: 'Vault', photos: 1 }]);
  const [trashed] = await world.services.photos.list(PROGRAM, {
    query: 'is:trashed',
    sort: 'added',
    offset: 0,
    limit: 1,
  });
  const preview = (await world.services.previews.fileOf(trashed?.id ?? 0)) ?? '';
  expect(existsSync(preview)).toBe(true);
  await world.services.filing.emptyTrash(await driveId('Vault'), world.keeperId);
  expect((await ended('emptyTrash')).result).toEqual({ deleted: 1 });
  expect(existsSync(preview)).toBe(false);
  expect(await names(join(vault, '.stellin-trash/2019'))).toEqual([]);
  expect([await count(), await count('is:trashed')]).toEqual([3, 0]);
});

test('a sidecar stays until the last of those that share it has gone, however many files are deleted in between', async () => {
  await putFiles(vault, {
    'many/a.jpg': await realJpeg({}, 11),
    'many/a.xmp': Buffer.from(
      '<x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#"/></x:xmpmeta>',
    ),
    ...Object.fromEntries(
      Array.from({ length: 110 }, (_, i) => [`many/b${i}.jpg`, new Uint8Array([0xff, 0xd8, 0xff, i])]),
    ),
  });
  await world.takeIn(vault);
  await putFiles(vault, { 'many/a.png': new Uint8Array([0x89, 0x50, 0x4e, 0x47]) });
  await world.takeIn(vault);
  await does({ kind: 'trashFiles', selection: { query: 'within:Vault/many' } });
  const trash = join(vault, '.stellin-trash/many');
  // Something in its place that can't be deleted as a file.
  await rm(join(trash, 'a.png'));
  await mkdir(join(trash, 'a.png'));
  await world.services.filing.emptyTrash(await driveId('Vault'), world.keeperId);
  expect((await ended('emptyTrash')).result).toEqual({ deleted: 111 });
  expect(await names(trash)).toEqual(['a.png', 'a.xmp']);
});

test('what is taken out of the catalogue keeps its file and comes back with all that was said', async () => {
  await world.apply({ kind: 'setRating', selection: { query: 'name:c.jpg' }, rating: 5 });
  await world.apply({ kind: 'removePhotos', selection: { query: 'name:c.jpg' } });
  expect([await count('rating:5'), await count('is:removed rating:5')]).toEqual([0, 1]);
  expect((await world.takeIn(vault)).result).toMatchObject({ new: 0, missing: 0 });
  expect(await names(vault)).toEqual(['2019', 'c.jpg']);
  expect(await count('rating:5')).toBe(0);
  await world.apply({ kind: 'returnPhotos', selection: { query: 'is:removed' } });
  expect(await count('rating:5')).toBe(1);
});

test('a missing photo that was let go does not come back under another name', async () => {
  const bytes = await readFile(join(vault, 'c.jpg'));
  await rm(join(vault, 'c.jpg'));
  await world.takeIn(vault);
  await world.apply({ kind: 'removePhotos', selection: { query: 'is:missing' } });
  await putFiles(vault, { 'again.jpg': bytes });
  expect((await world.takeIn(vault)).result).toMatchObject({ new: 1, moved: 0 });
  expect(await count('name:again.jpg')).toBe(1);
});

test('names from a pattern; files that share a base name keep sharing it', async () => {
  await putFiles(vault, { '2019/a.png': await readFile(join(vault, '2019/b.jpg')) });
  await world.takeIn(vault);
  const renaming = {
    selection: { query: 'folder:Vault/2019', minus: [], plus: [] },
    pattern: '{folder}_{number:3}',
    start: 7,
    step: 1,
    restart: 'never' as const,
  };
  const plan = await world.services.filing.plan({ action: 'rename', folder: '', ...renaming });
  expect(plan).toMatchObject({ photos: 3, taken: 0, problem: null });
  expect(plan.examples.map(({ before, after }) => [before, after])).toEqual([
    ['a.jpg', '2019_007.jpg'],
    ['a.png', '2019_007.png'],
    ['b.jpg', '2019_008.jpg'],
  ]);
  await does({ kind: 'renameFiles', ...renaming });
  expect(await names(join(vault, '2019'))).toEqual(['2019_007.jpg', '2019_007.png', '2019_007.xmp', '2019_008.jpg']);
  // Found by the new name, as words too, and still described.
  expect(await count('name:2019_007* title:Dunes')).toBe(2);
  expect((await world.takeIn(vault)).result).toMatchObject({ new: 0, changed: 0, missing: 0 });
  await undo();
  expect(await names(join(vault, '2019'))).toEqual(['a.jpg', 'a.png', 'a.xmp', 'b.jpg']);
  const bad = { ...renaming, pattern: 'what?{number}' };
  expect((await world.services.filing.plan({ action: 'rename', folder: '', ...bad })).problem).toContain('“?”');
  await expect(world.apply({ kind: 'renameFiles', ...bad })).rejects.toThrow('can’t be used');
});

test('names are exchanged and moved up among the files of a step; sidecars stay with their files', async () => {
  await putFiles(vault, {
    'run/k1.jpg': await realJpeg({ title: 'One' }, 11),
    'run/k1.png': await readFile(join(vault, '2019/b.jpg')),
    'run/k1.xmp': Buffer.from(SIDECAR),
    'run/k2.jpg': await realJpeg({ title: 'Two' }, 12),
    'run/k3.jpg': await realJpeg({ title: 'Three' }, 13),
    'run/other.jpg': await realJpeg({ title: 'Other' }, 14),
  });
  await world.takeIn(vault);
  const before = new Map(
    await Promise.all(
      (await names(join(vault, 'run'))).map(async (name) => [name, await readFile(join(vault, 'run', name))] as const),
    ),
  );
  const renaming = {
    selection: { query: 'name:k*', minus: [], plus: [] },
    pattern: 'k{number}',
    start: 2,
    step: 1,
    restart: 'never' as const,
  };
  const plan = await world.services.filing.plan({ action: 'rename', folder: '', ...renaming });
  expect(plan).toMatchObject({ photos: 4, taken: 0 });
  const { job } = await does({ kind: 'renameFiles', ...renaming });
  expect(job.result).toMatchObject({ moved: 4, failed: 0 });
  const now = { 'k2.jpg': 'k1.jpg', 'k2.png': 'k1.png', 'k2.xmp': 'k1.xmp', 'k3.jpg': 'k2.jpg', 'k4.jpg': 'k3.jpg' };
  expect(await names(join(vault, 'run'))).toEqual([...Object.keys(now), 'other.jpg']);
  for (const [name, was] of Object.entries(now))
    expect((await readFile(join(vault, 'run', name))).equals(before.get(was) ?? Buffer.of())).toBe(true);
  expect(await count('name:k3.jpg title:Two')).toBe(1);

  await undo();
  expect(await names(join(vault, 'run'))).toEqual([...before.keys()]);
  for (const [name, bytes] of before) expect((await readFile(join(vault, 'run', name))).equals(bytes)).toBe(true);

  // What stays where it is keeps its name to itself.
  const onto = { ...renaming, selection: { query: 'name:k3.jpg', minus: [], plus: [] }, pattern: 'other' };
  expect(await world.services.filing.plan({ action: 'rename', folder: '', ...onto })).toMatchObject({ taken: 1 });
});

test('a file that can’t step aside keeps its name, the others go on, and the ledger says only what was done', async () => {
  await putFiles(vault, {
    'run/k1.jpg': await realJpeg({}, 11),
    'run/k2.jpg': await realJpeg({}, 12),
  });
  await world.takeIn(vault);
  await rm(join(vault, 'run/k2.jpg'));
  const { entry, job } = await does({
    kind: 'renameFiles',
    selection: { query: 'name:k*', minus: [], plus: [] },
    pattern: 'k{number}',
    start: 2,
  });
  expect(job).toMatchObject({ failures: 1, result: { moved: 1, failed: 1 } });
  expect(await names(join(vault, 'run'))).toEqual(['k2-2.jpg']);
  expect(await count('name:k2.jpg')).toBe(1);
  const made = await world.services.database.rows<{ after: string }>(
    `select after ->> 'name' as after from ledger_photo where entry_id = $1`,
    [entry.id],
  );
  expect(made).toEqual([{ after: 'k2-2.jpg' }]);
  await undo();
  expect(await names(join(vault, 'run'))).toEqual(['k1.jpg']);
});

test('numbers with a step begin anew in each folder, and names are searched and replaced', async () => {
  const everything = { selection: { query: 'drive:Vault', minus: [], plus: [] }, pattern: '{number:2}', start: 10 };
  const numbered = { ...everything, step: 5, restart: 'folder' as const };
  const { examples } = await world.services.filing.plan({ action: 'rename', folder: '', ...numbered });
  const folders = new Map(
    (
      await world.services.database.rows<{ id: number; folder: string }>(
        'select id, folder_id::text as folder from photo',
      )
    ).map(({ id, folder }) => [id, folder]),
  );
  const first = new Map<string, string>();
  for (const { photoId, after } of examples) {
    const folder = folders.get(photoId) ?? '';
    if (!first.has(folder)) first.set(folder, after);
  }
  expect(first.size).toBeGreaterThan(1);
  for (const name of first.values()) expect(name).toMatch(/^10\./);
  const numbers = examples.map(({ after }) => Number(after.slice(0, 2)));
  expect(numbers.every((number) => (number - 10) % 5 === 0)).toBe(true);
  expect(new Set(numbers).size).toBeGreaterThan(1);

  const replacing = { find: '^(\\w)$', how: 'pattern' as const, matchCase: true, replace: 'SKM-$1' };
  const replaced = { ...everything, pattern: '{name}', step: 1, restart: 'never' as const, replacing };
  const plan = await world.services.filing.plan({ action: 'rename', folder: '', ...replaced });
  expect(plan.examples.map(({ before, after }) => after === `SKM-${before}`)).not.toContain(false);
  const wrong = { ...replaced, replacing: { ...replacing, find: '(' } };
  expect((await world.services.filing.plan({ action: 'rename', folder: '', ...wrong })).problem).toContain('regular');
  // Two files that are to get one name: the second is marked.
  const same = { ...everything, pattern: 'same', step: 1, restart: 'never' as const };
  const { examples: alike, taken } = await world.services.filing.plan({ action: 'rename', folder: '', ...same });
  expect(alike.filter((example) => example.taken)).toHaveLength(taken);
  expect(taken).toBeGreaterThan(0);
});

test('a pattern of somebody that never ends is given up, while others are answered', async () => {
  const [drive = ''] = (await world.services.drives.list(PROGRAM)).flatMap(({ label, mountPoint }) =>
    label === 'Vault' && mountPoint !== null ? [mountPoint] : [],
  );
  await putFiles(drive, { [`${'a'.repeat(60)}!.jpg`]: await realJpeg({}, 7) });
  await world.takeIn(drive);
  const replacing = { find: '(a+)+$', how: 'pattern' as const, matchCase: true, replace: 'b' };
  const selection = { query: '', minus: [], plus: [] };
  const renaming = { selection, pattern: '{name}', start: 1, step: 1, restart: 'never' as const, replacing };
  let ended = false;
  const planning = world.services.filing
    .plan({ action: 'rename', folder: '', ...renaming })
    .finally(() => (ended = true));
  expect(await count()).toBeGreaterThan(0);
  expect(ended).toBe(false);
  expect((await planning).problem).toContain('takes too long');
  await expect(world.apply({ kind: 'renameFiles', ...renaming })).rejects.toThrow('takes too long');
});

test('folders are made and renamed, and both can be undone', async () => {
  const vaultId = await driveId('Vault');
  await world.apply({ kind: 'makeFolder', driveId: vaultId, parent: '2019', name: 'June' });
  expect(existsSync(join(vault, '2019/June'))).toBe(true);
  const folder = (await world.services.drives.listFolders(PROGRAM)).find(({ path }) => path === '2019');
  await world.apply({ kind: 'renameFolder', folderId: folder?.id ?? 0, name: 'Kite festival' });
  expect(await names(join(vault, 'Kite festival'))).toEqual(['June', 'a.jpg', 'a.xmp', 'b.jpg']);
  expect(await count('within:"Vault/Kite festival"')).toBe(2);
  expect((await world.takeIn(vault)).result).toMatchObject({ new: 0, moved: 0, missing: 0 });
  const make = (name: string, parent = '') => world.apply({ kind: 'makeFolder', driveId: vaultId, parent, name });
  await expect(make('Kite festival')).rejects.toThrow('already');
  await expect(make('../out')).rejects.toThrow('can’t be used');
  await expect(make('June', 'nowhere')).rejects.toThrow('no folder');
  await world.services.ledger.undo(world.keeperId);
  expect(await count('within:Vault/2019')).toBe(2);
  await writeFile(join(vault, '2019/June/note.txt'), 'kept');
  await expect(world.services.ledger.undo(world.keeperId)).rejects.toThrow('not empty');
  await rm(join(vault, '2019/June/note.txt'));
  await world.services.ledger.undo(world.keeperId);
  expect(existsSync(join(vault, '2019/June'))).toBe(false);
});

test('a folder whose new name is taken on the drive stays as it is', async () => {
  await mkdir(join(vault, 'taken'));
  const folder = (await world.services.drives.listFolders(PROGRAM)).find(({ path }) => path === '2019');
  const rename = world.apply({ kind: 'renameFolder', folderId: folder?.id ?? 0, name: 'taken' });
  await expect(rename).rejects.toThrow('there already');
  expect(await count('within:Vault/2019')).toBe(2);
  expect(await names(join(vault, '2019'))).toEqual(['a.jpg', 'a.xmp', 'b.jpg']);
});

test('missing and away photos are left out and said so', async () => {
  await rm(join(vault, 'c.jpg'));
  await world.takeIn(vault);
  await world.unplug(other);
  const plan = await world.services.filing.plan({
    action: 'move',
    selection: { query: '', minus: [], plus: [] },
    driveId: await driveId('Vault'),
    folder: '2019',
    pattern: '',
    start: 1,
    step: 1,
    restart: 'never',
  });
  expect(plan).toMatchObject({ photos: 0, missing: 1, away: 1, taken: 0 });
  await expect(moves('', 'Vault', '2019')).rejects.toThrow('Nothing would change');
  await expect(moves('', 'Other', '')).rejects.toThrow('is away');
});

test('targets outside the drive are refused', async () => {
  await expect(moves('name:c.jpg', 'Vault', '../out')).rejects.toThrow('can’t be used');
  await symlink('/tmp', join(vault, 'out'));
  const { job } = await moves('name:c.jpg', 'Vault', 'out');
  expect(job.result).toMatchObject({ moved: 0, failed: 1 });
  expect(await names(vault)).toContain('c.jpg');
  expect(await count('folder:Vault name:c.jpg')).toBe(1);
});

describe('from one file system to another', () => {
  let far: string;
  beforeEach(async () => {
    far = await folderElsewhere();
    await world.services.drives.addPlace(far);
    await putFiles(far, { 'z.jpg': await realJpeg({}, 250) });
    await world.takeIn(far);
  });
  afterEach(() => rm(far, { recursive: true, force: true }));
  const farLabel = () => far.slice(far.lastIndexOf('/') + 1);

  test('files are copied, proven and only then deleted', async () => {
    const bytes = await readFile(join(vault, '2019/a.jpg'));
    await chmod(join(vault, '2019/a.jpg'), 0o640);
    await utimes(join(vault, '2019/a.jpg'), 1e9, 1e9);
    await world.takeIn(vault);
    const { job } = await moves('within:Vault/2019', farLabel(), 'in');
    expect(job.result).toMatchObject({ moved: 2, failed: 0 });
    expect(await readFile(join(far, 'in/a.jpg'))).toEqual(bytes);
    expect(await stat(join(far, 'in/a.jpg'))).toMatchObject({ mtimeMs: 1e12, mode: 0o100640 });
    expect(await names(join(vault, '2019'))).toEqual([]);
    expect(await readdir(join(far, 'in'))).toHaveLength(3);
    expect((await world.takeIn(far)).result).toMatchObject({ new: 0, changed: 0 });
  });

  // Only root can make a small file system.
  const asRoot = process.getuid?.() === 0 ? test : test.skip;
  asRoot('a full drive leaves everything as it was', async () => {
    const mount = join(far, 'small');
    await mkdir(mount);
    execFileSync('mount', ['-t', 'tmpfs', '-o', 'size=64k', 'tmpfs', mount]);
    try {
      await world.services.drives.addPlace(mount);
      await putFiles(vault, { 'big.jpg': Buffer.concat([await realJpeg({}, 77), Buffer.alloc(200_000)]) });
      await world.takeIn(vault);
      await putFiles(mount, { 'y.jpg': await realJpeg({}, 251) });
      await world.takeIn(mount);
      const { job } = await moves('name:big.jpg', 'small', '');
      expect(job.result).toMatchObject({ moved: 0, failed: 1 });
      const [failure] = await world.services.jobs.failures(job.id);
      expect(failure).toMatchObject({ subject: 'Vault: big.jpg', message: expect.stringContaining('full') as string });
      expect(await names(mount)).toEqual(['y.jpg']);
      expect((await readdir(mount)).filter((name) => name.includes('part'))).toEqual([]);
      expect(await count('folder:Vault name:big.jpg')).toBe(1);
      await expect(world.services.ledger.undo(world.keeperId)).resolves.toMatchObject({ photos: 0 });
    } finally {
      execFileSync('umount', [mount]);
    }
  });
});

test('a copy has a preview as soon as somebody looks at it', async () => {
  await does({ kind: 'copyFiles', selection: { query: 'name:c.jpg' }, driveId: await driveId('Other'), folder: '' });
  const [copy] = await world.services.photos.list(PROGRAM, {
    query: 'drive:Other name:c.jpg',
    sort: 'added',
    offset: 0,
    limit: 9,
  });
  expect(copy?.previewVersion).toBe(1);
  expect(await world.services.previews.fileOf(copy?.id ?? 0)).toMatch(/-1\.webp$/);
});

test('a folder goes into another one of its drive with all that is in it, and back by undo; never into itself', async () => {
  await putFiles(vault, {
    '2020/x/d.jpg': await realJpeg({ title: 'Deep' }, 61),
    '2020/note.txt': Buffer.from('kept'),
  });
  await world.takeIn(vault);
  const folderId = await idOfFolder('2020');
  await expect(world.apply({ kind: 'moveFolder', folderId, parent: '2020/x' })).rejects.toThrow('into itself');
  await expect(world.apply({ kind: 'moveFolder', folderId, parent: 'nowhere' })).rejects.toThrow('no folder');
  const { title } = await world.apply({ kind: 'moveFolder', folderId, parent: '2019' });
  expect(title).toBe('Move the folder Vault/2020 into Vault/2019');
  expect(await names(join(vault, '2019/2020'))).toEqual(['note.txt', 'x']);
  expect(await count('within:"Vault/2019" title:Deep')).toBe(1);
  expect(await count('folder:"Vault/2019/2020/x"')).toBe(1);
  await world.services.ledger.undo(world.keeperId);
  expect(await names(join(vault, '2020'))).toEqual(['note.txt', 'x']);
  expect(await count('folder:"Vault/2020/x"')).toBe(1);
});

test('an empty folder is deleted and comes back by undo; one with anything in it is refused with the reason', async () => {
  await world.apply({ kind: 'makeFolder', driveId: await driveId('Vault'), parent: '', name: 'empty' });
  await world.apply({ kind: 'removeFolder', folderId: await idOfFolder('empty') });
  expect(existsSync(join(vault, 'empty'))).toBe(false);
  await world.services.ledger.undo(world.keeperId);
  expect(existsSync(join(vault, 'empty'))).toBe(true);
  await writeFile(join(vault, 'empty/list.txt'), 'unknown here');
  const refused = world.apply({ kind: 'removeFolder', folderId: await idOfFolder('empty') });
  await expect(refused).rejects.toThrow('not empty');
  expect(existsSync(join(vault, 'empty/list.txt'))).toBe(true);
  await expect(world.apply({ kind: 'removeFolder', folderId: await idOfFolder('2019') })).rejects.toThrow(
    'photos are in it',
  );
});

test('two folders become one: what is below the one is so below the other, also on another drive', async () => {
  await putFiles(vault, {
    'one/a.jpg': await realJpeg({}, 71),
    'one/deep/b.jpg': await realJpeg({}, 72),
    'two/a.jpg': await realJpeg({}, 73),
  });
  await world.takeIn(vault);
  await does({
    ...{ kind: 'moveFiles', selection: { query: 'within:"Vault/one"' }, keepBelow: 'one' },
    ...{ driveId: await driveId('Vault'), folder: 'two' },
  });
  expect(await names(join(vault, 'two'))).toEqual(['a-2.jpg', 'a.jpg', 'deep']);
  expect(await names(join(vault, 'two/deep'))).toEqual(['b.jpg']);
  await undo();
  expect(await names(join(vault, 'one/deep'))).toEqual(['b.jpg']);
  await does({
    ...{ kind: 'copyFiles', selection: { query: 'within:"Vault/one"' }, keepBelow: '' },
    ...{ driveId: await driveId('Vault'), folder: 'whole' },
  });
  expect(await names(join(vault, 'whole/one/deep'))).toEqual(['b.jpg']);
});

test('a folder has a colour and a note, which are undone; nothing is renamed for it', async () => {
  const folderId = await idOfFolder('2019');
  await world.apply({ kind: 'describeFolder', folderId, colour: 'teal', note: 'Scanned twice' });
  const folders = () => world.services.drives.listFolders(PROGRAM);
  expect((await folders()).find(({ id }) => id === folderId)).toMatchObject({ colour: 'teal', note: 'Scanned twice' });
  await world.services.ledger.undo(world.keeperId);
  expect((await folders()).find(({ id }) => id === folderId)).toMatchObject({ colour: '', note: '' });
  expect(await names(join(vault, '2019'))).not.toEqual([]);
});

test('what is in a folder is counted before it is trashed, also what the catalogue does not know', async () => {
  await putFiles(vault, {
    '2019/deep/x.jpg': await realJpeg({}, 81),
    '2019/deep/list.txt': Buffer.from('x'),
    '2019/x.xmp': Buffer.from('alone'),
  });
  await world.takeIn(vault);
  const folderId = await idOfFolder('2019');
  const files = (await world.services.filing.contents(folderId)).photos;
  expect(await world.services.filing.contents(folderId)).toEqual({ photos: 3, folders: 1, others: 2 });
  await does({ kind: 'trashFiles', selection: { query: 'within:"Vault/2019"' } });
  expect(await count('within:"Vault/2019"')).toBe(0);
  expect(existsSync(join(vault, '2019/deep/list.txt'))).toBe(true);
  await does({ kind: 'restoreFiles', selection: { query: 'is:trashed' } });
  expect(await count('within:"Vault/2019"')).toBe(files);
  await world.unplug(vault);
  expect(await world.services.filing.contents(folderId)).toMatchObject({ others: null });
  await expect(world.services.filing.contents(999_999)).rejects.toThrow('such folder');
});

test('new names say what the catalogue says of a photo', async () => {
  await world.apply({ kind: 'addTerms', parentId: null, terms: [{ label: 'Rokkaku' }] });
  const [{ id: termId } = { id: 0 }] = await world.services.vocabulary.list();
  await world.apply({ kind: 'giveTerms', selection: { query: 'name:a.jpg' }, termIds: [termId] });
  await does({
    kind: 'renameFiles',
    selection: { query: 'name:a.jpg' },
    pattern: '{title} {term} {people} {city} {number:2}',
  });
  expect(await names(join(vault, '2019'))).toContain('Dunes Rokkaku 0 unknown 01.jpg');
});

async function idOfFolder(path: string): Promise<number> {
  return (await world.services.drives.listFolders(PROGRAM)).find((folder) => folder.path === path)?.id ?? 0;
}
