// Who faces most likely show is kept in the catalogue, so that it can be searched: brought up to date in the background
// whenever people change.

import type { Logger } from 'pino';
import type { Database } from '../database/database';
import { messageOf } from '../errors';
import type { EventHub } from '../events/hub';
import type { LikenessIndex } from './likeness';
import { hasFaces } from './store';
import { keptUntil, saveGuesses } from './guessStore';

/** Changes that come one upon the other are looked at together. */
const PAUSE_MS = 400;

export function guessKeeper(database: Database, likeness: LikenessIndex, events: EventHub, log: Logger) {
  let timer: NodeJS.Timeout | undefined;
  let stopped = false;
  let working: Promise<void> = Promise.resolve();

  const refresh = async (): Promise<void> => {
    // Without faces the thread that knows them is not needed.
    if (!(await hasFaces(database))) return;
    const kept = await keptUntil(database);
    for (let ended = false; !ended && !stopped;) {
      const { changed, until } = await likeness.refreshGuesses({ kept });
      try {
        await saveGuesses(database, changed, until);
      } catch (error) {
        // What the thread takes for kept is not: it is to begin with what really is.
        await likeness.forgetGuesses({});
        throw error;
      }
      ended = until !== null;
    }
  };

  const soon = (): void => {
    clearTimeout(timer);
    if (stopped) return;
    timer = setTimeout(() => {
      working = working
        .then(refresh)
        .catch((error: unknown) => log.warn(`guessing who faces show: ${messageOf(error)}`));
    }, PAUSE_MS);
  };
  let unsubscribe = (): void => undefined;

  return {
    start(): void {
      unsubscribe = events.subscribe(({ topics }) => topics.includes('people') && soon());
      soon();
    },
    async close(): Promise<void> {
      stopped = true;
      unsubscribe();
      clearTimeout(timer);
      await working;
    },
  };
}
