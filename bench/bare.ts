// What changes are measured against: the same rows written by bare SQL, in a transaction that is given up at the end.

import type { Database } from '@stellin/server/database/database';

/** The photos that `markFirst` has marked, as a statement; the query `mark:Benched` finds them. */
export const MARKED_SQL = `select id from photo where mark_folded = 'benched' and shown and folded_into is null`;

/** Marks the first so many photos, and only those. */
export async function markFirst(database: Database, photos: number): Promise<void> {
  await database.rows(
    `update photo set mark = '', mark_written = '', mark_folded = '' where id > ${photos} and mark_folded = 'benched'`,
  );
  await database.rows(
    `update photo set mark = 'Benched', mark_written = 'Benched', mark_folded = 'benched' where id <= ${photos} and mark_folded <> 'benched'`,
  );
}

/** The milliseconds some work takes. */
export async function timed(work: () => Promise<unknown>): Promise<number> {
  const began = performance.now();
  await work();
  return performance.now() - began;
}

/** Runs statements in a transaction that is given up at the end. */
export async function rolledBack(
  database: Database,
  work: (run: (sql: string, bind: readonly unknown[]) => Promise<unknown>) => Promise<void>,
): Promise<void> {
  const giveUp = new Error('given up as meant');
  await database
    .transaction(async (tx) => {
      await work((sql, bind) => database.rows(sql, bind, tx));
      throw giveUp;
    })
    .catch((error: unknown) => {
      if (error !== giveUp) throw error;
    });
}
