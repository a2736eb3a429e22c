// The SQL of tracks, and of photos that follow them.

import type { FieldValues } from '@stellin/core/metadata/fields';
import type { TrackRow } from '@stellin/contract/tracks';
import type { SqlCondition } from '../catalogue/compile';
import type { Database, Transaction } from '../database/database';
import { isoSql } from '../database/isoSql';
import type { ReadTrack } from './tracks.worker';

export function listTracks(database: Database): Promise<TrackRow[]> {
  return database.rows<TrackRow>(
    `select t.id, t.name, t.device, t.points, ${isoSql('t.begins')} as begins, ${isoSql('t.ends')} as ends,
       ${isoSql('t.added_at')} as "addedAt", a.display_name as "addedBy"
     from track t left join account a on a.id = t.added_by order by t.begins desc, t.id`,
  );
}

/** Keeps a track; one that is there already gets the new name. */
export async function keepTrack(
  database: Database,
  { name, device, accountId }: { name: string; device: string; accountId: number },
  { data, points, begins, ends }: ReadTrack,
): Promise<number> {
  const row = await database.row<{ id: number }>(
    `insert into track (name, device, points, begins, ends, data, digest, added_by)
     values ($1, $2, $3, to_timestamp($4::float8 / 1000), to_timestamp($5::float8 / 1000), $6, sha256($6), $7)
     on conflict (digest) do update set name = excluded.name, device = excluded.device returning id`,
    [name, device, points, begins, ends, Buffer.from(data), accountId],
  );
  if (!row) throw new Error('the track was not kept');
  return row.id;
}

export async function removeTrack(database: Database, id: number): Promise<boolean> {
  return (await database.rows('delete from track where id = $1 returning id', [id])).length > 0;
}

/** The data of tracks by their ids, in the order of these; those that are gone are left out. */
export async function trackData(database: Database, ids: readonly number[], tx?: Transaction): Promise<Buffer[]> {
  const rows = await database.rows<{ data: Buffer }>(
    'select t.data from track t where t.id = any($1::int[]) order by array_position($1::int[], t.id)',
    [ids],
    tx,
  );
  return rows.map(({ data }) => data);
}

/** What tells where and when a photo was taken. */
export interface TimedPhoto {
  id: number;
  name: string;
  previewVersion: number;
  /** What its camera’s clock said. */
  clock: string | null;
  fields: Pick<FieldValues, 'dateCreated' | 'position'>;
}

/** The first photos of a statement, by the time they were taken. */
export function timedPhotos(database: Database, photos: SqlCondition, limit: number): Promise<TimedPhoto[]> {
  const bind = [...photos.bind];
  return database.rows<TimedPhoto>(
    `select p.id, p.name, p.preview_version as "previewVersion", (t.facts ->> 'takenAt') || coalesce(t.facts ->> 'offset', '') as clock,
       jsonb_strip_nulls(jsonb_build_object('dateCreated', t.fields -> 'dateCreated', 'position', t.fields -> 'position')) as fields
     from (${photos.sql}) chosen join photo p on p.id = chosen.id join photo_text t on t.photo_id = p.id
     order by p.taken_at nulls last, p.id limit $${bind.push(limit)}`,
    bind,
  );
}

/** When the first and the last of some photos (a statement) were taken whose time is known, in milliseconds of local time; null where none is. */
export async function timeSpan(
  database: Database,
  photos: SqlCondition,
  tx: Transaction,
): Promise<[first: number | null, last: number | null]> {
  const row = await database.row<{ first: number | null; last: number | null }>(
    `select extract(epoch from min(p.taken_at))::float8 * 1000 as first, extract(epoch from max(p.taken_at))::float8 * 1000 as last
     from (${photos.sql}) chosen join photo p on p.id = chosen.id
     where p.taken_at is not null and coalesce(p.taken_until, p.taken_at) - p.taken_at <= interval '1 minute'`,
    photos.bind,
    tx,
  );
  return [row?.first ?? null, row?.last ?? null];
}
