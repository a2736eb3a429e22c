import { execFileSync, spawn } from 'node:child_process';
import {
  chmod,
  link,
  mkdir,
  mkdtemp,
  readdir,
  readFile,
  readlink,
  rename,
  rm,
  stat,
  symlink,
  utimes,
  writeFile,
} from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import exifr from 'exifr';
import sharp from 'sharp';
import { memorySource } from '@stellin/core/metadata/bytes';
import { patchesOf } from '@stellin/core/metadata/pieces';
import { readMetadata } from '@stellin/core/metadata/read';
import { NOW } from '@stellin/core/metadata/testing';
import { pictureRanges, type FieldChanges } from '@stellin/core/metadata/write';
import { realJpeg } from '../testing/world';
import { carryOut, UnsettledError } from './carryOut';
import { atFaultPoints, type FaultStep } from './fault';
import { ChangedFileError, fingerprintOf, identityOf } from './fingerprint';
import { journalEntryOf, openFileJournal, parseEntry, recoverFileJournals, serializeEntry, settle } from './journal';
import { planFiles, type WriteRequest } from './planWrite';
import { planTakeBack, versionOf } from './takeBack';
import { writeBatch } from './writeBatch';

let folder: string;
let path: string;
beforeEach(async () => {
  folder = await mkdtemp(join(tmpdir(), 'stellin-write-'));
  path = join(folder, 'a.jpg');
  await writeFile(path, await realJpeg({ keywords: ['own'] }));
});
afterEach(() => rm(folder, { recursive: true, force: true }));

const planned = (changes: FieldChanges, more: Partial<WriteRequest> = {}) =>
  planFiles({ path, changes, options: { now: NOW }, ...more });
const write = async (changes: FieldChanges, more: Partial<WriteRequest> = {}) => {
  const [result] = await carryOut([planned(changes, more)]);
  if (!result?.ok) throw result?.error ?? new Error('no result');
  return result.now;
};
const fieldsIn = async (file = path) => readMetadata(memorySource(await readFile(file))).fields;
const large: FieldChanges = { description: 'Dunes. '.repeat(1500) };

describe('a picture of every kind that programs make', () => {
  const plain = () =>
    sharp({ create: { width: 64, height: 48, channels: 3, background: { r: 200, g: 90, b: 40 } } }).withIccProfile(
      'srgb',
    );
  const changes = {
    title: 'Dünen',
    keywords: ['Kite', 'Beach'],
    creator: ['Ida'],
    dateCreated: '2024-06-01T10:11:12',
    rating: 4,
  };

  test.each([
    ['JPEG', () => plain().jpeg()],
    ['progressive JPEG', () => plain().jpeg({ progressive: true })],
    ['PNG', () => plain().png()],
    ['WebP', () => plain().webp()],
    ['WebP without loss', () => plain().webp({ lossless: true })],
    ['TIFF', () => plain().tiff()],
    ['TIFF in tiles', () => plain().tiff({ tile: true, pyramid: true, compression: 'deflate' })],
  ])('%s: written, read by another program, and every pixel the same', async (_name, make) => {
    const before = await make().toBuffer();
    path = join(folder, 'picture');
    await writeFile(path, before);
    await write(changes);
    await write({ keywords: ['Kite', 'Beach', 'Sea'], description: 'A description' });
    const after = await readFile(path);
    expect(await fieldsIn()).toMatchObject({
      ...changes,
      keywords: ['Kite', 'Beach', 'Sea'],
      description: 'A description',
    });
    const pixels = (bytes: Buffer) => sharp(bytes).raw().toBuffer();
    expect((await pixels(after)).equals(await pixels(before))).toBe(true);
    const { icc, xmp } = await sharp(after).metadata();
    expect(icc?.length).toBe((await sharp(before).metadata()).icc?.length);
    if (xmp) expect(xmp.toString()).toContain('<rdf:li>Sea</rdf:li>');
    if (!_name.includes('WebP') && !_name.includes('PNG')) {
      const tags = (await exifr.parse(after, { xmp: true })) as { DateTimeOriginal: Date; subject: string[] };
      expect(tags.subject).toEqual(['Kite', 'Beach', 'Sea']);
    }
  });
});

test('the file is written to where it stands when it fits, and beside it when not', async () => {
  const inode = async () => (await stat(path)).ino;
  const first = await inode();
  const { size } = await stat(path);
  await write({ keywords: ['own', 'Kite'] });
  expect(await inode()).toBe(first);
  expect((await stat(path)).size).toBe(size);
  await write(large);
  expect(await inode()).not.toBe(first);
  expect(await fieldsIn()).toMatchObject({ keywords: ['own', 'Kite'], description: String(large.description).trim() });
  expect(await readdir(folder)).toEqual(['a.jpg']);
});

