// Keywords and folder names that wait to be settled.

import type { Database, Transaction } from '../database/database';
import type { KEYWORD_SOURCES, IncomingKeyword } from '@stellin/contract/keywords';

/** Folders by path with how many photos they hold. */
export function foldersOpen(
  database: Database,
  accession: number | undefined,
): Promise<{ path: string; photos: number; ids: number[] }[]> {
  return database.rows<{ path: string; photos: number; ids: number[] }>(
    `select f.path, count(*)::int as photos, (array_agg(p.id order by p.id))[1:3] as ids
     from photo p join folder f on f.id = p.folder_id where p.shown and ($1::int is null or p.accession_id = $1) group by f.path`,
    [accession ?? null],
  );
}

/** Which of some keywords are decided. */
export function decidedKeywords(database: Database, keywords: readonly string[]): Promise<{ keyword: string }[]> {
  return database.rows<{ keyword: string }>('select keyword from keyword_decision where keyword = any($1)', [keywords]);
}

/** Keywords with a few photos each: rows of {keyword, photos, ids} as JSON. */
export function withSamples(
  database: Database,
  words: { keyword: string; photos: number; ids: readonly number[] }[],
  limit: number,
): Promise<Found['rows'][number][]> {
  return database.rows<Found['rows'][number]>(
    `select o.keyword, o.photos, ${SAMPLES} as samples
     from jsonb_to_recordset($1::jsonb) as r (keyword text, photos int, ids jsonb)
     cross join lateral (select r.keyword, r.photos, array(select jsonb_array_elements_text(r.ids)::int) as ids) o
     order by o.photos desc, o.keyword`,
    [JSON.stringify(words.slice(0, limit))],
  );
}

export interface Request {
  source: (typeof KEYWORD_SOURCES)[number];
  accession?: number;
  levels: number;
  limit: number;
}

export interface Found {
  total: number;
  rows: Omit<IncomingKeyword, 'proposal' | 'person'>[];
}

export async function unsettledKeywords(database: Database, { accession, limit }: Request): Promise<Found> {
  const open = `from photo_keyword k join photo p on p.id = k.photo_id
    where p.shown and ($1::int is null or p.accession_id = $1) and not exists (select 1 from keyword_decision d where d.keyword = k.keyword)`;
  const [count, rows] = await Promise.all([
    database.row<{ total: number }>(`select count(distinct k.keyword)::int as total ${open}`, [accession ?? null]),
    limit === 0
      ? []
      : database.rows<Found['rows'][number]>(
          `select o.keyword, o.photos, ${SAMPLES} as samples from (
             select k.keyword, count(*)::int as photos, (array_agg(k.photo_id order by k.photo_id))[1:3] as ids
             ${open} group by k.keyword order by photos desc, k.keyword limit $2) o
           order by o.photos desc, o.keyword`,
          [accession ?? null, limit],
        ),
  ]);
  return { total: count?.total ?? 0, rows };
}

const SAMPLES = `(select json_agg(json_build_object('id', s.id, 'previewVersion', s.preview_version) order by s.id) from photo s where s.id = any(o.ids))`;

/** Applies what was decided before to files that were just read. */
export async function settleKnown(database: Database, photoIds: readonly number[], tx: Transaction): Promise<void> {
  const settled = await database.row(
    `with decided as materialized (
       select k.photo_id, k.keyword, d.term_id from photo_keyword k join keyword_decision d on d.keyword = k.keyword
       where k.photo_id = any($1) and d.decision <> 'keep'),
     given as (
       insert into photo_term (term_id, photo_id, origin) select distinct x.term_id, x.photo_id, 'file' from decided x join term t on t.id = x.term_id and not t.heading
       on conflict do nothing),
     written as (insert into written_keyword (photo_id, keyword) select photo_id, keyword from decided on conflict do nothing)
     delete from photo_keyword k using decided x where k.photo_id = x.photo_id and k.keyword = x.keyword returning 1 as settled`,
    [photoIds],
    tx,
  );
  if (settled) await database.notify(['vocabulary'], tx);
}
