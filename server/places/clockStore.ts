// The SQL of clocks that went wrong.

import type { Sight } from '@stellin/core/accounts/sight';
import { foldText } from '@stellin/core/text/words';
import { sightSql } from '../catalogue/sightSql';
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
