// Putting files under their names in worker threads.

import { join } from 'node:path';
import { ROOT } from '../root';
import { threadPool } from '../threads/pool';
import type { FileContent } from './fileContent';
import type { HowPlaced } from './placeFile';
import type { Placed } from './placing.worker';
import { TakenError } from './relocate';

export interface FilePlacer {
  /** Puts a file at a path, as `placeFile` does. Returns its size in bytes. */
  place(path: string, content: FileContent, how: HowPlaced): Promise<number>;
  close(): Promise<void>;
}

/** More threads than processors: they wait for drives most of the time. */
const THREADS = 4;

export function filePlacer(): FilePlacer {
  const pool = threadPool(join(ROOT, 'server', 'files', 'placing.worker.ts'), {
    maxThreads: THREADS,
    idleTimeout: 10_000,
  });
  return {
    async place(path, content, how) {
      const placed = await pool.run<Placed>('place', { path, content, how });
      if ('bytes' in placed) return placed.bytes;
      throw placed.isTaken ? new TakenError(path) : Object.assign(new Error(placed.message), { code: placed.code });
    },
    close: () => pool.close(),
  };
}
