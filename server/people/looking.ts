// Looking at pictures in worker threads, each of which has the models in memory.

import { cpus } from 'node:os';
import { join } from 'node:path';
import Piscina from 'piscina';
import { WORKER_ARGS } from '../files/workers';
import type { FoundFace, look, lookAtBytes, lookInto, Looked } from './faces.worker';

export interface Looker {
  look(...given: Parameters<typeof look>): Promise<Looked>;
  lookInto(...given: Parameters<typeof lookInto>): Promise<FoundFace | undefined>;
  lookAtBytes(...given: Parameters<typeof lookAtBytes>): Promise<FoundFace[]>;
  /** How many pictures are looked at side by side. */
  readonly threads: number;
  close(): Promise<void>;
}

/** Threads end when there was nothing to look at for a while: the models take a few hundred megabytes each. */
const IDLE_MS = 60_000;
const MOST_THREADS = 4;

export function faceLooker(threads = Math.min(MOST_THREADS, cpus().length)): Looker {
  const filename = join(__dirname, 'faces.worker.ts');
  const pool = new Piscina({ maxThreads: threads, minThreads: 0, idleTimeout: IDLE_MS, execArgv: WORKER_ARGS });
  return {
    look: (request) => pool.run(request, { filename, name: 'look' }),
    lookInto: (request) => pool.run(request, { filename, name: 'lookInto' }),
    lookAtBytes: (bytes) => pool.run(bytes, { filename, name: 'lookAtBytes' }),
    threads,
    close: () => pool.destroy(),
  };
}
