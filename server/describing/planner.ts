// Descriptions, and what else patterns of people make of texts, are worked out in worker threads, with a limit to their time: a
// regular expression can be endless.

import { join } from 'node:path';
import { StellinError } from '../errors';
import { ROOT } from '../root';
import { threadPool } from '../threads/pool';
import type { derive, plan, preview, replace } from './planner.worker';

export interface Planner {
  preview(...given: Parameters<typeof preview>): Promise<ReturnType<typeof preview>>;
  plan(...given: Parameters<typeof plan>): Promise<ReturnType<typeof plan>>;
  derive(...given: Parameters<typeof derive>): Promise<ReturnType<typeof derive>>;
  replace(...given: Parameters<typeof replace>): Promise<ReturnType<typeof replace>>;
  close(): Promise<void>;
}

/** Of working time: what waits for a thread does not count. */
const MAX_MS = 8000;
const THREADS = 2;

export function planner(): Planner {
  const pool = threadPool(join(ROOT, 'server', 'describing', 'planner.worker.ts'), {
    maxThreads: THREADS,
    idleTimeout: 60_000,
  });
  let free = THREADS;
  const waiting: (() => void)[] = [];
  const run = async <Answer>(name: string, given: unknown): Promise<Answer> => {
    if (free > 0) free -= 1;
    else await new Promise<void>((resolve) => waiting.push(resolve));
    try {
      return await pool.run(name, given, AbortSignal.timeout(MAX_MS));
    } catch (error) {
      if (error instanceof Error && error.name === 'AbortError') throw new StellinError('describingTooSlow');
      throw error;
    } finally {
      const next = waiting.shift();
      if (next) next();
      else free += 1;
    }
  };
  return {
    preview: (request) => run('preview', request),
    plan: (request) => run('plan', request),
    derive: (photos) => run('derive', photos),
    replace: (request) => run('replace', request),
    close: () => pool.close(),
  };
}
