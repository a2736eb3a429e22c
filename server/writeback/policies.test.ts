import { execFileSync } from 'node:child_process';
import { join } from 'node:path';
import { readdir, readFile, stat } from 'node:fs/promises';
import { memorySource } from '@stellin/core/metadata/bytes';
import { readMetadata } from '@stellin/core/metadata/read';
import { selection as selectionSchema } from '@stellin/contract/photos';
import { writePolicies } from '@stellin/contract/writeback';
import { openWorld, putFiles, realJpeg, type World } from '../testing/world';
import { PROGRAM } from '../catalogue/viewer';

let world: World;
beforeEach(async () => void (world = await openWorld()));
afterEach(() => world.close());

const count = (query: string) => world.services.search.all.count(query);
const blocksOf = async (path: string) => readMetadata(memorySource(await readFile(path))).blocks;
const set = (target: 'city' | 'headline' | 'source', value: string, query = '') =>
  world.apply({ kind: 'setFields', selection: { query }, edits: [{ target, mode: 'replace', value }] });
const settle = (policies: object) => world.services.writeBack.savePolicies(writePolicies.parse(policies));

async function write(selection?: object) {
  const { id } = await world.services.writeBack.run(
    world.services.jobs,
    { retryFailed: false, selection: selection && selectionSchema.parse(selection) },
    world.keeperId,
  );
  return world.until(id, ['done']);
}

test('IIM only where it is, sidecars by kind, and times of files that change', async () => {
  const drive = await world.addDrive('Vault');
  await putFiles(drive, { 'a.jpg': await realJpeg() });
  await world.takeIn(drive);
  const before = await stat(join(drive, 'a.jpg'));
  await settle({ iim: 'where present' });
  await set('city', 'Saltmarsh');
  await write();
  const { xmp, iim } = await blocksOf(join(drive, 'a.jpg'));
  expect([xmp?.city, iim]).toEqual(['Saltmarsh', undefined]);
  expect((await stat(join(drive, 'a.jpg'))).mtimeMs).toBeCloseTo(before.mtimeMs, 0);

  await settle({ iim: 'always', keepTimes: false });
  await set('city', 'Fenwick');
  await write();
  expect((await blocksOf(join(drive, 'a.jpg'))).iim?.city).toBe('Fenwick');
  expect((await stat(join(drive, 'a.jpg'))).mtimeMs).toBeGreaterThan(before.mtimeMs);
  expect(await count('is:written')).toBe(1);

  await settle({ sidecarKinds: ['jpeg'] });
  const bytes = await readFile(join(drive, 'a.jpg'));
  await set('city', 'Elsewhere');
  await write();
  expect((await readFile(join(drive, 'a.jpg'))).equals(bytes)).toBe(true);
  expect(await readdir(drive)).toContain('a.xmp');
  expect((await readFile(join(drive, 'a.xmp'))).toString()).toContain('Elsewhere');
});

test('films and sounds get a sidecar; in the file itself only where that is chosen, and what they record stays as it is', async () => {
  const drive = await world.addDrive('Vault');
  const film = join(drive, 'kite.mp4');
  execFileSync('ffmpeg', [
    ...['-v', 'error', '-f', 'lavfi', '-i', 'testsrc=size=64x36:rate=25:duration=1', '-c:v', 'libx264', film],
  ]);
  execFileSync('ffmpeg', ['-v', 'error', '-f', 'lavfi', '-i', 'sine=duration=1', join(drive, 'wind.wav')]);
  const streamsOf = (name: string) =>
    execFileSync('ffmpeg', ['-v', 'error', '-i', join(drive, name), '-c', 'copy', '-f', 'md5', '-']).toString();
  const names = ['kite.mp4', 'wind.wav'];
  const streams = names.map(streamsOf);
  await world.takeIn(drive);
  await set('city', 'Saltmarsh');
  await write();
  expect((await readdir(drive)).filter((name) => !name.startsWith('.')).sort()).toEqual([
    'kite.mp4',
    'kite.xmp',
    'wind.wav',
    'wind.xmp',
  ]);
  expect(await blocksOf(film)).not.toHaveProperty('xmp');

  await settle({ recordings: 'file' });
  await set('headline', 'High up');
  await write();
  for (const name of names) expect((await blocksOf(join(drive, name))).xmp?.headline).toBe('High up');
  expect(names.map(streamsOf)).toEqual(streams);
  const { size } = await stat(film);
  await set('headline', 'Higher up');
  await write();
  expect((await stat(film)).size).toBe(size);
  expect(names.map(streamsOf)).toEqual(streams);
  expect(await count('is:written')).toBe(2);
  expect(await count('is:damaged')).toBe(0);
});