test.each([
  ['in place', { city: 'Saltmarsh' }],
  ['beside', large],
])('times, owner, mode and extended attributes stay (%s)', async (_way, changes) => {
  await chmod(path, 0o640);
  if (process.getuid?.() === 0) execFileSync('chown', ['1234:4321', path]);
  await utimes(path, 1_000_000_000.25, 1_100_000_000.5);
  const attribute = setAttribute('user.kite', 'rokkaku');
  const before = await stat(path);
  await write(changes, { keepTimesInPlace: true });
  const { mode, uid, gid, mtimeMs } = await stat(path);
  expect({ mode, uid, gid, mtimeMs }).toEqual({
    mode: before.mode,
    uid: before.uid,
    gid: before.gid,
    mtimeMs: 1_100_000_000_500,
  });
  if (attribute) expect(getAttribute('user.kite')).toBe('rokkaku');
});

test('written in place, a file gets a new time unless that is wished: its size stays, so others would not see it', async () => {
  await utimes(path, 1_000_000_000, 1_100_000_000);
  const { size } = await stat(path);
  await write({ city: 'Saltmarsh' });
  const now = await stat(path);
  expect([now.size, now.mtimeMs > 1_100_000_000_000]).toEqual([size, true]);
});

test('a link is followed to the file and stays a link', async () => {
  await mkdir(join(folder, 'links'));
  const link = join(folder, 'links', 'b.jpg');
  await symlink('../a.jpg', link);
  await carryOut([planFiles({ path: link, changes: large, options: { now: NOW } })]);
  expect(await readlink(link)).toBe('../a.jpg');
  expect((await fieldsIn()).description).toBe(String(large.description).trim());
});

test('a read-only file is left alone', async () => {
  await chmod(path, 0o444);
  expect(() => planned({ city: 'x' })).toThrow('read-only');
});

test('a file of several names is written in place, where they all say the same, and not anew', async () => {
  const other = join(folder, 'other name.jpg');
  await link(path, other);
  await write({ city: 'Saltmarsh' });
  expect((await fieldsIn(other)).city).toBe('Saltmarsh');
  expect(() => planned(large)).toThrow('has 2 names (hard links)');
  await write(large, { sidecarOnly: true });
  expect((await stat(path)).nlink).toBe(2);
});

test('nothing is written when it says it all already', async () => {
  expect(planned({ keywords: ['own'] }).files).toEqual([]);
});

test('a file that was changed since it was read is not overwritten, be it before the plan or after', async () => {
  const file = fingerprintOf(path);
  if (!file) throw new Error('the file is gone');
  const plan = planned(large);
  const inPlace = planned({ city: 'x' });
  await utimes(path, 1, 1);
  const theirs = await readFile(path);
  expect(() => planned({ city: 'x' }, { expected: { file, sidecarMtimeMs: null } })).toThrow(ChangedFileError);
  for (const result of await carryOut([plan, inPlace]))
    expect(result).toMatchObject({ ok: false, error: expect.any(ChangedFileError) as unknown });
  expect(await readFile(path)).toEqual(theirs);
  expect(await readdir(folder)).toEqual(['a.jpg']);
});

test('in place nothing is written over bytes that somebody else has written, whatever size and time say', async () => {
  const plan = planned({ city: 'Saltmarsh' });
  const [file] = plan.files;
  const [patch] = file?.patches ?? [];
  if (!file || !patch) throw new Error('no plan in place');
  const { atime, mtime } = await stat(path);
  const theirs = await readFile(path);
  theirs.fill(7, patch.offset, patch.offset + patch.before.length);
  await writeFile(path, theirs);
  await utimes(path, atime, mtime);
  // By what was done to it, and, of a file system that does not tell, by its bytes.
  for (const identity of [file.identity, undefined]) {
    const before = fingerprintOf(path);
    const [result] = await carryOut([{ ...plan, files: [{ ...file, before, identity }] }]);
    expect(result).toMatchObject({ ok: false, error: expect.any(ChangedFileError) as unknown });
    expect((await readFile(path)).equals(theirs)).toBe(true);
  }
});

