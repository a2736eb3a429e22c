// The process that a server starts beside itself to work on jobs. It has a lower scheduling priority, so that whoever looks
// and types never waits for previews, faces or files being written.

import { spawn, type ChildProcess } from 'node:child_process';
import { join } from 'node:path';
import { z } from 'zod';
import type { Config } from '@stellin/server/config';
import { messageOf } from '@stellin/server/errors';
import { ROOT } from '@stellin/server/root';
import type { Services } from '@stellin/server/services';
import { programOf } from '@stellin/server/threads/program';

/** What the process beside a server is told by it. */
export interface Assignment {
  config: Config;
  databaseUrl: string;
  /** Set for the demo, which it prepares. */
  demo: { small: boolean } | null;
}

/** What it answers: that the server may open, or why not. */
const answer = z.union([z.object({ open: z.literal(true) }), z.object({ problem: z.string() })]);
export type Answer = z.infer<typeof answer>;

const NICENESS = 10;
const RESTART_MS = 2000;

export interface WorkerBeside {
  /** Resolves when what the server serves is ready to be looked at; rejects with what stands in the way. */
  ready: Promise<void>;
  stop(): Promise<void>;
}

/** Starts the process beside a server. Should it die, another is started. */
export function startWorkerBeside(assignment: Assignment, log: Services['log']): WorkerBeside {
  let stopped = false;
  let child: ChildProcess;
  let ended: Promise<void>;
  let timer: NodeJS.Timeout | undefined;
  const start = (): Promise<void> => {
    const started = spawn(
      'nice',
      ['-n', String(NICENESS), process.execPath, programOf(join(ROOT, 'cli', 'main.ts')), 'beside'],
      // In a group of its own: Ctrl-C at the terminal is for the server, which tells it.
      { cwd: ROOT, detached: true, stdio: ['ignore', 'inherit', 'inherit', 'ipc'] },
    );
    child = started;
    const ready = new Promise<void>((resolve, reject) => {
      started.on('message', (message) => {
        const given = answer.parse(message);
        if ('open' in given) resolve();
        else reject(new Error(given.problem));
      });
      started.on('error', reject);
      started.on('exit', (code) => reject(new Error(`the process that works on jobs has ended with ${code}`)));
    });
    ended = new Promise((resolve) =>
      started.on('exit', (code, signal) => {
        resolve();
        if (stopped) return;
        log.warn(`the process that works on jobs has ended with ${signal ?? code}; another is started`);
        timer = setTimeout(() => void start().catch((error: unknown) => log.warn(messageOf(error))), RESTART_MS);
      }),
    );
    started.send(assignment);
    return ready;
  };
  return {
    ready: start(),
    async stop() {
      stopped = true;
      clearTimeout(timer);
      child.kill('SIGTERM');
      await ended;
    },
  };
}
