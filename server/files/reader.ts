// Reading records in worker threads.

import { join } from 'node:path';
import Piscina from 'piscina';
import type { RecordRequest, RecordResult } from './readRecords.worker';
import { WORKER_ARGS } from './workers';

export interface RecordReader {
  read(requests: readonly RecordRequest[]): Promise<RecordResult[]>;
  close(): Promise<void>;
}

/** Reads metadata in worker threads. */
export function recordReader(): RecordReader {
  const pool = new Piscina<RecordRequest[], RecordResult[]>({
    filename: join(__dirname, 'readRecords.worker.ts'),
    maxThreads: 2,
    minThreads: 0,
    idleTimeout: 10_000,
    execArgv: WORKER_ARGS,
  });
  return {
    read: (requests) => pool.run(requests.map(({ path, sidecarPath }) => ({ path, sidecarPath }))),
    close: () => pool.destroy(),
  };
}