test('a withheld field is not written and does not wait, until it is withheld no longer', async () => {
  const drive = await world.addDrive('Vault');
  await putFiles(drive, { 'a.jpg': await realJpeg({ headline: 'Old' }) });
  await world.takeIn(drive);
  await set('headline', 'Only for us');
  await settle({ withheld: ['headline'] });
  expect(await count('is:waiting')).toBe(0);
  await set('city', 'Saltmarsh');
  await write();
  const { xmp } = await blocksOf(join(drive, 'a.jpg'));
  expect([xmp?.headline, xmp?.city]).toEqual(['Old', 'Saltmarsh']);
  expect(await count('headline:"Only for us" not is:waiting')).toBe(1);
  await settle({});
  expect(await count('is:waiting')).toBe(1);
  await write();
  expect((await blocksOf(join(drive, 'a.jpg'))).xmp?.headline).toBe('Only for us');
});

test('own fields of the project that are withheld stay in the catalogue, and what a file says of them stays there', async () => {
  const drive = await world.addDrive('Vault');
  await putFiles(drive, { 'a.jpg': await realJpeg() });
  await world.takeIn(drive);
  const say = (target: `custom:${string}`, value: string) =>
    world.apply({ kind: 'setFields', selection: { query: '' }, edits: [{ target, mode: 'replace', value: [value] }] });
  await say('custom:Loan number', 'L 1');
  await write();
  await settle({ withheld: ['custom:Loan number', 'custom:Price paid'] });
  await say('custom:Price paid', '20');
  expect(await count('is:waiting')).toBe(0);
  await say('custom:Loan number', 'L 2');
  await say('custom:Cabinet', 'C 3');
  const pending = await world.services.writeBack.listPending({ offset: 0, limit: 10 });
  expect(pending.photos[0]?.fields).toMatchObject([
    {
      field: 'custom',
      after: [
        { Name: 'Cabinet', Value: ['C 3'] },
        { Name: 'Loan number', Value: ['L 1'] },
      ],
    },
  ]);
  await write();
  expect(await count('is:waiting')).toBe(0);
  expect((await blocksOf(join(drive, 'a.jpg'))).xmp?.custom).toEqual(pending.photos[0]?.fields[0]?.after);
  // Read again, the file does not take back what only the catalogue says.
  await world.takeIn(drive);
  const id = (await world.ids()).get('a.jpg') ?? 0;
  expect((await world.services.photos.find(PROGRAM, id)).fields['custom']).toEqual(
    expect.arrayContaining([
      { Name: 'Price paid', Value: ['20'] },
      { Name: 'Loan number', Value: ['L 2'] },
    ]),
  );
});

test('a drive that returns with writes on it is asked about, if that is wanted', async () => {
  const drive = await world.addDrive('Vault');
  await putFiles(drive, { 'a.jpg': await realJpeg() });
  await world.takeIn(drive);
  const asked = async () => (await world.services.writeBack.overview(PROGRAM)).map(({ returned }) => returned !== null);
  const shelf = await world.unplug(drive);
  await set('city', 'Saltmarsh');
  expect(await asked()).toEqual([false]);
  const back = await world.plugIn(shelf, 'bay-1');
  expect(await asked()).toEqual([true]);
  await write();
  await set('headline', 'Said while it was there');
  expect(await asked()).toEqual([false]);
  expect((await blocksOf(join(back, 'a.jpg'))).xmp?.city).toBe('Saltmarsh');
});

