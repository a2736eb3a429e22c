import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { threadPool } from './pool';

let folder: string;
beforeEach(async () => (folder = await mkdtemp(join(tmpdir(), 'stellin-threads-'))));
afterEach(() => rm(folder, { recursive: true, force: true }));

async function source(name: string, text: string): Promise<string> {
  const path = join(folder, name);
  await writeFile(path, text);
  return path;
}

test('threads run what TypeScript exports, with what it imports; errors come back with what they say', async () => {
  await source('kites.ts', `export const kinds: readonly string[] = ['rokkaku', 'delta'];`);
  const file = await source(
    'kites.worker.ts',
    `import { kinds } from './kites';
     import { foldText } from '@stellin/core/search/words';
     import { z } from 'zod';
     export const kind = (given: number): string => {
       const { data } = z.string().safeParse(kinds[given]);
       if (data === undefined) throw new Error('there is no such kite');
       return data;
     };
     export const folded = (given: string): string => foldText(given);`,
  );
  const pool = threadPool(file, { maxThreads: 1, idleTimeout: 1000 });
  try {
    expect(await pool.run('kind', 1)).toBe('delta');
    expect(await pool.run('folded', 'ÉTÉ')).toBe('ete');
    await expect(pool.run('kind', 7)).rejects.toThrow('there is no such kite');
  } finally {
    await pool.close();
  }
});

test('the name of a program tells what is in it: it changes with what it imports', async () => {
  const file = await source(
    'first.worker.ts',
    `import { kinds } from './kites'; export const count = () => kinds.length;`,
  );
  /** As a process that starts now names it. */
  const named = async (kinds: string) => {
    await source('kites.ts', `export const kinds = ${kinds};`);
    let name = '';
    await jest.isolateModulesAsync(async () => {
      name = (await import('./program')).programOf(file);
    });
    return name;
  };
  const [first, again, other] = [await named(`['rokkaku']`), await named(`['rokkaku']`), await named(`['delta']`)];
  expect(again).toBe(first);
  expect(other).not.toBe(first);
});
