import { chmod, mkdtemp, rm, stat, utimes, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { copyAttributesOf } from './attributes';

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
