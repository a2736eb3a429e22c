import { existsSync } from 'node:fs';
import { mkdtemp, readdir, readFile, rm, stat, utimes, writeFile } from 'node:fs/promises';
import { randomBytes } from 'node:crypto';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { folderElsewhere } from '../testing/scratch';
import { atFaultPoints, type FaultStep } from './fault';
import { eachChunk, eachChunkOnDrive } from './pastCache';
import { copyFileProven, hashOfFile, relocate, TakenError } from './relocate';

let near: string;
let far: string;
const bytes = randomBytes(300_000);
beforeEach(async () => {
  near = await mkdtemp(join(tmpdir(), 'stellin-relocate-'));
  far = await folderElsewhere();
  await writeFile(join(near, 'a.jpg'), bytes);
});
afterEach(async () => {
  atFaultPoints(undefined);
  await rm(near, { recursive: true, force: true });
  await rm(far, { recursive: true, force: true });
});

/** At these steps the drive fails. */
const failAt = (...steps: FaultStep[]) =>
  atFaultPoints((step) => {
    if (steps.includes(step)) throw Object.assign(new Error(`fails at ${step}`), { code: 'ENOSPC' });
  });
const move = (to: string, more = {}) =>
  relocate([{ from: join(near, 'a.jpg'), to, copies: false, mayStand: false, ...more }]);

describe.each<[string, () => string, FaultStep[]]>([
  ['within a file system', () => join(near, 'b.jpg'), ['file:reserved', 'file:moved']],
  ['to another', () => join(far, 'b.jpg'), ['file:reserved', 'file:copied', 'file:flushed', 'file:moved']],
])('a file moves %s', (_where, target, steps) => {
  test('whole, with its time, and to where nothing stands', async () => {
    await utimes(join(near, 'a.jpg'), 1_000_000_000, 1_100_000_000);
    await move(target());
    expect((await readFile(target())).equals(bytes)).toBe(true);
    expect((await stat(target())).mtimeMs).toBe(1_100_000_000_000);
    expect(existsSync(join(near, 'a.jpg'))).toBe(false);
    await writeFile(join(near, 'a.jpg'), 'another');
    await expect(move(target())).rejects.toThrow(TakenError);
    expect((await readFile(target())).equals(bytes)).toBe(true);
  });

  test.each(steps)(
    'when the drive fails at %s it stands whole at one end at least, and the move can go on',
    async (step) => {
      failAt(step);
      await expect(move(target())).rejects.toThrow(`fails at ${step}`);
      const whole = await Promise.all(
        [join(near, 'a.jpg'), target()]
          .filter((path) => existsSync(path))
          .map(async (path) => (await readFile(path)).equals(bytes)),
      );
      expect(whole).toContain(true);
      atFaultPoints(undefined);
      await move(target(), { mayStand: true });
      expect((await readFile(target())).equals(bytes)).toBe(true);
      expect(existsSync(join(near, 'a.jpg'))).toBe(false);
      expect(await readdir(dirname(target()))).toEqual(['b.jpg']);
    },
  );

  test('the reservation of a name is not taken for the file', async () => {
    await rm(join(near, 'a.jpg'));
    await writeFile(target(), '');
    await expect(move(target(), { mayStand: true, sizeBytes: 300_000 })).rejects.toThrow('is not there');
    // Of a file that is empty itself it is the file.
    await move(target(), { mayStand: true, sizeBytes: 0 });
    expect(await readFile(target(), 'utf8')).toBe('');
  });
});

test('files that belong together move all, or none', async () => {
  await writeFile(join(near, 'a.xmp'), 'sidecar');
  await writeFile(join(far, 'a.xmp'), 'of another');
  const pair = ['a.jpg', 'a.xmp'].map((name) => ({
    from: join(near, name),
    to: join(far, name),
    copies: false,
    mayStand: false,
  }));
  await expect(relocate(pair)).rejects.toThrow(TakenError);
  expect([(await readdir(near)).sort(), await readdir(far)]).toEqual([['a.jpg', 'a.xmp'], ['a.xmp']]);
  expect((await readFile(join(near, 'a.jpg'))).equals(bytes)).toBe(true);
});

test('a proven copy leaves the source, tells the hash of its bytes, and takes no name that is taken', async () => {
  const hash = await copyFileProven(join(near, 'a.jpg'), join(far, 'a.jpg'));
  expect(hash).toBe(await hashOfFile(join(near, 'a.jpg')));
  await expect(copyFileProven(join(near, 'a.jpg'), join(far, 'a.jpg'))).rejects.toThrow(TakenError);
});

test.each([0, 1, 4095, 4096, 4097, 1024 * 1024 - 1, 1024 * 1024, 1024 * 1024 + 1, 2 * 1024 * 1024 + 4096])(
  'what is read past the cache is the file, of %i bytes',
  async (size) => {
    const whole = randomBytes(size);
    for (const folder of [near, far]) {
      const path = join(folder, 'sized');
      await writeFile(path, whole);
      for (const each of [eachChunk, eachChunkOnDrive]) {
        const parts: Buffer[] = [];
        await each(path, (chunk) => parts.push(Buffer.from(chunk)));
        expect(Buffer.concat(parts).equals(whole)).toBe(true);
      }
    }
  },
);
