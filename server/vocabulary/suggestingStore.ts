// Which terms somebody gave last, and which photos like some have.

import type { Database } from '../database/database';
import { isoSql } from '../database/isoSql';

/** Terms that photos like the chosen ones have, and why. */
export function suggestionsFor(
  database: Database,
  sql: string,
  bind: readonly unknown[],
): Promise<{ id: number; why: string; base: string | null; share: number }[]> {
  return database.rows<{ id: number; why: string; base: string | null; share: number }>(
    `with chosen as materialized (select id from (${sql}) all_chosen limit 2000),
     had as materialized (select distinct a.above_id as id from chosen join photo_term g on g.photo_id = chosen.id join term_above a on a.term_id = g.term_id),
     bases as (select g.term_id as id from chosen join photo_term g on g.photo_id = chosen.id group by g.term_id order by count(*) desc, g.term_id limit 5),
     folders as (select p.folder_id as id from chosen join photo p on p.id = chosen.id group by p.folder_id order by count(*) desc limit 3),
     days as (select p.taken_at::date as day from chosen join photo p on p.id = chosen.id where p.taken_at is not null group by 1 order by count(*) desc limit 3),
     people as (select n.name from chosen join photo_text t on t.photo_id = chosen.id cross join lateral jsonb_array_elements_text(t.fields -> 'personInImage') n (name)
       group by n.name order by count(*) desc, n.name limit 3),
     alike (why, base, photo_id) as materialized (
       select 'term', b.id::text, f.photo_id from bases b cross join lateral (select photo_id from photo_term where term_id = b.id order by photo_id desc limit ${PHOTOS_SAMPLED}) f
       union all select 'folder', null, f.id from folders cross join lateral (
         select p.id from photo p where p.folder_id = folders.id and exists (select 1 from photo_term g where g.photo_id = p.id) limit ${PHOTOS_SAMPLED}) f
       union all select 'day', null, f.id from days cross join lateral (
         select p.id from photo p where p.taken_at >= days.day and p.taken_at < days.day + 1 and exists (select 1 from photo_term g where g.photo_id = p.id) limit ${PHOTOS_SAMPLED}) f
       union all select 'person', people.name, f.photo_id from people cross join lateral (
         select t.photo_id from photo_text t where t.fields ? 'personInImage' and t.fields -> 'personInImage' @> to_jsonb(people.name) and exists (select 1 from photo_term g where g.photo_id = t.photo_id) limit ${PHOTOS_SAMPLED}) f),
     others as (select * from alike where photo_id not in (select id from chosen)),
     sizes as (select why, base, count(*)::float8 as photos from others group by why, base)
     select g.term_id as id, o.why, o.base, count(*) / max(s.photos) as share
     from others o join sizes s on s.why = o.why and s.base is not distinct from o.base join photo_term g on g.photo_id = o.photo_id
     where g.term_id not in (select id from had) and s.photos >= 3
     group by g.term_id, o.why, o.base having count(*) >= 2 and count(*) / max(s.photos) >= ${MIN_SHARE}
     order by share desc, g.term_id`,
    bind,
  );
}

/** How many photos are looked at for each reason. */
const PHOTOS_SAMPLED = 1000;

const MIN_SHARE = 0.15;

/** Ids of the terms that somebody gave last, each once, newest first. */
export async function givenLast(database: Database, accountId: number, limit: number): Promise<number[]> {
  const rows = await database.rows<{ id: number }>(
    `select id from (
       select t.id::int as id, max(e.id) as last from (
         select id, parameters from ledger_entry where account_id = $1 and kind = 'giveTerms' order by id desc limit 300) e
       cross join lateral jsonb_array_elements_text(e.parameters -> 'termIds') t (id) group by t.id) given
     order by last desc limit $2`,
    [accountId, limit],
  );
  return rows.map(({ id }) => id);
}

/** The terms that anybody gave last, each once, newest first. */
export function givenByAnybody(database: Database, limit: number): Promise<{ id: number; at: string }[]> {
  return database.rows<{ id: number; at: string }>(
    `select id, ${isoSql('at')} as at from (
       select t.id::int as id, max(e.at) as at from (
         select at, parameters from ledger_entry where kind = 'giveTerms' and not undone order by id desc limit 300) e
       cross join lateral jsonb_array_elements_text(e.parameters -> 'termIds') t (id) group by t.id) given
     order by given.at desc limit $1`,
    [limit],
  );
}

/** How many terms were made and went, by the months in which any were, the latest ones, in their order. What was undone counts for nothing. */
export function termsByMonth(
  database: Database,
  months: number,
): Promise<{ month: string; made: number; gone: number }[]> {
  return database.rows<{ month: string; made: number; gone: number }>(
    `select * from (
       select to_char(e.at, 'YYYY-MM') as month, count(*) filter (where l.before is null)::int as made, count(*) filter (where l.after is null)::int as gone
       from ledger_object l join ledger_entry e on e.id = l.entry_id
       where l.kind = 'term' and (l.before is null or l.after is null) and not e.undone and e.reverses is null
       group by 1 order by 1 desc limit $1) latest order by month`,
    [months],
  );
}
