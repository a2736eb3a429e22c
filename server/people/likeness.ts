// What faces look like, as the server asks it: one thread holds it (likeness.worker.ts).

import { join } from 'node:path';
import Piscina from 'piscina';
import { WORKER_ARGS } from '../files/workers';
import type { findLike, forgetGuesses, listGroups, refreshGuesses, suggestedFor, suggestFor } from './likeness.worker';

type Given<Question extends (given: never) => unknown> = Omit<Parameters<Question>[0], 'url'>;

export type LikenessIndex = ReturnType<typeof likenessIndex>;

export function likenessIndex(url: string) {
  const filename = join(__dirname, 'likeness.worker.ts');
  const pool = new Piscina({
    maxThreads: 1,
    minThreads: 0,
    idleTimeout: Infinity,
    concurrentTasksPerWorker: 8,
    execArgv: WORKER_ARGS,
  });
  const ask = (name: string, given: object) => pool.run({ ...given, url }, { filename, name });
  return {
    listGroups: (given: Given<typeof listGroups>): ReturnType<typeof listGroups> => ask('listGroups', given),
    suggestFor: (given: Given<typeof suggestFor>): ReturnType<typeof suggestFor> => ask('suggestFor', given),
    suggestedFor: (given: Given<typeof suggestedFor>): ReturnType<typeof suggestedFor> => ask('suggestedFor', given),
    findLike: (given: Given<typeof findLike>): ReturnType<typeof findLike> => ask('findLike', given),
    refreshGuesses: (given: Given<typeof refreshGuesses>): ReturnType<typeof refreshGuesses> =>
      ask('refreshGuesses', given),
    forgetGuesses: (given: Given<typeof forgetGuesses>): ReturnType<typeof forgetGuesses> =>
      ask('forgetGuesses', given),
    close: () => pool.destroy(),
  };
}
