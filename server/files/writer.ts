// Writing files in a worker thread.

import { join } from 'node:path';
import { ROOT } from '../root';
import { threadPool } from '../threads/pool';
import type { PlannedWrite, WriteRequest } from './planWrite';
import type { KeptVersion } from './takeBack';
import type { BatchResult } from './writeBatch';
import type { CarriedOut, PlanResult, PreviewResult } from './writeFiles.worker';

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
  const pool = threadPool(join(ROOT, 'server', 'files', 'writeFiles.worker.ts'), {
    maxThreads: 2,
    idleTimeout: 60_000,
  });
  return {
    plan: (requests) => pool.run('plan', requests),
    planBack: (photos) => pool.run('planBack', photos),
    preview: (request) => pool.run('preview', request),
    write: (writes) => pool.run('write', writes),
    batch: (journals, requests) => pool.run('batch', { journals, requests }),
    close: () => pool.close(),
  };
}
