// Descriptions are worked out in worker threads, with a limit to their time: a regular expression can be endless.

import { join } from 'node:path';
import Piscina from 'piscina';
import { StellinError } from '../errors';
import { WORKER_ARGS } from '../files/workers';
import type { derive, plan, preview } from './planner.worker';

export interface Planner {
  preview(...given: Parameters<typeof preview>): Promise<ReturnType<typeof preview>>;
  plan(...given: Parameters<typeof plan>): Promise<ReturnType<typeof plan>>;
  derive(...given: Parameters<typeof derive>): Promise<ReturnType<typeof derive>>;
  close(): Promise<void>;
}

const MOST_MS = 8000;

export function planner(): Planner {
  const filename = join(__dirname, 'planner.worker.ts');
  const pool = new Piscina({ maxThreads: 2, minThreads: 0, idleTimeout: 60_000, execArgv: WORKER_ARGS });
  const run = async (name: string, given: unknown) => {
    try {
      return await pool.run(given, { filename, name, signal: AbortSignal.timeout(MOST_MS) });
    } catch (error) {
      if (error instanceof Error && error.name === 'AbortError') throw new StellinError('describingTooSlow');
      throw error;
    }
  };
  return {
    preview: (request) => run('preview', request),
    plan: (request) => run('plan', request),
    derive: (photos) => run('derive', photos),
    close: () => pool.destroy(),
  };
}
