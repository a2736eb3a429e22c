// Writing files in a worker thread.

import { join } from 'node:path';
import Piscina from 'piscina';
import type { PlannedWrite, WriteRequest } from './planWrite';
import type { KeptVersion } from './takeBack';
import type { BatchResult } from './writeBatch';
import type { CarriedOut, PlanResult, PreviewResult } from './writeFiles.worker';
import { WORKER_ARGS } from './workers';

export interface FileWriter {
  plan(requests: readonly WriteRequest[]): Promise<PlanResult[]>;
  planBack(photos: readonly { path: string; versions: KeptVersion[] }[]): Promise<PlanResult[]>;
  /** What a write would do; nothing is written. */
  preview(request: WriteRequest): Promise<PreviewResult>;
  write(writes: readonly PlannedWrite[]): Promise<CarriedOut[]>;
  /** Writes files that no catalogue knows of. */
  batch(journals: string, requests: readonly WriteRequest[]): Promise<BatchResult[]>;
  close(): Promise<void>;
}

export function fileWriter(): FileWriter {
  const filename = join(__dirname, 'writeFiles.worker.ts');
  const pool = new Piscina({
    maxThreads: 2,
    minThreads: 0,
    idleTimeout: 60_000,
    execArgv: WORKER_ARGS,
  });
  return {
    plan: (requests) => pool.run(requests, { filename, name: 'plan' }),
    planBack: (photos) => pool.run(photos, { filename, name: 'planBack' }),
    preview: (request) => pool.run(request, { filename, name: 'preview' }),
    write: (writes) => pool.run(writes, { filename, name: 'write' }),
    batch: (journals, requests) => pool.run({ journals, requests }, { filename, name: 'batch' }),
    close: () => pool.destroy(),
  };
}
