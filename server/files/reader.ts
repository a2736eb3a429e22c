// Reading files in worker threads.

import { join } from 'node:path';
import Piscina from 'piscina';
import type { HashResult, RecordRequest, RecordResult, StatRequest, StatResult } from './readRecords.worker';
import { WORKER_ARGS } from './workers';

export interface RecordReader {
  read(requests: readonly RecordRequest[]): Promise<RecordResult[]>;
  /** What the files of a folder look like. */
  stats(request: StatRequest): Promise<StatResult>;
  /** The hashes of the pictures in files. */
  hashes(paths: readonly string[]): Promise<HashResult[]>;
  close(): Promise<void>;
}

/** Reads in two threads. */
export function recordReader(): RecordReader {
  const filename = join(__dirname, 'readRecords.worker.ts');
  const pool = new Piscina({ filename, maxThreads: 2, minThreads: 0, idleTimeout: 10_000, execArgv: WORKER_ARGS });
  return {
    read: (requests) => pool.run(requests.map(({ path, sidecarPath }) => ({ path, sidecarPath }))),
    stats: (request) => pool.run(request, { filename, name: 'stats' }),
    hashes: (paths) => pool.run(paths, { filename, name: 'hashes' }),
    close: () => pool.destroy(),
  };
}
