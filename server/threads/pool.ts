// Pools of threads that do what would hold up the server.

import Piscina, { type TaskQueue } from 'piscina';
import { programOf } from './program';

interface Options {
  maxThreads: number;
  /** Idle threads end after this many milliseconds. */
  idleTimeout: number;
  /** How many tasks a thread takes up at once; one if not given. */
  concurrentTasksPerWorker?: number;
  /** In which order tasks are taken up; as they come if not given. */
  taskQueue?: TaskQueue;
  /** What memory a thread may take; it ends with an error where it needs more. */
  resourceLimits?: { maxOldGenerationSizeMb: number };
}

export interface ThreadPool {
  /** Has a thread call a function that the file exports. */
  run<Answer>(name: string, given: unknown, signal?: AbortSignal): Promise<Answer>;
  close(): Promise<void>;
}

/** A pool of threads that run a TypeScript file; opened with the first task. */
export function threadPool(file: string, options: Options): ThreadPool {
  let pool: Piscina | undefined;
  const opened = () => (pool ??= new Piscina({ minThreads: 0, execArgv: [], filename: programOf(file), ...options }));
  return {
    run: (name, given, signal) => opened().run(given, signal ? { name, signal } : { name }),
    close: async () => pool?.destroy(),
  };
}
