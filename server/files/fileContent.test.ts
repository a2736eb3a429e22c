import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { holdsAlready, lookAt } from './fileContent';

let folder: string;
beforeEach(async () => (folder = await mkdtemp(join(tmpdir(), 'stellin-place-'))));
afterEach(() => rm(folder, { recursive: true, force: true }));

const at = (name: string) => join(folder, name);

test('files are the same when each byte is, whether they come from memory or from another file', async () => {
  const bytes = Buffer.alloc(2_500_000, 7);
  await writeFile(at('source'), bytes);
  await writeFile(at('same'), bytes);
  const other = Buffer.from(bytes);
  other[2_400_000] = 8;
  await writeFile(at('other'), other);
  await writeFile(at('shorter'), bytes.subarray(0, 2_000_000));
  for (const content of [{ bytes }, { from: at('source') }])
    expect(await Promise.all(['same', 'other', 'shorter'].map((name) => holdsAlready(at(name), content)))).toEqual([
      true,
      false,
      false,
    ]);
});

test('nothing stands where nothing is; what can’t be looked at is an error, not nothing', async () => {
  expect(await lookAt(at('gone'))).toBeUndefined();
  await writeFile(at('file'), 'x');
  await expect(lookAt(at('file/below'))).rejects.toThrow('ENOTDIR');
});
