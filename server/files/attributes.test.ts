import { execFile } from 'node:child_process';
import { chmod, mkdtemp, rm, stat, utimes, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { realJpeg } from '../testing/world';
import { copyAttributesOf } from './attributes';
import { writeBatch } from './writeBatch';

const run = promisify(execFile);

let folder: string;
beforeEach(async () => (folder = await mkdtemp(join(tmpdir(), 'stellin-attributes-'))));
afterEach(() => rm(folder, { recursive: true, force: true }));

test('many files at once, whatever they are called, get mode and times of others', async () => {
  const names = ['plain', ' with spaces ', '-n', 'back\\slash', '$(touch kite)', 'a\nline', 'it\'s "quoted"', 'ünï'];
  const modes = new Map(names.map((name, i) => [name, 0o600 + i]));
  for (const [name, mode] of modes) {
    await writeFile(join(folder, name), 'x');
    await chmod(join(folder, name), mode);
    await utimes(join(folder, name), 1_000_000_000, 1_100_000_000);
  }
  await Promise.all(names.map((name) => copyAttributesOf(join(folder, name), join(folder, `${name} copy`))));
  for (const [name, mode] of modes) {
    const made = await stat(join(folder, `${name} copy`));
    expect({ name, mode: made.mode & 0o777, mtime: made.mtimeMs }).toEqual({ name, mode, mtime: 1_100_000_000_000 });
    expect(made.size).toBe(0);
  }
});

test('a file that is not there does not hold up the others', async () => {
  await writeFile(join(folder, 'there'), 'x');
  await chmod(join(folder, 'there'), 0o640);
  await Promise.all([
    copyAttributesOf(join(folder, 'gone'), join(folder, 'made')),
    copyAttributesOf(join(folder, 'there'), join(folder, 'other')),
  ]);
  expect((await stat(join(folder, 'other'))).mode & 0o777).toBe(0o640);
});

test('a file that is written anew keeps its access control list and its extended attributes', async () => {
  const path = join(folder, 'kite.jpg');
  await writeFile(path, await realJpeg({ headline: 'Old' }));
  await run('setfacl', ['-m', 'u:12345:r', path]);
  await run('setfattr', ['-n', 'user.shelf', '-v', 'B 12', path]);
  const before = await stat(path);
  const headline = 'A longer headline than the one there was. '.repeat(500);
  const [result] = await writeBatch(join(folder, 'journals'), [
    { path, changes: { headline }, options: { now: '2026-03-01T10:00:00Z' }, keepTimes: false },
  ]);
  expect(result).toMatchObject({ ok: true, files: [{ way: 'anew' }] });
  // Another file under the same name: nothing of it was there before.
  expect((await stat(path)).ino).not.toBe(before.ino);
  expect((await run('getfacl', ['--absolute-names', path])).stdout).toContain('user:12345:r--');
  expect((await run('getfattr', ['--only-values', '-n', 'user.shelf', path])).stdout).toBe('B 12');
});