test('only a selection is written; the preview says what then stands in each block', async () => {
  const drive = await world.addDrive('Vault');
  await putFiles(drive, { 'a.jpg': await realJpeg({ city: 'Old' }), 'b.jpg': await realJpeg({ city: 'Old' }, 70) });
  await world.takeIn(drive);
  await set('city', 'A city whose name is longer than IIM allows');
  const id = (await world.ids()).get('a.jpg') ?? 0;
  const { drives, writer, writeBack } = world.services;
  const preview = await writeBack.preview(id, drives, writer);
  expect(preview).toMatchObject({ before: { xmp: { city: 'Old' } }, cuts: [{ field: 'city', maxBytes: 32 }] });
  const bytes = await readFile(join(drive, 'a.jpg'));
  expect((await write({ query: 'name:a.jpg' })).result).toEqual({ written: 1, conflict: 0, failed: 0 });
  expect((await readFile(join(drive, 'a.jpg'))).equals(bytes)).toBe(false);
  const after = await blocksOf(join(drive, 'a.jpg'));
  expect([after.xmp?.city, after.iim?.city]).toEqual([preview.after.xmp?.city, preview.after.iim?.city]);
  expect(await count('is:waiting name:b.jpg')).toBe(1);
});

test('drives are written side by side: one that goes away does not stop the other, and goes on by itself when it returns', async () => {
  const [first, second] = [await world.addDrive('First'), await world.addDrive('Second')];
  const many = async () => {
    const bytes = await realJpeg();
    return Object.fromEntries(Array.from({ length: 120 }, (_, i) => [`${i}.jpg`, bytes]));
  };
  await putFiles(first, await many());
  await putFiles(second, await many());
  await world.takeIn(first);
  await world.takeIn(second);
  await set('city', 'Saltmarsh');
  const { id } = await world.services.writeBack.run(world.services.jobs, { retryFailed: false }, world.keeperId);
  // In the middle of its work: at its beginning a drive that is away has no part in it.
  await world.eventually(async () => (await count('is:written drive:Second')) > 0);
  const shelf = await world.unplug(second);
  await world.until(id, ['waiting', 'done']);
  expect(await count('is:written drive:First')).toBe(120);
  await world.plugIn(shelf, 'bay-2');
  await world.eventually(async () => (await count('is:written drive:Second')) === 120);
  expect(await count('is:waiting')).toBe(0);
});

test('what waits on a drive that was away is written when it returns, if that is wanted', async () => {
  const drive = await world.addDrive('Vault');
  await putFiles(drive, { 'a.jpg': await realJpeg() });
  await world.takeIn(drive);
  const shelf = await world.unplug(drive);
  await set('city', 'Saltmarsh');
  await settle({ onReturn: 'write' });
  const back = await world.plugIn(shelf, 'bay-1');
  await world.eventually(async () => (await count('is:written')) === 1);
  expect((await blocksOf(join(back, 'a.jpg'))).xmp?.city).toBe('Saltmarsh');
});

test('a stand-in for another program changes files so that it is noticed', async () => {
  const drive = await world.addDrive('Vault');
  await putFiles(drive, { 'a.jpg': await realJpeg({ city: 'Old' }), 'b.jpg': await realJpeg({ city: 'Old' }, 70) });
  await world.takeIn(drive);
  await set('city', 'Ours', 'name:a.jpg');
  const { touch } = await import('../drives/touching');
  expect(await touch(world.config.home, 'Vault', 2)).toEqual(['a.jpg', 'b.jpg']);
  expect((await world.takeIn(drive)).result).toMatchObject({ changed: 2 });
  expect(await count('is:conflict name:a.jpg city:Ours headline:"Changed by another program"')).toBe(1);
  expect(await count('name:b.jpg city:Elsewhere not is:conflict')).toBe(1);
  await expect(touch(world.config.home, 'Nowhere', 2)).rejects.toThrow('not plugged in');
});
