// What follows from the terms and is kept beside them: which are broader than which, how many photos have them, and what is
// written of them. Brought in line after every change, for the terms it concerns and all below them.

import { TermTree } from '@stellin/core/vocabulary/tree';
import { keywordsOf } from '@stellin/core/vocabulary/writing';
import type { Database, Transaction } from '../database/database';
import type { GivenKeyword } from '../catalogue/givenKeyword';
import type { WriteBack } from '../writeback/service';
import { listRelations } from '../catalogue/terms';
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
export async function keepDerived(
  database: Database,
  writeBack: WriteBack,
  entryId: number,
  tx: Transaction,
): Promise<void> {
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
  await writeBack.afterKeywords(await keepKeywords(database, ids, tx), tx);
}

/** Sets anew which terms are broader than these. Returns the broader terms that other photos are below now. */
async function keepAbove(database: Database, ids: readonly number[], tx: Transaction): Promise<number[]> {
  const rows = await database.rows<{ id: number }>(
    `with recursive
       walk (term_id, above_id) as (
         select id, id from term where id = any($1)
         union
         select w.term_id, u.above_id from walk w cross join lateral (
           select t.parent_id as above_id from term t where t.id = w.above_id and t.parent_id is not null
           union all
           select l.to_id from term_relation l where l.kind = 'broader' and l.from_id = w.above_id) u),
       gone as (
         delete from term_above a where (a.term_id, a.above_id) in (
           select o.term_id, o.above_id from term_above o where o.term_id = any($1) except select term_id, above_id from walk)
         returning a.term_id, a.above_id),
       came as (insert into term_above select term_id, above_id from walk on conflict do nothing returning term_id, above_id)
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

/** Sets anew what is written of these terms. Returns what they gave and give now. */
async function keepKeywords(database: Database, ids: readonly number[], tx: Transaction): Promise<GivenKeyword[]> {
  const above = await database.rows<{ id: number }>(
    'select distinct above_id as id from term_above where term_id = any($1)',
    [ids],
    tx,
  );
  const broader = above.map(({ id }) => id);
  const [terms, relations, before] = [
    await store.findTerms(database, broader, tx),
    await listRelations(database, tx),
    await database.rows<{ id: number; keyword: string }>(
      'select term_id as id, keyword from term_keyword where term_id = any($1)',
      [ids],
      tx,
    ),
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
  const rows = `jsonb_to_recordset($1::jsonb) as r ("termId" int, keyword text, will boolean)`;
  await database.rows(
    `delete from term_keyword k using ${rows} where not r.will and k.term_id = r."termId" and k.keyword = r.keyword`,
    [changed],
    tx,
  );
  await database.rows(`insert into term_keyword select r."termId", r.keyword from ${rows} where r.will`, [changed], tx);
  // Of terms that no photo has, nothing is written.
  const used = await database.rows<{ id: number }>(
    'select term_id as id from term_use where photos > 0 and term_id = any($1)',
    [ids],
    tx,
  );
  const usedIds = new Set(used.map(({ id }) => id));
  return all.filter(({ termId }) => usedIds.has(termId));
}
