// The tables' side of looks: what previews were measured to look like, and which photos a burst could be of.

import { LOOKS_BY } from '@stellin/core/lookalikes/look';
import type { Database } from '../database/database';
import { sightSql } from '../catalogue/sightSql';
import type { Viewer } from '../catalogue/viewer';

const UNMEASURED = `from photo p left join photo_look l on l.photo_id = p.id and l.recipe = ${LOOKS_BY} where p.preview_version > 0 and p.preview_state = 1 and l.photo_id is null`;

/** A photo, and the version of the preview that is kept of it. */
export interface KeptPreview {
  id: number;
  version: number;
}

/** Photos with a preview that nobody has measured, behind one by id. */
export function unmeasured(database: Database, after: number, limit: number): Promise<KeptPreview[]> {
  return database.rows<KeptPreview>(
    `select p.id, p.preview_version as version ${UNMEASURED} and p.id > $1 order by p.id limit $2`,
    [after, limit],
  );
}

export async function countUnmeasured(database: Database): Promise<number> {
  const row = await database.row<{ photos: number }>(`select count(*)::int as photos ${UNMEASURED}`);
  return row?.photos ?? 0;
}

/** Has the previews of photos made again that are not there any more; one that was made meanwhile stays. */
export async function wantPreviews(database: Database, gone: readonly KeptPreview[]): Promise<void> {
  if (gone.length === 0) return;
  await database.rows(
    `update photo p set preview_state = 0 from jsonb_to_recordset($1::jsonb) as r (id int, version int)
     where p.id = r.id and p.preview_version = r.version`,
    [JSON.stringify(gone)],
  );
}

/** Of some photos those that exist for somebody. */
export async function existing(database: Database, ids: readonly number[], { sight }: Viewer): Promise<number[]> {
  const seen = sightSql(sight, [ids]);
  const rows = await database.rows<{ id: number }>(
    `select p.id from photo p where p.id = any($1::int[]) and ${seen.sql}`,
    seen.bind,
  );
  return rows.map(({ id }) => id);
}

/** The version of the preview of a photo that exists for somebody; undefined where it does not. */
export async function previewSeen(database: Database, photoId: number, { sight }: Viewer): Promise<number | undefined> {
  const seen = sightSql(sight, [photoId]);
  const row = await database.row<{ version: number }>(
    `select p.preview_version as version from photo p where p.id = $1 and ${seen.sql}`,
    seen.bind,
  );
  return row?.version;
}

/** A photo as bursts are told by it. */
export interface BurstRow {
  id: number;
  camera: string;
  /** Local time with fractions as the camera wrote it; null where the second is not known. */
  takenAt: string | null;
  look: Buffer | null;
  sharpness: number | null;
  /** It has a preview that was not measured yet. */
  waits: boolean;
}

/** Some photos, of those that exist for somebody. */
export function burstRows(database: Database, ids: readonly number[], { sight }: Viewer): Promise<BurstRow[]> {
  const seen = sightSql(sight, [ids]);
  return database.rows<BurstRow>(
    `select p.id, t.camera_folded as camera,
       case when p.taken_until is null then to_char(p.taken_at, 'YYYY-MM-DD"T"HH24:MI:SS') || coalesce('.' || (t.facts ->> 'subSeconds'), '') end as "takenAt",
       l.look, l.sharpness, l.photo_id is null and p.preview_version > 0 and p.preview_state = 1 as waits
     from photo p join photo_text t on t.photo_id = p.id left join photo_look l on l.photo_id = p.id and l.recipe = ${LOOKS_BY}
     where p.id = any($1::int[]) and p.shown and ${seen.sql}`,
    seen.bind,
  );
}
