// Reading and writing files can go on side by side; moving them can't: who moves holds the files alone, over all
// processes of a catalogue.

import type { Database, Transaction } from './database';

/** Names the lock among PostgreSQL's advisory locks. */
const FILES = 7_351_001;

/** Does work while no files are moved (`together`), or while nobody else works on files (`alone`). */
export function holdingFiles<Result>(
  database: Database,
  how: 'together' | 'alone',
  work: () => Promise<Result>,
): Promise<Result> {
  // On a connection of its own: the work has statements of its own, which must not wait for who holds the lock.
  return database.beside(async (connection) => {
    await connection.rows(sqlOf(how), [FILES]);
    return work();
  });
}

const sqlOf = (how: 'together' | 'alone') => `select pg_advisory_xact_lock${how === 'together' ? '_shared' : ''}($1)`;

/** The same for the rest of a transaction. */
export async function holdFiles(database: Database, how: 'together' | 'alone', tx: Transaction): Promise<void> {
  await database.rows(sqlOf(how), [FILES], tx);
}
