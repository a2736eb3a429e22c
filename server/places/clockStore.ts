// The SQL of clocks that went wrong.

import type { Sight } from '@stellin/core/accounts/sight';
import { foldText } from '@stellin/core/text/words';
import { sightSql } from '../catalogue/sightSql';
import type { FileFacts } from '@stellin/core/metadata/read';
import type { SqlCondition } from '../catalogue/compile';
import type { Database, Transaction } from '../database/database';

/** A row as the ledger keeps it. */
export interface CameraClockRecord {
  id: number;
  camera: string;
  from_day: string;
  until_day: string;
  ahead_seconds: number;
  note: string;
  created_by: number | null;
}

export function listClocks(database: Database, tx?: Transaction): Promise<CameraClockRecord[]> {
  return database.rows<CameraClockRecord>(
    'select id, camera, from_day, until_day, ahead_seconds, note, created_by from camera_clock order by from_day desc, id',
    [],
    tx,
  );
}

/** How many photos that exist for somebody were taken with each clock and still say what it said, by its number. */
export async function photosToPutRight(
  database: Database,
  clocks: readonly CameraClockRecord[],
  sight: Sight,
): Promise<Map<number, number>> {
  const seen = sightSql(sight, [
    clocks.map(({ id }) => id),
    clocks.map(({ camera }) => foldText(camera)),
    clocks.map(({ from_day }) => from_day),
    clocks.map(({ until_day }) => until_day),
  ]);
  const rows = await database.rows<{ id: number; photos: number }>(
    `select c.id, count(*)::int as photos
     from unnest($1::int[], $2::text[], $3::text[], $4::text[]) c (id, camera, from_day, until_day)
     join photo_text t on t.camera_folded = c.camera and left(t.facts ->> 'takenAt', 10) between c.from_day and c.until_day
       and left(coalesce(t.fields ->> 'dateCreated', t.facts ->> 'takenAt'), 19) = left(t.facts ->> 'takenAt', 19)
     join photo p on p.id = t.photo_id and p.shown and ${seen.sql} group by c.id`,
    seen.bind,
  );
  return new Map(rows.map(({ id, photos }) => [id, photos]));
}

export interface CameraPhoto {
  id: number;
  name: string;
  previewVersion: number;
  facts: Pick<FileFacts, 'make' | 'model' | 'takenAt'>;
  /** When it was taken as is said now; null where nothing is. */
  said: string | null;
}

/** The first photos of a statement, by when they were taken, whose camera and clock are known. */
export function cameraPhotos(database: Database, photos: SqlCondition, limit: number): Promise<CameraPhoto[]> {
  const bind = [...photos.bind];
  return database.rows<CameraPhoto>(
    `select p.id, p.name, p.preview_version as "previewVersion", t.fields ->> 'dateCreated' as said,
       jsonb_strip_nulls(jsonb_build_object('make', t.facts -> 'make', 'model', t.facts -> 'model', 'takenAt', t.facts -> 'takenAt')) as facts
     from (${photos.sql}) chosen join photo p on p.id = chosen.id join photo_text t on t.photo_id = p.id
     where t.facts ->> 'takenAt' is not null and coalesce(t.facts ->> 'make', t.facts ->> 'model') is not null
     order by p.taken_at nulls last, p.id limit $${bind.push(limit)}`,
    bind,
  );
}
