// Reading and writing files can go on side by side; moving them can't: who moves holds the files alone, over all
// processes of a catalogue.

import { AsyncLocalStorage } from 'node:async_hooks';
import type { Database, Transaction } from './database';

/** Names the lock among PostgreSQL's advisory locks. */
const FILES = 7_351_001;

/** What runs now may hold the files alone already. */
const alone = new AsyncLocalStorage<true>();

/** Others work on files just now. */
class FilesBusy extends Error {}

/** Does work while no files are moved (`together`), or while nobody else works on files (`alone`). */
export function holdingFiles<Result>(
  database: Database,
  how: 'together' | 'alone',
  work: () => Promise<Result>,
): Promise<Result> {
  // On a connection of its own: the work has statements of its own, which must not wait for who holds the lock.
  return database.beside(async (connection) => {
    await connection.rows(`select pg_advisory_xact_lock${how === 'together' ? '_shared' : ''}($1)`, [FILES]);
    return how === 'alone' ? alone.run(true, work) : work();
  });
}

/**
 * Holds the files alone for the rest of a transaction, within `waitingForFiles`. It never waits: those who work on files may need the
 * very connection that the transaction has.
 */
export async function holdFilesAlone(database: Database, tx: Transaction): Promise<void> {
  if (alone.getStore()) return;
  const row = await database.row<{ held: boolean }>('select pg_try_advisory_xact_lock($1) as held', [FILES], tx);
  if (!row?.held) throw new FilesBusy('others are working on files');
}

/** Does work in a transaction that may have to hold the files alone. Where others work on them it is rolled back, and begun anew when they are done. */
export async function waitingForFiles<Result>(
  database: Database,
  work: (tx: Transaction) => Promise<Result>,
): Promise<Result> {
  try {
    return await database.transaction(work);
  } catch (error) {
    if (!(error instanceof FilesBusy)) throw error;
    return holdingFiles(database, 'alone', () => database.transaction(work));
  }
}
