// Looking at pictures in worker threads, each of which has the models in memory.

import { cpus } from 'node:os';
import { join } from 'node:path';
import { queueOptionsSymbol, type TaskQueue } from 'piscina';
import { ROOT } from '../root';
import { threadPool } from '../threads/pool';
import type { FoundFace, look, lookAtBytes, lookInto, Looked } from './faces.worker';

export interface Looker {
  /** Pictures that somebody waits for come before the others. */
  look(request: Parameters<typeof look>[0], urgent?: boolean): Promise<Looked>;
  lookInto(...given: Parameters<typeof lookInto>): Promise<FoundFace | undefined>;
  lookAtBytes(...given: Parameters<typeof lookAtBytes>): Promise<FoundFace[]>;
  /** How many pictures are looked at side by side. */
  readonly threads: number;
  close(): Promise<void>;
}

/** Threads end when there was nothing to look at for a while: the models take a few hundred megabytes each. */
const IDLE_MS = 60_000;
const MAX_THREADS = 4;

const URGENT = { urgent: true };

type Waiting = Parameters<TaskQueue['push']>[0];

/** A queue in which urgent tasks come before the others. */
class UrgentFirst implements TaskQueue {
  private readonly waiting: Waiting[] = [];
  private urgent = 0;

  get size(): number {
    return this.waiting.length;
  }

  shift(): Waiting | null {
    if (this.urgent > 0) this.urgent -= 1;
    return this.waiting.shift() ?? null;
  }

  push(task: Waiting): void {
    if (task[queueOptionsSymbol] === URGENT) this.waiting.splice(this.urgent++, 0, task);
    else this.waiting.push(task);
  }

  remove(task: Waiting): void {
    const at = this.waiting.indexOf(task);
    if (at < 0) return;
    this.waiting.splice(at, 1);
    if (at < this.urgent) this.urgent -= 1;
  }
}

export function faceLooker(threads = Math.min(MAX_THREADS, cpus().length)): Looker {
  const pool = threadPool(join(ROOT, 'server', 'people', 'faces.worker.ts'), {
    maxThreads: threads,
    idleTimeout: IDLE_MS,
    taskQueue: new UrgentFirst(),
  });
  const now = <Request extends object>(request: Request) => ({ ...request, [queueOptionsSymbol]: URGENT });
  return {
    look: (request, urgent = false) => pool.run('look', urgent ? now(request) : request),
    lookInto: (request) => pool.run('lookInto', now(request)),
    lookAtBytes: (bytes) => pool.run('lookAtBytes', bytes),
    threads,
    close: () => pool.close(),
  };
}
