// What follows from the terms and is kept beside them: which are broader than which, how many photos have them, and what is
// written of them. Brought in line after every change, for the terms it concerns and all below them.

import { TermTree } from '@stellin/core/vocabulary/tree';
import { keywordsOf } from '@stellin/core/vocabulary/writing';
import type { Database, Transaction } from '../database/database';
import type { GivenKeyword } from '../catalogue/givenKeyword';
import type { WriteBack } from '../writeback/service';
import { listRelations } from '../catalogue/terms';
import * as store from './store';
import {
  termsInUse,
  addKeywords,
  dropKeywords,
  keywordsWritten,
  broaderOf,
  termsAffected,
  keepAbove,
  keepUses,
} from './derivedStore';

/** Brings everything in line with what an entry did to terms. */
export async function keepDerived(
  database: Database,
  writeBack: WriteBack,
  entryId: number,
  tx: Transaction,
): Promise<void> {
  await store.raiseVersion(database, tx);
  const [found] = await termsAffected(database, entryId, tx);
  const ids = found?.ids ?? [];
  if (ids.length === 0) return;
  const recounted = await keepAbove(database, ids, tx);
  await keepUses(database, ids, recounted, tx);
  await writeBack.afterKeywords(await keepKeywords(database, ids, tx), tx);
}

/** Sets anew what is written of these terms. Returns what they gave and give now. */
async function keepKeywords(database: Database, ids: readonly number[], tx: Transaction): Promise<GivenKeyword[]> {
  const above = await broaderOf(database, ids, tx);
  const broader = above.map(({ id }) => id);
  const [terms, relations, before] = [
    await store.findTerms(database, broader, tx),
    await listRelations(database, tx),
    await keywordsWritten(database, ids, tx),
  ];
  const tree = new TermTree(terms, relations);
  const given = new Map<string, GivenKeyword>();
  for (const { id, keyword } of before) given.set(`${id} ${keyword}`, { termId: id, keyword, was: true, will: false });
  for (const id of ids)
    for (const keyword of keywordsOf(tree, id)) {
      const known = given.get(`${id} ${keyword}`);
      if (known) known.will = true;
      else given.set(`${id} ${keyword}`, { termId: id, keyword, was: false, will: true });
    }
  const all = [...given.values()];
  const changed = JSON.stringify(all.filter(({ was, will }) => was !== will));
  await dropKeywords(database, changed, tx);
  await addKeywords(database, changed, tx);
  // Of terms that no photo has, nothing is written.
  const used = await termsInUse(database, ids, tx);
  const usedIds = new Set(used.map(({ id }) => id));
  return all.filter(({ termId }) => usedIds.has(termId));
}
