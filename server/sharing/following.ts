// Links that follow a query: what they find is looked for when the catalogue has changed, and kept, so that showing a link asks for no search.
// What must not be seen is left out when somebody looks, whatever is kept.

import type { Logger } from 'pino';
import type { Sort } from '@stellin/core/search/sorts';
import { MAX_SHARED } from '@stellin/contract/sharing';
import type { Person, Viewer } from '../catalogue/viewer';
import type { Database } from '../database/database';
import type { EventHub } from '../events/hub';
import { repeating } from '../repeating';
import type { Search } from '../search/service';
import * as store from './store';

interface Parts {
  database: Database;
  search: Search;
  personOf: (accountId: number) => Promise<Person>;
  viewerFor: (person: Person) => Viewer;
  events: EventHub;
  log: Logger;
}

/** The pause between two looks, where something has changed. */
const PAUSE_MS = 1000;

export function linkFollower({ database, search, personOf, viewerFor, events, log }: Parts) {
  let hasChanged = true;
  let unsubscribe: (() => void) | undefined;

  const run = async (): Promise<void> => {
    for (const { id, accountId, query, sort } of await store.followingLinks(database)) {
      if (query === null) continue;
      const viewer = viewerFor(await personOf(accountId));
      const found = await search.seenBy(viewer).page(query, sort as Sort, 0, MAX_SHARED);
      await store.noteFound(database, id, found);
    }
  };

  const looking = repeating(
    'following view links',
    PAUSE_MS,
    async () => {
      if (!hasChanged) return;
      hasChanged = false;
      try {
        await run();
      } catch (error) {
        hasChanged = true;
        throw error;
      }
    },
    log,
  );

  return {
    /** Looks what all of them find now. */
    run,
    start(): void {
      unsubscribe = events.subscribe(() => (hasChanged = true));
      looking.start();
    },
    async close(): Promise<void> {
      unsubscribe?.();
      await looking.close();
    },
  };
}
