import { mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { ROOT } from '../root';
import { threadPool } from './pool';
import { DIST, programOf } from './program';

const SOURCE = join(ROOT, 'server', 'threads', 'made-for-a-test.worker.ts');
const BUILT = join(DIST, 'server', 'threads', 'made-for-a-test.worker.cjs');
afterEach(() => rmSync(BUILT, { force: true }));

test('threads run what was built of their source; errors come back with what they say', async () => {
  mkdirSync(dirname(BUILT), { recursive: true });
  writeFileSync(
    BUILT,
    `const kinds = ['rokkaku', 'delta'];
     exports.kind = (given) => {
       if (kinds[given] === undefined) throw new Error('there is no such kite');
       return kinds[given];
     };`,
  );
  const pool = threadPool(SOURCE, { maxThreads: 1, idleTimeout: 1000 });
  try {
    expect(await pool.run('kind', 1)).toBe('delta');
    await expect(pool.run('kind', 7)).rejects.toThrow('there is no such kite');
  } finally {
    await pool.close();
  }
});

test('every worker of the sources is built, and what is not built is named', () => {
  for (const worker of ['server/catalogue/reader.worker.ts', 'server/people/faces.worker.ts', 'cli/main.ts'])
    expect(programOf(join(ROOT, worker))).toContain(DIST);
  expect(() => programOf(SOURCE)).toThrow('made-for-a-test.worker.cjs is missing; ./stellin build makes it');
});