describe('a drive that fails in the middle of a write', () => {
  afterEach(() => atFaultPoints(undefined));

  /** At these steps the drive fails. */
  const failAt = (...steps: FaultStep[]) =>
    atFaultPoints((step) => {
      if (steps.includes(step)) throw Object.assign(new Error(`fails at ${step}`), { code: 'EIO' });
    });

  test.each<[FaultStep, FieldChanges]>([
    ['write:halfPatched', { city: 'Saltmarsh' }],
    ['write:patched', { city: 'Saltmarsh' }],
    ['write:copied', large],
    ['write:verified', large],
  ])('at %s: the file is as it was, with its times, and nothing is left beside it', async (step, changes) => {
    await utimes(path, 1_000_000_000, 1_100_000_000);
    const before = await readFile(path);
    const plan = planned(changes);
    failAt(step);
    const [result] = await carryOut([plan]);
    expect(result).toMatchObject({
      ok: false,
      error: { message: 'the drive could not be read or written', code: 'EIO' },
    });
    expect((await readFile(path)).equals(before)).toBe(true);
    expect((await stat(path)).mtimeMs).toBe(1_100_000_000_000);
    expect(await readdir(folder)).toEqual(['a.jpg']);
  });

  test('and does not take the old bytes back either: the journal stays, and the next process puts them back', async () => {
    const before = await readFile(path);
    const journals = join(folder, 'journal');
    failAt('write:halfPatched', 'write:restoring');
    const [result] = await writeBatch(journals, [{ path, changes: { city: 'Saltmarsh' }, options: { now: NOW } }]);
    expect(result).toMatchObject({
      ok: false,
      message: expect.stringContaining('nor could the old bytes be put back') as string,
    });
    expect((await readFile(path)).equals(before)).toBe(false);
    atFaultPoints(undefined);
    const [name = ''] = await readdir(journals);
    const ended = spawn('true');
    await new Promise((resolve) => ended.on('exit', resolve));
    await rename(join(journals, name), join(journals, `${ended.pid}-1.journal`));
    // What can't be read of a journal is told and stays; it stops nothing else.
    await writeFile(join(journals, `${ended.pid}-2.journal`), 'no entry\nend\n');
    expect(recoverFileJournals(journals)).toEqual([
      { path, settled: 'restored' },
      { path: 'a line of the journal', settled: expect.any(Error) as unknown },
    ]);
    expect((await readFile(path)).equals(before)).toBe(true);
    expect(await readdir(journals)).toEqual([`${ended.pid}-2.journal`]);
  });

  test('is told as such where the catalogue has to keep its journal', async () => {
    const plan = planned({ city: 'Saltmarsh' });
    failAt('write:patched', 'write:restoring');
    const [result] = await carryOut([plan]);
    expect(result).toMatchObject({ ok: false, error: expect.any(UnsettledError) as unknown });
  });
});

test('a full disk leaves the old file, and nothing else', async () => {
  const before = await readFile(path);
  const plan = planned(large);
  await symlink('/dev/full', plan.files[0]?.temporary ?? '');
  const [result] = await carryOut([plan]);
  expect(result).toMatchObject({ ok: false, error: { message: 'the drive is full', code: 'ENOSPC' } });
  expect(await readFile(path)).toEqual(before);
  expect(await readdir(folder)).toEqual(['a.jpg']);
});

test('a new file that is not what it should be never replaces the old one', async () => {
  const before = await readFile(path);
  const [file] = planned(large).files;
  if (!file?.pieces) throw new Error('no plan');
  const at = pictureRanges(memorySource(before)).at(-1)?.start ?? 0;
  const damaged = {
    ...file,
    pieces: [...file.pieces.slice(0, -1), before.subarray(at).map((byte, i) => (i === 40 ? byte ^ 1 : byte))],
  };
  const silent = { ...file, check: { ...file.check, changes: { city: 'never written' } } };
  const results = [];
  for (const wrong of [damaged, silent]) results.push(...(await carryOut([{ path, files: [wrong], cuts: [] }])));
  expect(results).toMatchObject([
    { ok: false, error: { message: expect.stringContaining('picture data') as unknown } },
    { ok: false, error: { message: expect.stringContaining('City') as unknown } },
  ]);
  expect(await readFile(path)).toEqual(before);
});

describe('sidecars', () => {
  test('are written where asked for or where the file can’t hold it, and kept up beside a file that can', async () => {
    await write({ city: 'Saltmarsh' }, { sidecarOnly: true });
    expect(await readdir(folder)).toEqual(['a.jpg', 'a.xmp']);
    expect((await fieldsIn()).city).toBeUndefined();
    await write({ city: 'Westmarsh' });
    const sidecar = await readFile(join(folder, 'a.xmp'));
    expect(readMetadata(memorySource(await readFile(path))).fields.city).toBe('Westmarsh');
    expect(readMetadata(memorySource(await readFile(path)), sidecar).blocks.sidecar).toMatchObject({
      city: 'Westmarsh',
    });
  });

  test('one that can’t be read is never replaced', async () => {
    await writeFile(join(folder, 'a.xmp'), 'no XMP');
    expect(() => planned({ city: 'x' })).toThrow();
    expect(await readFile(join(folder, 'a.xmp'), 'utf8')).toBe('no XMP');
  });
});

