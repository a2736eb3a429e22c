// What was worked out for a preview is remembered, so that its further pages need not be worked out again.

import type { Database } from '../database/database';
import type { PlannedChange } from './planner.worker';

export interface WorkedOut {
  changes: readonly PlannedChange[];
  /** How many photos were looked at, and how many are meant. */
  looked: number;
  meant: number;
}

/** So many previews are kept; each may hold 20,000 photos. */
const KEPT = 3;

export function rememberedPreviews(database: Database) {
  const kept = new Map<string, { version: string; found: Promise<WorkedOut> }>();
  return {
    /** What was worked out under a key, if nothing has changed in the catalogue since; else works it out. */
    async of(key: string, workOut: () => Promise<WorkedOut>): Promise<WorkedOut> {
      const row = await database.row<{ version: string }>(
        `select last_value || ' ' || is_called as version from catalogue_change_id_seq`,
      );
      const version = row?.version ?? '';
      const known = kept.get(key);
      if (known?.version === version) return known.found;
      const found = workOut();
      kept.delete(key);
      kept.set(key, { version, found });
      found.catch(() => kept.delete(key));
      const [oldest] = kept.keys();
      if (kept.size > KEPT && oldest !== undefined) kept.delete(oldest);
      return found;
    },
  };
}
