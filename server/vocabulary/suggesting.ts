// Terms that chosen photos might get: those one gave last, and those that photos like them usually have.

import type { TermTree } from '@stellin/core/vocabulary/tree';
import type { Selection } from '@stellin/contract/photos';
import type { TermName } from '@stellin/contract/termName';
import type { SuggestedTerm } from '@stellin/contract/vocabulary';
import type { Database } from '../database/database';
import { selectionSql } from '../catalogue/selection';
import { nameOf } from './naming';
import type { VocabularyIndex } from '../catalogue/vocabularySnapshot';

const RECENT_TERMS = 12;
const SUGGESTED_TERMS = 12;
/** How many photos are looked at for each reason. */
const PHOTOS_SAMPLED = 1000;
const MIN_SHARE = 0.15;

/** The terms that somebody gave last, each once. */
export async function recentTerms(database: Database, index: VocabularyIndex, accountId: number): Promise<TermName[]> {
  const { tree } = await index.current();
  const rows = await database.rows<{ id: number }>(
    `select id from (
       select t.id::int as id, max(e.id) as last from (
         select id, parameters from ledger_entry where account_id = $1 and kind = 'giveTerms' order by id desc limit 300) e
       cross join lateral jsonb_array_elements_text(e.parameters -> 'termIds') t (id) group by t.id) given
     order by last desc limit ${RECENT_TERMS * 2}`,
    [accountId],
  );
  return rows
    .filter(({ id }) => isGiven(tree.get(id)))
    .slice(0, RECENT_TERMS)
    .map(({ id }) => nameOf(tree, id));
}

function isGiven(term: { heading: boolean; deprecated: boolean } | undefined): boolean {
  return term !== undefined && !term.heading && !term.deprecated;
}

/**
 * Terms that photos usually have which have the same terms, lie in the same folder, were taken that day or show the same people,
 * with the reason. Of
 * each kind of photos the newest are looked at.
 */
export async function suggestTerms(
  database: Database,
  index: VocabularyIndex,
  selection: Selection,
): Promise<SuggestedTerm[]> {
  const { tree } = await index.current();
  const chosen = selectionSql(selection);
  const rows = await database.rows<{ id: number; why: string; base: string | null; share: number }>(
    `with chosen as materialized (select id from (${chosen.sql}) all_chosen limit 2000),
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
    chosen.bind,
  );
  const best = new Map<number, SuggestedTerm>();
  for (const { id, why, base, share } of rows)
    if (!best.has(id) && isGiven(tree.get(id)))
      best.set(id, { ...nameOf(tree, id), share, why: reason(tree, why, base ?? '') });
  return [...best.values()].slice(0, SUGGESTED_TERMS);
}

const REASONS: Record<string, (tree: TermTree, base: string) => string> = {
  folder: () => 'in this folder',
  day: () => 'on this day',
  person: (_tree, name) => `with ${name}`,
  term: (tree, id) => `with “${tree.get(Number(id))?.label ?? ''}”`,
};

function reason(tree: TermTree, why: string, base: string): string {
  return REASONS[why]?.(tree, base) ?? '';
}
