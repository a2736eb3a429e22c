// What follows from the terms and is kept beside them: which are broader than which, how many photos have them, and what is
// written of them. Brought in line after every change, for the terms it concerns and all below them.

import { TermTree } from '@stellin/core/vocabulary/tree';
import { keywordsOf } from '@stellin/core/vocabulary/writing';
import type { Database, Transaction } from '../database/database';
import * as store from './store';

/** Terms that an entry of the ledger made, altered or removed, or linked anew. */
const TOUCHED = `
  select object_id as id from ledger_object where entry_id = $1 and kind = 'term'
  union select (coalesce(after, before) ->> 'from_id')::int from ledger_object where entry_id = $1 and kind = 'term_relation'`;

const KINDS = `('term', 'term_relation', 'vocabulary')`;

/** Whether an entry changes vocabularies. */
export async function touchesTerms(database: Database, entryId: number, tx: Transaction): Promise<boolean> {
  const row = await database.row(
    `select 1 as touched from ledger_object where entry_id = $1 and kind in ${KINDS} limit 1`,
    [entryId],
    tx,
  );
  return row !== undefined;
}

/** Brings everything in line with what an entry did. */
export async function keepDerived(database: Database, entryId: number, tx: Transaction): Promise<void> {
  if (!(await touchesTerms(database, entryId, tx))) return;
  await store.raiseVersion(database, tx);
  const [found] = await database.rows<{ ids: number[] }>(
    `select array(select id from (${TOUCHED}) t union select a.term_id from term_above a where a.above_id in (${TOUCHED})) as ids`,
    [entryId],
    tx,
  );
  const ids = found?.ids ?? [];
  if (ids.length === 0) return;
  const recounted = await keepAbove(database, ids, tx);
  await keepUses(database, ids, recounted, tx);
  await keepKeywords(database, ids, tx);
}

/** Sets anew which terms are broader than these. Returns the broader terms that other photos are below now. */
async function keepAbove(database: Database, ids: readonly number[], tx: Transaction): Promise<number[]> {
  const rows = await database.rows<{ id: number }>(
    `with recursive
       up as materialized (select id as term_id, parent_id as above_id from term where parent_id is not null
         union select from_id, to_id from term_relation where kind = 'broader'),
       walk (term_id, above_id) as (
         select id, id from term where id = any($1)
         union select w.term_id, u.above_id from walk w join up u on u.term_id = w.above_id),
       gone as (delete from term_above a where a.term_id = any($1)
         and not exists (select 1 from walk w where w.term_id = a.term_id and w.above_id = a.above_id) returning a.term_id, a.above_id),
       came as (insert into term_above select w.term_id, w.above_id from walk w on conflict do nothing returning term_id, above_id)
     select distinct above_id as id from (select * from gone union all select * from came) moved
     where exists (select 1 from photo_term g where g.term_id = moved.term_id)`,
    [ids],
    tx,
  );
  return rows.map(({ id }) => id);
}

async function keepUses(
  database: Database,
  ids: readonly number[],
  recounted: readonly number[],
  tx: Transaction,
): Promise<void> {
  await database.rows(
    `insert into term_use (term_id, photos, last_given_at)
     select t.id, coalesce(g.photos, 0), case when g.photos > 0 then now() end
     from term t left join lateral (select count(*)::int as photos from photo_term where term_id = t.id) g on true
     where t.id = any($1) and not exists (select 1 from term_use u where u.term_id = t.id)`,
    [ids],
    tx,
  );
  if (recounted.length === 0) return;
  await database.rows(
    `update term_use u set photos_within =
       (select count(*)::int from (select distinct g.photo_id from term_above a join photo_term g on g.term_id = a.term_id where a.above_id = u.term_id) within)
     where u.term_id = any($1)`,
    [recounted],
    tx,
  );
}

async function keepKeywords(database: Database, ids: readonly number[], tx: Transaction): Promise<void> {
  const [above, relations] = await Promise.all([
    database.rows<{ id: number }>('select distinct above_id as id from term_above where term_id = any($1)', [ids], tx),
    store.listRelations(database, tx),
  ]);
  const tree = new TermTree(await store.findTerms(database, above.map(({ id }) => id), tx), relations); // prettier-ignore
  const rows = ids.flatMap((id) => keywordsOf(tree, id).map((keyword) => ({ id, keyword })));
  await database.rows('delete from term_keyword where term_id = any($1)', [ids], tx);
  await database.rows(
    'insert into term_keyword select id, keyword from jsonb_to_recordset($1::jsonb) as r (id int, keyword text)',
    [JSON.stringify(rows)],
    tx,
  );
}
