// The finder index as the server asks it: a thread of its own, started with the first question, and anew should it die.

import { join } from 'node:path';
import { Worker } from 'node:worker_threads';
import { StellinError } from '../errors';
import type { Answer, Ask, QuestionName, Questions } from './questions';

export interface FinderClient {
  /** The answer as of all that was committed before the call. */
  ask<Name extends QuestionName>(
    name: Name,
    given: Parameters<Questions[Name]>[0],
  ): Promise<ReturnType<Questions[Name]>>;
  close(): Promise<void>;
}

interface Waiting {
  resolve: (answer: unknown) => void;
  reject: (error: Error) => void;
}

const FILE = join(__dirname, 'finder.worker.ts');
/** Threads begin with JavaScript: from there on TypeScript is read as in the main thread. */
const ENTRY = `require('tsx/cjs'); require(require('node:worker_threads').workerData.file)`;

/** What the thread is told: where the catalogue is, and where the index is kept if it has at least so many photos. */
export interface FinderData {
  url: string;
  kept?: { path: string; from: number };
}

/** Of fewer photos it is made anew as quickly. */
const KEPT_FROM = 20_000;

export function finderClient(url: string, folder?: string, keptFrom = KEPT_FROM): FinderClient {
  const data: FinderData = { url, ...(folder ? { kept: { path: join(folder, 'index'), from: keptFrom } } : {}) };
  let worker: Worker | undefined;
  let asked = 0;
  const waiting = new Map<number, Waiting>();

  const start = (): Worker => {
    const started = new Worker(ENTRY, { eval: true, workerData: { ...data, file: FILE } });
    started.on('message', (reply: Answer) => {
      const who = waiting.get(reply.number);
      waiting.delete(reply.number);
      if ('failure' in reply) who?.reject(new StellinError('notFinding', { why: reply.failure }));
      else who?.resolve(reply.answer);
    });
    const gone = (why: string) => {
      if (worker === started) worker = undefined;
      for (const { reject } of waiting.values()) reject(new StellinError('notFinding', { why }));
      waiting.clear();
    };
    started.on('error', (error) => gone(error.message));
    started.on('exit', () => gone('the thread that searches has ended'));
    return started;
  };

  return {
    ask(name, given) {
      const thread = (worker ??= start());
      const ask: Ask = { number: ++asked, name, given };
      return new Promise((resolve, reject) => {
        waiting.set(ask.number, { resolve: resolve as (answer: unknown) => void, reject });
        thread.postMessage(ask);
      });
    },
    async close() {
      const thread = worker;
      if (!thread) return;
      const ended = new Promise((resolve) => thread.once('exit', resolve));
      thread.postMessage('close');
      await ended;
    },
  };
}
