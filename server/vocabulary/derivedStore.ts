// Tables derived from terms: what is broader, how often terms are used, what is written of them.

import { TERM_OBJECTS } from './ledger';
import type { Database, Transaction } from '../database/database';

/** Terms an entry touches, and all narrower than these. */
export function termsAffected(database: Database, entryId: number, tx: Transaction): Promise<{ ids: number[] }[]> {
  return database.rows<{ ids: number[] }>(
    `select array(select id from (${TOUCHED}) t union select a.term_id from term_above a where a.above_id in (${TOUCHED})) as ids`,
    [entryId],
    tx,
  );
}

/** Terms that are broader than some, with these. */
export function broaderOf(database: Database, ids: readonly number[], tx: Transaction): Promise<{ id: number }[]> {
  return database.rows<{ id: number }>(
    'select distinct above_id as id from term_above where term_id = any($1)',
    [ids],
    tx,
  );
}

/** What is written of terms. */
export function keywordsWritten(
  database: Database,
  ids: readonly number[],
  tx: Transaction,
): Promise<{ id: number; keyword: string }[]> {
  return database.rows<{ id: number; keyword: string }>(
    'select term_id as id, keyword from term_keyword where term_id = any($1)',
    [ids],
    tx,
  );
}

/** Rows of {termId, keyword, will} as JSON in $1. */
const KEYWORD_ROWS = `jsonb_to_recordset($1::jsonb) as r ("termId" int, keyword text, will boolean)`;

/** Removes what is not written of terms any more: rows of {termId, keyword, will} as JSON. */
export async function dropKeywords(database: Database, changed: string, tx: Transaction): Promise<void> {
  await database.rows(
    `delete from term_keyword k using ${KEYWORD_ROWS} where not r.will and k.term_id = r."termId" and k.keyword = r.keyword`,
    [changed],
    tx,
  );
}

/** Adds what is written of terms from now on: rows of {termId, keyword, will} as JSON. */
export async function addKeywords(database: Database, changed: string, tx: Transaction): Promise<void> {
  await database.rows(
    `insert into term_keyword select r."termId", r.keyword from ${KEYWORD_ROWS} where r.will`,
    [changed],
    tx,
  );
}

/** Which of some terms any photo has. */
export function termsInUse(database: Database, ids: readonly number[], tx: Transaction): Promise<{ id: number }[]> {
  return database.rows<{ id: number }>(
    'select term_id as id from term_use where photos > 0 and term_id = any($1)',
    [ids],
    tx,
  );
}

/** Terms that an entry of the ledger made, altered or removed, or linked anew. */
const TOUCHED = `
  select object_id as id from ledger_object where entry_id = $1 and kind = 'term'
  union select (coalesce(after, before) ->> 'from_id')::int from ledger_object where entry_id = $1 and kind = 'term_relation'`;

/** Whether an entry changes vocabularies. */
export async function touchesTerms(database: Database, entryId: number, tx: Transaction): Promise<boolean> {
  const row = await database.row(
    `select 1 as touched from ledger_object where entry_id = $1 and kind = any($2::text[]) limit 1`,
    [entryId, TERM_OBJECTS],
    tx,
  );
  return row !== undefined;
}

/** Sets anew which terms are broader than these. Returns the broader terms that other photos are below now. */
export async function keepAbove(database: Database, ids: readonly number[], tx: Transaction): Promise<number[]> {
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

export async function keepUses(
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
