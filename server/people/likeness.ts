// What faces look like, as the server asks it: one thread holds it (likeness.worker.ts).

import { join } from 'node:path';
import { ROOT } from '../root';
import { threadPool } from '../threads/pool';
import type { findLike, forgetGuesses, listGroups, refreshGuesses, suggestedFor, suggestFor } from './likeness.worker';

type Given<Question extends (given: never) => unknown> = Omit<Parameters<Question>[0], 'url'>;

export type LikenessIndex = ReturnType<typeof likenessIndex>;

export function likenessIndex(url: string) {
  const pool = threadPool(join(ROOT, 'server', 'people', 'likeness.worker.ts'), {
    maxThreads: 1,
    idleTimeout: Infinity,
    concurrentTasksPerWorker: 8,
  });
  const ask = <Answer>(name: string, given: object) => pool.run<Answer>(name, { ...given, url });
  return {
    listGroups: (given: Given<typeof listGroups>): ReturnType<typeof listGroups> => ask('listGroups', given),
    suggestFor: (given: Given<typeof suggestFor>): ReturnType<typeof suggestFor> => ask('suggestFor', given),
    suggestedFor: (given: Given<typeof suggestedFor>): ReturnType<typeof suggestedFor> => ask('suggestedFor', given),
    findLike: (given: Given<typeof findLike>): ReturnType<typeof findLike> => ask('findLike', given),
    refreshGuesses: (given: Given<typeof refreshGuesses>): ReturnType<typeof refreshGuesses> =>
      ask('refreshGuesses', given),
    forgetGuesses: (given: Given<typeof forgetGuesses>): ReturnType<typeof forgetGuesses> =>
      ask('forgetGuesses', given),
    close: () => pool.close(),
  };
}
