// The finder index as the server asks it: a thread of its own, started with the first question, and anew should it die.

import { join } from 'node:path';
import { Worker } from 'node:worker_threads';
import { StellinError } from '../errors';
import { ROOT } from '../root';
import { programOf, versionOf } from '../threads/program';
import type { SnapshotFile } from './snapshot';
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

const FILE = join(ROOT, 'server', 'search', 'finder.worker.ts');

/** What the thread is told: where the catalogue is, and where a snapshot of the index is written from so many photos on. */
export interface FinderData {
  url: string;
  snapshot?: SnapshotFile & { fromPhotos: number };
}

/** An index of fewer photos is rebuilt as quickly as a snapshot is read. */
const SNAPSHOT_FROM_PHOTOS = 20_000;

export function finderClient(url: string, folder?: string, snapshotFrom = SNAPSHOT_FROM_PHOTOS): FinderClient {
  const begin = () => {
    const file = programOf(FILE);
    // An index that another program has written is not read.
    const program = `${versionOf(file)} ${process.version}`;
    const snapshot =
      folder === undefined ? {} : { snapshot: { path: join(folder, 'index'), fromPhotos: snapshotFrom, program } };
    return new Worker(file, { workerData: { url, ...snapshot } satisfies FinderData, execArgv: [] });
  };
  let worker: Worker | undefined;
  let asked = 0;
  const waiting = new Map<number, Waiting>();

  const start = (): Worker => {
    const started = begin();
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