describe('taking back', () => {
  test.each([
    ['in place', { city: 'Saltmarsh' }, false],
    ['beside', large, false],
    ['into a new sidecar', { city: 'Saltmarsh' }, true],
  ])('brings every byte back (%s)', async (_way, changes, sidecarOnly) => {
    const before = await readFile(path);
    const plan = planned(changes, { sidecarOnly });
    const versions = plan.files.map(versionOf);
    await carryOut([plan]);
    const [result] = await carryOut([planTakeBack(path, versions)]);
    expect(result?.ok).toBe(true);
    expect((await readFile(path)).equals(before)).toBe(true);
    expect(await readdir(folder)).toEqual(['a.jpg']);
  });

  test('goes back step by step, and not past what another program wrote', async () => {
    const states = [await readFile(path)];
    const kept = [];
    for (const changes of [{ city: 'a' }, large, { keywords: ['own', 'b'] }, { description: null }]) {
      const plan = planned(changes);
      kept.push(plan.files.map(versionOf));
      await carryOut([plan]);
      states.push(await readFile(path));
    }
    for (let i = kept.length - 1; i >= 0; i--) {
      await carryOut([planTakeBack(path, kept[i] ?? [])]);
      expect((await readFile(path)).equals(states[i] ?? Buffer.alloc(0))).toBe(true);
    }
    const plan = planned({ city: 'a' });
    const versions = plan.files.map(versionOf);
    await carryOut([plan]);
    await carryOut([planned({ city: 'theirs' })]);
    expect(() => planTakeBack(path, versions)).toThrow('by another program since');
  });
});

describe('the journal', () => {
  test('a file that was half-written in place gets its old bytes back; a whole one stays; a foreign one is left alone', async () => {
    const before = await readFile(path);
    const [file] = planned({ city: 'Saltmarsh', keywords: ['own', 'Kite'] }).files;
    if (!file?.patches?.[0]) throw new Error('no plan in place');
    const entry = parseEntry(serializeEntry(journalEntryOf(file)));
    expect(patchesOf(memorySource(before), file.pieces ?? [])).toEqual(entry.patches);
    expect(settle(entry)).toBe('old');

    const [patch] = entry.patches;
    if (!patch) throw new Error('no patch');
    const torn = Buffer.from(before);
    torn.set(patch.after.subarray(0, patch.after.length >> 1), patch.offset);
    await writeFile(path, torn);
    expect(settle(entry)).toBe('restored');
    expect((await readFile(path)).equals(before)).toBe(true);

    await carryOut(
      [{ path, files: [file], cuts: [] }].map((write) => ({
        ...write,
        files: [{ ...file, before: fingerprintOf(path), identity: identityOf(path) }],
      })),
    );
    expect(settle(entry)).toBe('new');
    const foreign = await readFile(path);
    foreign.fill(7, patch.offset, patch.offset + patch.after.length);
    await writeFile(path, foreign);
    expect(settle(entry)).toBe('foreign');
    expect((await readFile(path)).equals(foreign)).toBe(true);
  });

  test('as a file it is sorted out by the next process, not while its own lives', async () => {
    const journals = join(folder, 'journal');
    const plan = planned({ city: 'Saltmarsh' });
    const journal = openFileJournal(journals, plan.files.map(journalEntryOf));
    expect(recoverFileJournals(journals)).toEqual([]);
    const [name = ''] = await readdir(journals);
    const ended = spawn('true');
    await new Promise((resolve) => ended.on('exit', resolve));
    const text = await readFile(join(journals, name));
    await writeFile(join(journals, `${ended.pid}-1.journal`), text);
    await writeFile(join(journals, `${ended.pid}-2.journal`), text.subarray(0, text.length / 2));
    expect(recoverFileJournals(journals)).toEqual([{ path, settled: 'old' }]);
    journal.close();
    expect(await readdir(journals)).toEqual([]);
  });
});

/** Sets an extended attribute by the system call, since no program of a bare system does; false where that can't be done. */
function setAttribute(name: string, value: string): boolean {
  if (process.arch !== 'x64') return false;
  const call = 'exit(syscall(188, $ARGV[0], $ARGV[1], $ARGV[2], length($ARGV[2]), 0) == 0 ? 0 : 1)';
  try {
    execFileSync('perl', ['-e', call, path, name, value], { stdio: 'ignore' });
    return true;
  } catch {
    return false;
  }
}

function getAttribute(name: string): string {
  const call = 'my $b = "\\0" x 64; my $n = syscall(191, $ARGV[0], $ARGV[1], $b, 64); print substr($b, 0, $n)';
  return execFileSync('perl', ['-e', call, path, name]).toString();
}
