// The cache of previews: what was worked out for one, so that its further pages need not be worked out again.

import { LRUCache } from 'lru-cache';
import type { Database } from '../database/database';
import type { PlannedChange } from './planner.worker';
import { catalogueVersion } from './store';

export interface WorkedOut {
  changes: readonly PlannedChange[];
  /** How many photos were looked at, and how many are meant. */
  looked: number;
  meant: number;
}

/** Previews that are kept; each may hold 20,000 photos. */
const MAX_PREVIEWS = 3;

export function previewCache(database: Database) {
  const kept = new LRUCache<string, { version: string; found: Promise<WorkedOut> }>({ max: MAX_PREVIEWS });
  return {
    /** What was worked out under a key, if nothing has changed in the catalogue since; else works it out. */
    async of(key: string, workOut: () => Promise<WorkedOut>): Promise<WorkedOut> {
      const row = await catalogueVersion(database);
      const version = row?.version ?? '';
      const known = kept.get(key);
      if (known?.version === version) return known.found;
      const found = workOut();
      kept.set(key, { version, found });
      found.catch(() => kept.delete(key));
      return found;
    },
  };
}
