// The SQL of what photos are given besides fields: terms, keywords, ratings, marks; each photo its own.

import type { Database, Transaction } from '../database/database';
import { recordPhotos } from '../ledger/recordStore';

/** What photos have besides their fields. */
export interface Has {
  id: number;
  rating: number;
  mark: string;
  termIds: number[];
  keywords: string[];
}

export function whatPhotosHave(database: Database, photoIds: readonly number[], tx?: Transaction): Promise<Has[]> {
  return database.rows<Has>(
    `select p.id, p.rating, p.mark,
       array(select g.term_id from photo_term g where g.photo_id = p.id order by g.term_id) as "termIds",
       array(select k.keyword from photo_keyword k where k.photo_id = p.id order by k.position, k.keyword) as keywords
     from photo p where p.id = any($1::int[])`,
    [photoIds],
    tx,
  );
}

/** Terms that photos get or lose. */
export async function recordTerms(
  database: Database,
  entryId: number,
  pairs: readonly { photoId: number; termId: number; given: boolean }[],
  tx: Transaction,
): Promise<void> {
  if (pairs.length === 0) return;
  const sql = `select x."photoId", x."termId", coalesce(to_jsonb(g.origin), 'false'), case when x.given then '"hand"'::jsonb else 'false' end
    from jsonb_to_recordset($1::jsonb) x ("photoId" int, "termId" int, given boolean)
    left join photo_term g on g.photo_id = x."photoId" and g.term_id = x."termId"
    where x.given = (g.photo_id is null)`;
  await recordPhotos(database, entryId, 'term', { sql, bind: [JSON.stringify(pairs)] }, tx);
}

/** Keywords that photos get or lose; `incoming_keyword` has all of them. */
export async function recordKeywords(
  database: Database,
  entryId: number,
  pairs: readonly { photoId: number; keyword: string; given: boolean }[],
  tx: Transaction,
): Promise<void> {
  if (pairs.length === 0) return;
  const sql = `select x."photoId", i.id, to_jsonb(not x.given), to_jsonb(x.given)
    from jsonb_to_recordset($1::jsonb) x ("photoId" int, keyword text, given boolean) join incoming_keyword i on i.keyword = x.keyword
    where x.given = not exists (select 1 from photo_keyword k where k.photo_id = x."photoId" and k.keyword = x.keyword)`;
  await recordPhotos(database, entryId, 'keyword', { sql, bind: [JSON.stringify(pairs)] }, tx);
}

/** Ratings of photos. */
export async function recordRatings(
  database: Database,
  entryId: number,
  ratings: readonly { photoId: number; rating: number }[],
  tx: Transaction,
): Promise<void> {
  if (ratings.length === 0) return;
  const sql = `select p.id, 0, to_jsonb(p.rating), to_jsonb(x.rating)
    from jsonb_to_recordset($1::jsonb) x ("photoId" int, rating int) join photo p on p.id = x."photoId" where p.rating <> x.rating`;
  await recordPhotos(database, entryId, 'rating', { sql, bind: [JSON.stringify(ratings)] }, tx);
}

/** Marks of photos, with their folded names. */
export async function recordMarks(
  database: Database,
  entryId: number,
  marks: readonly { photoId: number; name: string; folded: string }[],
  tx: Transaction,
): Promise<void> {
  if (marks.length === 0) return;
  const sql = `select p.id, 0, jsonb_build_object('name', p.mark, 'folded', p.mark_folded), jsonb_build_object('name', x.name, 'folded', x.folded)
    from jsonb_to_recordset($1::jsonb) x ("photoId" int, name text, folded text) join photo p on p.id = x."photoId" where p.mark <> x.name`;
  await recordPhotos(database, entryId, 'mark', { sql, bind: [JSON.stringify(marks)] }, tx);
}
