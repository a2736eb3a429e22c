// The SQL of pictures that are there more than once, or look alike.

import { recordObjects } from '../ledger/recordStore';
import type { DoublePhoto } from '@stellin/contract/doubles';
import type { Database, Transaction } from '../database/database';
import { alsoSeen, photoColumns, PHOTO_JOINS } from '../catalogue/photoRow';
import { sightSql } from '../catalogue/sightSql';
import type { Viewer } from '../catalogue/viewer';

/** Groups of the same picture, by their first photo, the next few. */
export async function sameGroups(
  database: Database,
  { sight }: Viewer,
  after: number,
  limit: number,
): Promise<{ first: number; ids: number[] }[]> {
  const seen = sightSql(sight, [after, limit]);
  return database.rows(
    `select min(p.id) as first, array_agg(p.id order by p.id) as ids from photo p
     where p.picture_hash is not null and p.shown and ${seen.sql}
     group by p.picture_hash having count(*) > 1 and min(p.id) > $1 order by 1 limit $2`,
    seen.bind,
  );
}

export async function countSame(
  database: Database,
  { sight }: Viewer,
): Promise<{ groups: number; surplus: number; bytes: number }> {
  const seen = sightSql(sight);
  const row = await database.row<{ groups: number; surplus: number; bytes: number }>(
    `select count(*)::int as groups, coalesce(sum(photos - 1), 0)::int as surplus, coalesce(sum(bytes), 0)::float8 as bytes
     from (select count(*) as photos, sum(p.size_bytes) - max(p.size_bytes) as bytes from photo p
       where p.picture_hash is not null and p.shown and ${seen.sql} group by p.picture_hash having count(*) > 1) g`,
    seen.bind,
  );
  return row ?? { groups: 0, surplus: 0, bytes: 0 };
}

/** Up to seven of 64 bits may differ; the bands find no more (see the migration). */
const MAX_BITS = 6;
/** Pictures of one plain tone all look alike by this measure. */
const PLAIN_BITS = 5;
const BANDS = [0, 1, 2, 3];

/** Pairs of photos that look alike without being the same picture or one bundle, whose first is among the next `scan` photos. Returns the last photo looked at. */
export async function alikePairs(
  database: Database,
  { sight }: Viewer,
  after: number,
  scan: number,
): Promise<{ pairs: [number, number][]; last: number | null }> {
  const [seeds] = await database.rows<{ last: number | null }>(
    `select max(id) as last from (select id from photo where id > $1 and shown and likeness is not null order by id limit $2) s`,
    [after, scan],
  );
  const last = seeds?.last ?? null;
  if (last === null) return { pairs: [], last };
  const candidates = BANDS.map(
    (band) =>
      `select id, likeness, picture_hash, bundle, shown from photo where likeness is not null
       and likeness_band(likeness, ${band}) = any(neighbouring_bands(likeness_band(s.likeness, ${band})))`,
  ).join(' union ');
  const seen = sightSql(sight, [after, last]);
  const pairs = await database.rows<{ a: number; b: number }>(
    `select s.id as a, o.id as b from photo s cross join lateral (${candidates}) o
     where s.id > $1 and s.id <= $2 and s.shown and s.likeness is not null and o.shown and o.id > s.id
       and bit_count(s.likeness::bit(64)) between ${PLAIN_BITS} and ${64 - PLAIN_BITS}
       and bit_count((s.likeness # o.likeness)::bit(64)) <= ${MAX_BITS}
       and not exists (select 1 from told_apart t where t.photo_id = s.id and t.other_id = o.id)
       and s.picture_hash is distinct from o.picture_hash and (s.bundle is null or s.bundle is distinct from o.bundle)${alsoSeen('s', seen.sql)}${alsoSeen('o', seen.sql)}`,
    seen.bind,
  );
  return { pairs: pairs.map(({ a, b }) => [a, b]), last };
}

export async function photosOf(database: Database, { sight }: Viewer, ids: readonly number[]): Promise<DoublePhoto[]> {
  const seen = sightSql(sight, [ids]);
  return database.rows<DoublePhoto>(
    `select ${photoColumns(seen.sql)}, d.label as "driveLabel", f.path as "folderPath", p.size_bytes::float8 as "sizeBytes",
       (select count(*)::int from photo_term g where g.photo_id = p.id) as terms
     from photo p ${PHOTO_JOINS} join folder f on f.id = p.folder_id where p.id = any($1) and ${seen.sql}`,
    seen.bind,
  );
}

/** Records that some photos are different pictures, each pair of them that nobody has told apart yet. */
export async function recordApart(
  database: Database,
  entryId: number,
  photoIds: readonly number[],
  tx: Transaction,
): Promise<void> {
  const sql = `select pair.id, null, to_jsonb(pair) from (
      select nextval(pg_get_serial_sequence('told_apart', 'id'))::int as id, a.id as photo_id, b.id as other_id
      from photo a join photo b on a.id < b.id where a.id = any($1) and b.id = any($1)
        and not exists (select 1 from told_apart t where t.photo_id = a.id and t.other_id = b.id)) pair`;
  await recordObjects(database, entryId, 'told_apart', { sql, bind: [photoIds] }, tx);
}
