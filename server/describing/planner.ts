// Descriptions are worked out in worker threads, with a limit to their time: a regular expression can be endless.

import { join } from 'node:path';
import { StellinError } from '../errors';
import { ROOT } from '../root';
import { threadPool } from '../threads/pool';
import type { derive, plan, preview } from './planner.worker';

export interface Planner {
  preview(...given: Parameters<typeof preview>): Promise<ReturnType<typeof preview>>;
  plan(...given: Parameters<typeof plan>): Promise<ReturnType<typeof plan>>;
  derive(...given: Parameters<typeof derive>): Promise<ReturnType<typeof derive>>;
  close(): Promise<void>;
}

const MAX_MS = 8000;

export function planner(): Planner {
  const pool = threadPool(join(ROOT, 'server', 'describing', 'planner.worker.ts'), {
    maxThreads: 2,
    idleTimeout: 60_000,
  });
  const run = async <Answer>(name: string, given: unknown): Promise<Answer> => {
    try {
      return await pool.run(name, given, AbortSignal.timeout(MAX_MS));
    } catch (error) {
      if (error instanceof Error && error.name === 'AbortError') throw new StellinError('describingTooSlow');
      throw error;
    }
  };
  return {
    preview: (request) => run('preview', request),
    plan: (request) => run('plan', request),
    derive: (photos) => run('derive', photos),
    close: () => pool.close(),
  };
}
