// Seals: what the ledger holds is closed with a chain of hashes (SHA-256), so that an entry that was altered or removed afterwards
// shows. Each entry gets a digest of all it records; a seal has that of the digests of its entries, and the chain that of the seal
// and the chain before it. Only whoever rewrites all later seals too stays unseen, and the last hash, noted elsewhere, tells of that.

import type { Database } from '../database/database';
import * as store from './sealStore';

export type { Book } from './sealStore';

/** So many entries that were altered are named one by one. */
const MAX_NAMED = 100;

/** Seals what is not sealed yet; how many entries that were. Nothing where another process does. */
export async function sealLedger(database: Database): Promise<number> {
  let sealed = 0;
  for (const book of store.BOOKS)
    for (let count = store.ENTRIES_PER_SEAL; count === store.ENTRIES_PER_SEAL; sealed += count)
      count = await database.transaction((tx) => store.sealSome(database, book, tx));
  return sealed;
}

export interface Verified {
  book: store.Book;
  seals: number;
  entries: number;
  /** The last hash of the chain, as hexadecimal digits; empty where nothing is sealed. */
  head: string;
  /** What is not as it was sealed, in sentences. */
  problems: string[];
}

/** Looks whether everything is as it was sealed. `noted`: hashes that were the last of a chain once. */
export async function verifyLedger(database: Database, noted: readonly string[] = []): Promise<Verified[]> {
  const found = await Promise.all(store.BOOKS.map((book) => verifyBook(database, book)));
  const chains = new Set(found.flatMap(({ chains: known }) => [...known]));
  return found.map(({ chains: _, ...verified }, i) => ({
    ...verified,
    problems: [
      ...verified.problems,
      ...(i === 0 ? noted.filter((hash) => !chains.has(hash)).map((hash) => `no chain has ever come by ${hash}`) : []),
    ],
  }));
}

async function verifyBook(database: Database, book: store.Book): Promise<Verified & { chains: ReadonlySet<string> }> {
  const seals = await store.listSeals(database, book);
  const altered = await store.listAltered(database, book, MAX_NAMED + 1);
  const loose = await store.countLoose(database, book);
  const problems = [
    ...altered.slice(0, MAX_NAMED).map(({ id }) => `entry ${id} is not what it was when it was sealed`),
    ...(altered.length > MAX_NAMED ? [`more than these ${MAX_NAMED} entries are not what they were`] : []),
    ...seals.flatMap(({ id, entries, found, holds, links, follows }) => [
      ...(found < entries ? [`${entries - found} of the entries of seal ${id} are gone`] : []),
      ...(found > entries ? [`entries were added to seal ${id}`] : []),
      ...(found === entries && !holds ? [`entries of seal ${id} were exchanged`] : []),
      ...(links && follows ? [] : [`the chain is broken at seal ${id}`]),
    ]),
    ...(loose > 0 ? [`${loose} entries have lost their seal`] : []),
  ];
  return {
    book,
    seals: seals.length,
    entries: seals.reduce((sum, { found }) => sum + found, 0),
    head: seals.at(-1)?.chain ?? '',
    problems,
    chains: new Set(seals.map(({ chain }) => chain)),
  };
}
