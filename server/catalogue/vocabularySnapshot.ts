// The vocabularies in memory, as read last: what columns, type-ahead and findings are answered from. Asked for, it looks
// whether anything has changed since, and reads anew if so.

import { TermFinder } from '@stellin/core/vocabulary/finding';
import { TermNames } from '@stellin/core/vocabulary/following';
import { TermMatcher } from '@stellin/core/vocabulary/matching';
import type { Relation, Vocabulary } from '@stellin/core/vocabulary/term';
import { TermTree } from '@stellin/core/vocabulary/tree';
import type { Database, Rows, Transaction } from '../database/database';
import * as store from './terms';

export interface Snapshot {
  version: number;
  tree: TermTree;
  relations: readonly Relation[];
  vocabularies: readonly Vocabulary[];
  /** Made when first asked for. */
  finder: () => TermFinder;
  names: () => TermNames;
  matcher: () => TermMatcher;
}

export type VocabularyIndex = ReturnType<typeof vocabularyIndex>;

export function vocabularyIndex(database: Database) {
  let latest: Snapshot | undefined;
  let reading: Promise<Snapshot> | undefined;

  const read = async (): Promise<Snapshot> => {
    // One snapshot of the database, so that the parts fit each other and the version.
    const snapshot = await database.transaction(async (tx) => {
      await database.rows('set transaction isolation level repeatable read, read only', [], tx);
      return loadVocabularies(database, tx);
    });
    if (!latest || snapshot.version > latest.version) latest = snapshot;
    return snapshot;
  };

  return {
    /** The vocabularies as they are now. */
    async current(): Promise<Snapshot> {
      const version = await store.readVersion(database);
      if (latest && latest.version >= version) return latest;
      reading ??= read().finally(() => (reading = undefined));
      const snapshot = await reading;
      return snapshot.version >= version ? snapshot : read();
    },

    /** The vocabularies as a transaction sees them. */
    async seenIn(tx: Transaction): Promise<Snapshot> {
      const version = await store.readVersion(database, tx);
      return latest?.version === version ? latest : loadVocabularies(database, tx);
    },

    /** The vocabularies inside a transaction that is about to change them: nobody else can until it ends. */
    async locked(tx: Transaction): Promise<Snapshot> {
      const version = await store.readVersion(database, tx, true);
      return latest?.version === version ? latest : loadVocabularies(database, tx);
    },
  };
}

/** The vocabularies as they are; in a transaction that sees one snapshot of the database, so that the parts fit each other. */
export async function loadVocabularies(database: Rows, tx?: Transaction): Promise<Snapshot> {
  const version = await store.readVersion(database, tx);
  const terms = await store.listTerms(database, tx);
  const relations = await store.listRelations(database, tx);
  const vocabularies = await store.listVocabularies(database, tx);
  const tree = new TermTree(terms, relations, vocabularies);
  return {
    version,
    tree,
    relations,
    vocabularies,
    finder: once(() => new TermFinder(tree)),
    names: once(() => new TermNames(tree)),
    matcher: once(() => new TermMatcher(terms)),
  };
}

function once<Value>(make: () => Value): () => Value {
  let made: { value: Value } | undefined;
  return () => (made ??= { value: make() }).value;
}
