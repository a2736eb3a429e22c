// Bundles that make themselves: raw and JPEG of one shutter press, known by their name in one folder.

import type { Database, Transaction } from '../database/database';
import { bundleRead, recordJoining, settleBundles } from './store';

export type Bundles = ReturnType<typeof bundleService>;

export function bundleService(database: Database) {
  return {
    /** Bundles what was just read with what belongs to it. What is in a bundle, or was taken out of one by hand, stays as it is. */
    afterReading: (photoIds: readonly number[], tx: Transaction): Promise<void> => bundleRead(database, photoIds, tx),

    /** Records that photos come into the bundles of others; a photo that is in none gets one. */
    recordJoining: (
      entryId: number,
      pairs: readonly { photoId: number; originalId: number }[],
      tx: Transaction,
    ): Promise<void> => recordJoining(database, entryId, pairs, tx),

    /** Puts bundles right that an undo could reach only in part. */
    afterChange: (entryId: number, tx: Transaction): Promise<void> => settleBundles(database, entryId, tx),
  };
}
