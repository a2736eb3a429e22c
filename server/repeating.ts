// Work that a process repeats as long as it lives: one run at a time, with a pause between the end of one and the start of the next.

import type { Logger } from 'pino';
import { messageOf } from './errors';

export interface Repeating {
  start(): void;
  /** Resolves when what runs has ended; nothing begins any more. */
  close(): Promise<void>;
}

/** What fails is noted under the name, and tried again the next time. It begins at once, or after a while. */
export function repeating(
  name: string,
  everyMs: number,
  work: () => Promise<unknown>,
  log: Logger,
  afterMs = 0,
): Repeating {
  let timer: NodeJS.Timeout | undefined;
  let stopped = false;
  let running: Promise<unknown> = Promise.resolve();
  const run = async () => {
    running = work().catch((error: unknown) => log.warn(`${name}: ${messageOf(error)}`));
    await running;
    if (!stopped) timer = setTimeout(() => void run(), everyMs);
  };
  return {
    start() {
      if (afterMs === 0) void run();
      else timer = setTimeout(() => void run(), afterMs);
    },
    async close() {
      stopped = true;
      clearTimeout(timer);
      await running;
    },
  };
}
