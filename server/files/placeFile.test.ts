import { mkdtemp, readdir, readFile, rm, stat, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { placeFile } from './placeFile';
import { filePlacer } from './placing';
import { TakenError } from './relocate';

let folder: string;
beforeEach(async () => (folder = await mkdtemp(join(tmpdir(), 'stellin-place-'))));
afterEach(() => rm(folder, { recursive: true, force: true }));

const at = (name: string) => join(folder, name);
const place = (mayReplace: boolean, content = 'new') =>
  placeFile(at('a.jpg'), { bytes: Buffer.from(content) }, { work: 'loan-1', mayReplace });

test('what a killed process left of a file is written over, and nothing but the file stands there in the end', async () => {
  await writeFile(at('.stellin-loan-1.part'), 'half of something longer');
  await writeFile(at('a.jpg'), '');
  expect(place(false)).toBe(3);
  expect([await readdir(folder), (await readFile(at('a.jpg'))).toString()]).toEqual([['a.jpg'], 'new']);
});

test('another file is written over only where that is meant', async () => {
  await writeFile(at('a.jpg'), 'theirs');
  expect(() => place(false)).toThrow('is there already');
  expect([await readdir(folder), (await readFile(at('a.jpg'))).toString()]).toEqual([['a.jpg'], 'theirs']);
  place(true);
  expect((await readFile(at('a.jpg'))).toString()).toBe('new');
});

test('a file is copied from another with its time; however long it is, every byte of it is compared', async () => {
  const bytes = Buffer.alloc(2_500_001, 7);
  await writeFile(at('source'), bytes);
  expect(placeFile(at('copy'), { from: at('source') }, { work: 'loan-2', mayReplace: false })).toBe(bytes.length);
  expect((await readFile(at('copy'))).equals(bytes)).toBe(true);
  expect((await stat(at('copy'))).mtimeMs).toBeCloseTo((await stat(at('source'))).mtimeMs, -1);
});

test('threads place files, too; what is in the way and what is not there is told apart', async () => {
  const placer = filePlacer();
  try {
    const how = { work: 'loan-3', mayReplace: false };
    expect(await placer.place(at('b.jpg'), { bytes: Buffer.from('new') }, how)).toBe(3);
    await expect(placer.place(at('b.jpg'), { bytes: Buffer.from('other') }, how)).rejects.toThrow(TakenError);
    await expect(placer.place(at('c.jpg'), { from: at('gone') }, how)).rejects.toMatchObject({ code: 'ENOENT' });
    expect(await readdir(folder)).toEqual(['b.jpg']);
  } finally {
    await placer.close();
  }
});
