// The tables’ side of large pictures.

import type { Database } from '../database/database';
import type { FileKind } from '@stellin/core/metadata/containers/index';

/** Names of the large pictures that are kept for drives which are browsed while away, of some photos. */
export function namesKeptAway(database: Database, photoIds: readonly number[]): Promise<{ name: string }[]> {
  return database.rows<{ name: string }>(
    `select p.id || '-' || p.preview_version || '.webp' as name from photo p join drive d on d.id = p.drive_id
       where d.browse_away and p.id = any($1)`,
    [photoIds],
  );
}

/** What making the large picture of a photo needs. */
export function findLarge(database: Database, photoId: number): Promise<LargeRow | undefined> {
  return database.row<LargeRow>(`select ${ROW} where p.id = $1`, [photoId]);
}

/** Chooses whether a drive is browsed while it is away; undefined when there is none. */
export function setBrowseAway(
  database: Database,
  driveId: string,
  on: boolean,
): Promise<{ label: string; attached: boolean } | undefined> {
  return database.row<{ label: string; attached: boolean }>(
    'update drive set browse_away = $2 where id = $1 returning label, attached',
    [driveId, on],
  );
}

/** Photos of a drive that is browsed while away, behind one by id. */
export function largeOfDrive(database: Database, driveId: string, after: number): Promise<LargeRow[]> {
  return database.rows<LargeRow>(
    `select ${ROW} where p.drive_id = $1 and d.browse_away and p.shown and p.missing_since is null and p.preview_version > 0 and p.id > $2
           order by p.id limit ${PHOTOS_PER_PAGE}`,
    [driveId, after],
  );
}

/** How many photos of a drive have a preview. */
export async function countPictured(database: Database, driveId: string): Promise<number> {
  const row = await database.row<{ photos: number }>(
    'select count(*)::int as photos from photo where drive_id = $1 and shown and missing_since is null and preview_version > 0',
    [driveId],
  );
  return row?.photos ?? 0;
}

const PHOTOS_PER_PAGE = 200;

export interface LargeRow {
  id: number;
  version: number;
  kind: FileKind;
  orientation: number;
  /** Of a film the second whose picture stands for it. */
  poster: number | null;
  missing: boolean;
  drive: string;
  mountPoint: string | null;
  path: string;
}

const ROW = `p.id, p.preview_version as version, p.kind, p.orientation, p.poster, p.missing_since is not null as missing, d.label as drive,
  case when d.attached then d.mount_point end as "mountPoint", ltrim(f.path || '/' || p.name, '/') as path
  from photo p join folder f on f.id = p.folder_id join drive d on d.id = p.drive_id`;
