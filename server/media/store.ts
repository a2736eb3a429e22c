// The tables’ side of films and sounds.

import { kindsWhere, TIMED_KINDS, type FileKind } from '@stellin/core/metadata/containers/index';
import type { FieldValue } from '@stellin/core/metadata/fields';
import type { MediaFacts } from '@stellin/core/metadata/probed';
import type { Database } from '../database/database';

export interface MediaRow {
  id: number;
  kind: FileKind;
  /** Of what is made of the file. */
  version: number;
  /** The second whose picture stands for it; null: none was chosen. */
  poster: number | null;
  missing: boolean;
  drive: string;
  driveId: string;
  /** Null while the drive is away. */
  mountPoint: string | null;
  /** Below it. */
  path: string;
  facts: MediaFacts;
  folderId: number;
  name: string;
}

/** One that was taken in before anything was known of such files, or while the program that knows them was missing. */
export type UntoldRow = MediaRow & { isTold: boolean };

/** Of which nothing is known are read together: so many that nobody waits long for them. */
const ROWS_PER_READ = 50;

const COLUMNS = `p.id, p.kind, p.preview_version as version, p.poster, p.missing_since is not null as missing, d.label as drive, d.id as "driveId",
  case when d.attached then d.mount_point end as "mountPoint", ltrim(f.path || '/' || p.name, '/') as path,
  coalesce(t.facts, '{}') as facts, p.folder_id as "folderId", p.name`;
const FROM = `from photo p join folder f on f.id = p.folder_id join drive d on d.id = p.drive_id left join photo_text t on t.photo_id = p.id`;
const DOCUMENTS = kindsWhere(({ media }) => media === 'document');

/** A film or sound; undefined where there is none of that number. */
export function findMedia(database: Database, photoId: number): Promise<MediaRow | undefined> {
  return database.row<MediaRow>(`select ${COLUMNS} ${FROM} where p.id = $1 and p.kind = any($2::text[])`, [
    photoId,
    TIMED_KINDS,
  ]);
}

/** What is said of the stretches of a film or sound. */
export async function stretchesField(database: Database, photoId: number): Promise<FieldValue | undefined> {
  const row = await database.row<{ stretches: FieldValue | null }>(
    `select fields -> 'stretches' as stretches from photo_text where photo_id = $1`,
    [photoId],
  );
  return row?.stretches ?? undefined;
}

/** A film or sound with its stretches. */
export interface StretchedRow {
  id: number;
  name: string;
  kind: FileKind;
  version: number;
  duration: number | null;
  stretches: FieldValue;
}

/** Those of some photos that have stretches, in the order of their numbers here. */
export function stretchedMedia(database: Database, photoIds: readonly number[]): Promise<StretchedRow[]> {
  return database.rows<StretchedRow>(
    `select p.id, p.name, p.kind, p.preview_version as version, (t.facts ->> 'duration')::float8 as duration, t.fields -> 'stretches' as stretches
     from unnest($1::int[]) with ordinality found (id, place) join photo p on p.id = found.id join photo_text t on t.photo_id = p.id
     where p.kind = any($2::text[]) and t.fields ? 'stretches' order by found.place`,
    [photoIds, TIMED_KINDS],
  );
}

/** Films, sounds and documents on drives that are attached, behind one by number. */
export function attachedMedia(database: Database, after: number): Promise<UntoldRow[]> {
  return database.rows<UntoldRow>(
    `select ${COLUMNS}, coalesce(t.facts ?| array['container', 'pages'] or t.issues::text like '%could not be read%', false) as "isTold" ${FROM}
     where p.kind = any($1::text[]) and p.id > $2 and p.shown and p.missing_since is null and d.attached
     order by p.id limit ${ROWS_PER_READ}`,
    [[...TIMED_KINDS, ...DOCUMENTS], after],
  );
}

/** How many there are. */
export async function countAttachedMedia(database: Database): Promise<number> {
  const row = await database.row<{ photos: number }>(
    `select count(*)::int as photos from photo p join drive d on d.id = p.drive_id
     where p.kind = any($1::text[]) and p.shown and p.missing_since is null and d.attached`,
    [[...TIMED_KINDS, ...DOCUMENTS]],
  );
  return row?.photos ?? 0;
}
