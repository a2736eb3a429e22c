import { execFileSync } from 'node:child_process';
import { mkdtemp, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { buffer } from 'node:stream/consumers';
import { parse } from 'csv-parse/sync';
import { stretchesOf, type Stretch } from '@stellin/core/media/stretches';
import type { FieldValue, FieldValues } from '@stellin/core/metadata/fields';
import { planSidecar } from '@stellin/core/metadata/write';
import { openWorld, putFiles, realJpeg, type World } from '../testing/world';
import { PROGRAM } from '../catalogue/viewer';
import { findStretches } from './stretches';

let world: World;
let drive: string;
let film: Buffer;
beforeAll(async () => {
  const folder = await mkdtemp(join(tmpdir(), 'stellin-stretches-'));
  const path = join(folder, 'film.mp4');
  // A picture that stands for itself every second.
  execFileSync('ffmpeg', [
    ...[
      '-v',
      'error',
      '-f',
      'lavfi',
      '-i',
      'testsrc=duration=6:size=160x120:rate=10',
      '-f',
      'lavfi',
      '-i',
      'sine=duration=6',
    ],
    ...['-c:v', 'libx264', '-g', '10', '-pix_fmt', 'yuv420p', '-c:a', 'aac', '-shortest', path],
  ]);
  film = await readFile(path);
  await rm(folder, { recursive: true });
});
beforeEach(async () => {
  world = await openWorld({ connections: 3 });
  drive = await world.addDrive('Vault');
  await putFiles(drive, { 'kites.mp4': film, 'a.jpg': await realJpeg({}) });
  await world.takeIn(drive);
});
afterEach(() => world.close());

const stretch = (from: number, to: number, part: Partial<Stretch> = {}): Stretch => ({
  ...{ key: null, from, to, name: '', note: '', rating: 0, terms: [], people: [] },
  ...part,
});
const count = (query: string) => world.services.search.all.count(query);
const idOf = async (name: string) => (await world.ids()).get(name) ?? 0;
async function stretches() {
  const { fields } = await world.services.photos.find(PROGRAM, await idOf('kites.mp4'));
  return stretchesOf((fields as FieldValues).stretches);
}
const set = async (all: readonly Stretch[]) =>
  world.apply({
    kind: 'setStretches',
    photoId: await idOf('kites.mp4'),
    stretches: [...all],
    seen: (await field()) ?? null,
  });

test('stretches are kept, found, undone, written as markers into the sidecar, and taken from there', async () => {
  const { title } = await set([
    stretch(2, 4, { name: 'Launch', note: 'Of the big rokkaku', terms: ['Rokkaku'], rating: 5 }),
  ]);
  expect(title).toBe('Stretches of kites.mp4');
  for (const query of ['stretches:launch', 'stretches:*rokkaku*', 'launch', '"big rokkaku"'])
    expect(await count(query)).toBe(1);
  await set([...(await stretches()), stretch(0.5, 0.5, { name: 'Clap' })]);
  expect((await stretches()).map(({ name }) => name)).toEqual(['Clap', 'Launch']);
  await world.services.ledger.undo(world.keeperId);
  expect((await stretches()).map(({ name }) => name)).toEqual(['Launch']);

  const { id } = await world.services.writeBack.run(world.services.jobs, { retryFailed: false }, world.keeperId);
  expect((await world.until(id, ['done'])).failures).toBe(0);
  const sidecar = await readFile(join(drive, 'kites.xmp'), 'utf8');
  expect(sidecar).toContain('xmpDM:startTime');
  expect(Buffer.compare(await readFile(join(drive, 'kites.mp4')), film)).toBe(0);

  // What another program marks as well is there after the next reading.
  const tracks = [
    { trackName: 'Comments', frameRate: 'f25', markers: [{ startTime: '25', duration: '25', name: 'Wind' }] },
  ];
  const theirs = planSidecar(
    Buffer.from(sidecar),
    { stretches: [...((await field()) as FieldValue[]), ...tracks] },
    { now: '2026-11-30T10:00:00Z' },
  );
  await writeFile(join(drive, 'kites.xmp'), theirs);
  await world.takeIn(drive);
  expect((await stretches()).map(({ from, to, name }) => [from, to, name])).toEqual([
    [1, 2, 'Wind'],
    [2, 4, 'Launch'],
  ]);
});

async function field() {
  const { fields } = await world.services.photos.find(PROGRAM, await idOf('kites.mp4'));
  return (fields as FieldValues).stretches;
}

test('who has not seen what somebody else marked meanwhile takes nothing of it away', async () => {
  const photoId = await idOf('kites.mp4');
  await set([stretch(1, 2, { name: 'Theirs' })]);
  await expect(
    world.apply({ kind: 'setStretches', photoId, stretches: [stretch(3, 4, { name: 'Mine' })], seen: null }),
  ).rejects.toThrow('have been changed meanwhile');
  expect((await stretches()).map(({ name }) => name)).toEqual(['Theirs']);
});

test('only films and sounds have stretches', async () => {
  await expect(
    world.apply({ kind: 'setStretches', photoId: await idOf('a.jpg'), stretches: [stretch(1, 2)], seen: null }),
  ).rejects.toThrow('neither a film nor a sound');
});

test('they are listed for others, and a part is had as a file of its own without its pictures being coded anew', async () => {
  await set([stretch(2, 4, { name: '=Launch', note: 'first' }), stretch(1, 1)]);
  const id = await idOf('kites.mp4');
  const csv = await world.services.stretches.list(id, 'csv');
  const rows = parse(csv.text, { bom: true, columns: true }) as Record<string, string>[];
  expect(rows).toHaveLength(2);
  // A formula for nobody.
  expect(rows[1]).toMatchObject({ From: '0:02.0', To: '0:04.0', 'First timecode': '00:00:02:00', Name: "'=Launch" });
  const edl = await world.services.stretches.list(id, 'edl');
  expect(edl.text).toContain('00:00:02:00 00:00:04:00 00:00:00:00 00:00:02:00');

  const { name, stream } = await world.services.stretches.clip(id, { from: 2, to: 4 });
  expect(name).toBe('kites 0.02.0-0.04.0.mp4');
  const path = join(drive, 'clip.mp4');
  await writeFile(path, await buffer(stream));
  const said = execFileSync('ffprobe', [
    '-v',
    'error',
    '-show_entries',
    'format=duration:stream=codec_name',
    '-of',
    'csv=p=0',
    path,
  ]).toString();
  expect(said).toContain('h264');
  const [duration = 0] = said.trim().split('\n').slice(-1).map(Number);
  expect(duration).toBeGreaterThan(1.8);
  // It begins with the picture before that stands for itself: there is one a second.
  expect(duration).toBeLessThan(3.1);
  await world.eventually(async () =>
    (await readdir(join(world.config.home, 'media'))).every((entry) => !entry.startsWith('clip-')),
  );
});

test('a clip of what is away, or can’t leave, is refused with the reason', async () => {
  const id = await idOf('kites.mp4');
  const person = await world.services.rights.personOf(world.keeperId);
  await world.apply({ kind: 'setPrivate', selection: { query: 'name:kites*' }, private: true });
  await expect(world.services.deliveries.requireLeaving(id, person)).rejects.toThrow('private');
  await world.unplug(drive);
  await expect(world.services.stretches.clip(id, { from: 0, to: 1 })).rejects.toThrow('“Vault” is away');
});

test('a query that asks for stretches finds them as results of their own, of what exists for who asks', async () => {
  await set([
    stretch(1, 2, { name: 'Launch', rating: 4 }),
    stretch(3, 5, { name: 'Landing', note: 'In the dunes' }),
    stretch(5, 5.5, { terms: ['Launch'] }),
  ]);
  const photoId = await idOf('kites.mp4');
  const find = (query: string, who = PROGRAM) =>
    findStretches(world.services.database, world.services.search, who, { query, sort: 'name' });
  const found = async (query: string) => (await find(query)).stretches.map(({ from }) => from);
  expect(await found('stretches:launch')).toEqual([1, 5]);
  expect(await found('has:stretches media:film')).toEqual([1, 3, 5]);
  expect(await found('stretches:*dunes* kind:mp4')).toEqual([3]);
  // The film is found by other words as well; none of its stretches is meant.
  expect(await found('media:film')).toEqual([]);
  expect((await find('stretches:launch')).stretches[0]).toMatchObject({
    ...{ photoId, position: 0, film: 'kites.mp4', isFilm: true, name: 'Launch', rating: 4, to: 2 },
  });
  expect(await find('has:stretches', { ...PROGRAM, sight: [], knowsPrivate: false })).toEqual({
    stretches: [],
    more: false,
  });
});
