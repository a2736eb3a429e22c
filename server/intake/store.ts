// The SQL of taking in: accessions, folders, records of files, previews.

import type { MeasuredPreview } from '../files/preview';
import type { Accession } from '@stellin/contract/intake';
import type { FileHashes } from '@stellin/core/fixity/states';
import { mergeRecords, type ReadingMode } from '../catalogue/merging';
import type { FileKind } from '@stellin/core/metadata/containers/index';
import type { Bind, Database, Transaction } from '../database/database';
import { isoSql } from '../database/isoSql';
import { noteFindings } from '../catalogue/fixity';
import { noteLooks } from '../catalogue/looks';
import { READ_COLUMNS, RECORD_TYPE, TEXT_COLUMNS } from '../catalogue/photoColumns';

export interface KnownFile {
  id: number;
  name: string;
  mtimeMs: number;
  sizeBytes: number;
  sidecarMtimeMs: number | null;
  missing: boolean;
}

/** The accession of a job, made if this is its first run. */
export async function ensureAccession(
  database: Database,
  accession: {
    jobId: string;
    driveId: string;
    folder: string;
    subFolders: boolean;
    accountId: number | null;
    source: string;
  },
): Promise<number> {
  const known = await database.row<{ id: number }>('select id from accession where job_id = $1', [accession.jobId]);
  if (known) return known.id;
  const row = await database.row<{ id: number }>(
    'insert into accession (drive_id, folder, account_id, job_id, sub_folders, source) values ($1, $2, $3, $4, $5, $6) returning id',
    [accession.driveId, accession.folder, accession.accountId, accession.jobId, accession.subFolders, accession.source],
  );
  if (!row) throw new Error('the accession was not kept');
  return row.id;
}

/** Ends an accession. With `quiet` it is kept only if something happened in it. */
export async function finishAccession(database: Database, id: number, quiet: boolean): Promise<Accession | undefined> {
  await database.rows('update accession set finished_at = now() where id = $1', [id]);
  const [accession] = await accessions(database, 'where c.id = $1', [id]);
  if (quiet && accession && isEmpty(accession)) await database.rows('delete from accession where id = $1', [id]);
  return accession;
}

function isEmpty(accession: Accession): boolean {
  const { photosNew, photosChanged, photosMoved, photosMissing, photosReturned, failures } = accession;
  return photosNew + photosChanged + photosMoved + photosMissing + photosReturned + failures === 0;
}

const ACCESSIONS_LISTED = 200;

export function listAccessions(database: Database): Promise<Accession[]> {
  return accessions(database, `order by c.id desc limit ${ACCESSIONS_LISTED}`, []);
}

/** Accessions, by a condition or order. */
function accessions(database: Database, which: string, bind: Bind): Promise<Accession[]> {
  return database.rows<Accession>(
    `select c.id, coalesce(o.number, '') as number, coalesce(o.donor, '') as donor, d.label as "driveLabel", c.folder, c.source, coalesce(a.display_name, 'Stellin') as by,
       ${isoSql('c.started_at')} as "startedAt", ${isoSql('c.finished_at')} as "finishedAt",
       c.photos_new as "photosNew", c.photos_changed as "photosChanged", c.photos_moved as "photosMoved",
       c.photos_missing as "photosMissing", c.photos_returned as "photosReturned", c.pictures_changed as "picturesChanged",
       c.job_id as "jobId",
       (select count(*)::int from photo p join photo_text t on t.photo_id = p.id where p.accession_id = c.id and p.shown and t.disagreements <> '[]') as disagreeing,
       (select count(*)::int from photo p where p.accession_id = c.id and p.shown and p.damaged) as damaged,
       (select count(*)::int from job_failure f where f.job_id = c.job_id) as failures
     from accession c join drive d on d.id = c.drive_id left join account a on a.id = c.account_id
     left join provenance o on o.accession_id = c.id ${which}`,
    bind,
  );
}

/** What a job could not do. */
export async function failedSubjects(database: Database, jobId: string): Promise<string[]> {
  const rows = await database.rows<{ subject: string }>('select subject from job_failure where job_id = $1', [jobId]);
  return rows.map(({ subject }) => subject);
}

export async function knownFiles(database: Database, folderId: number): Promise<KnownFile[]> {
  return database.rows<KnownFile>(
    `select id, name, mtime_ms as "mtimeMs", size_bytes::float8 as "sizeBytes", sidecar_mtime_ms as "sidecarMtimeMs", missing_since is not null as missing
     from photo where folder_id = $1`,
    [folderId],
  );
}

const TEXT_NAMES = Object.keys(TEXT_COLUMNS);

/**
 * Writes a batch of records, each as JSON. A file that was known and has changed keeps what was said of it here: what only
 * the catalogue changed stays, what only the file changed is taken. Without an accession the files are known to hold the
 * same pictures as before; `moved` of them were known at another place. Returns the ids of all, in one transaction.
 */
export async function saveRecords(
  database: Database,
  driveId: string,
  accessionId: number | null,
  records: readonly string[],
  tx: Transaction,
  { moved = 0, mode = 'merge' }: { moved?: number; mode?: ReadingMode } = {},
): Promise<number[]> {
  const json = `[${(await mergeRecords(database, driveId, records, mode, tx)).join(',')}]`;
  const stays = mode === 'catalogue' ? 'true or' : '';
  const saved = await database.rows<{ id: number; fresh: boolean }>(
    `with r as materialized (select * from jsonb_to_recordset($1::jsonb) as r ${RECORD_TYPE}),
     saved as (
       insert into photo (drive_id, accession_id, rating, rating_written, mark, mark_written, mark_folded, ${READ_COLUMNS.join(', ')})
       select $2, $3, r.rating, r.rating, r.mark, r.mark, r.mark_folded, ${READ_COLUMNS.map((column) => `r.${column}`).join(', ')} from r
       on conflict (folder_id, name) do update set
         rating = case when ${stays} photo.rating <> photo.rating_written then photo.rating else excluded.rating end,
         mark = case when ${stays} photo.mark <> photo.mark_written then photo.mark else excluded.mark end,
         mark_folded = case when ${stays} photo.mark <> photo.mark_written then photo.mark_folded else excluded.mark_folded end,
         mark_written = excluded.mark, rating_written = excluded.rating, missing_since = null, preview_state = case when $3::int is null then photo.preview_state else 0 end,
         ${READ_COLUMNS.map((column) => `${column} = excluded.${column}`).join(', ')}
       returning id, folder_id, name, (xmax = 0) as fresh),
     texts as (
       insert into photo_text (photo_id, ${TEXT_NAMES.join(', ')})
       select saved.id, ${TEXT_NAMES.map((column) => `r.${column}`).join(', ')} from r join saved using (folder_id, name)
       on conflict (photo_id) do update set ${TEXT_NAMES.map((column) => `${column} = excluded.${column}`).join(', ')}),
     keywords as (
       insert into photo_keyword (photo_id, keyword, folded, position)
       select saved.id, k.keyword, k.folded, k.position from r join saved using (folder_id, name)
       cross join jsonb_to_recordset(r.keywords) as k (keyword text, folded text, position int) where saved.fresh)
     select id, fresh from saved`,
    [json, driveId, accessionId],
    tx,
  );
  const ids = saved.map(({ id }) => id);
  const known = saved.flatMap(({ id, fresh }) => (fresh ? [] : [id]));
  if (known.length > 0) await replaceKeywords(database, json, known, tx);
  if (accessionId !== null) {
    const fresh = saved.filter((row) => row.fresh).length;
    await countPhotos(database, accessionId, { new: fresh, changed: saved.length - fresh - moved, moved }, tx);
  }
  return ids;
}

const COUNTS = {
  new: 'photos_new',
  changed: 'photos_changed',
  moved: 'photos_moved',
  missing: 'photos_missing',
  returned: 'photos_returned',
  pictures: 'pictures_changed',
} as const;

/** Adds to the counts of an accession; numbers may be negative. */
export async function countPhotos(
  database: Database,
  accessionId: number,
  counts: Partial<Record<keyof typeof COUNTS, number>>,
  tx?: Transaction,
): Promise<void> {
  const names = Object.keys(counts) as (keyof typeof COUNTS)[];
  await database.rows(
    `update accession set ${names.map((name, i) => `${COUNTS[name]} = ${COUNTS[name]} + $${i + 2}`).join(', ')} where id = $1`,
    [accessionId, ...names.map((name) => counts[name])],
    tx,
  );
}

/** Keywords that our own last write put into the file for its terms are no free keywords; those the file has lost are no longer written. */
async function replaceKeywords(
  database: Database,
  json: string,
  ids: readonly number[],
  tx: Transaction,
): Promise<void> {
  const inFiles = `(select p.id as photo_id, k.keyword, k.folded, k.position
     from jsonb_to_recordset($1::jsonb) as r ${RECORD_TYPE} join photo p on p.folder_id = r.folder_id and p.name = r.name
     cross join jsonb_to_recordset(r.keywords) as k (keyword text, folded text, position int) where p.id = any($2))`;
  await database.rows('delete from photo_keyword where photo_id = any($1) and in_file', [ids], tx);
  await database.rows(
    `delete from written_keyword w where w.photo_id = any($2)
       and not exists (select 1 from ${inFiles} f where f.photo_id = w.photo_id and f.keyword = w.keyword)`,
    [json, ids],
    tx,
  );
  await database.rows(
    `insert into photo_keyword (photo_id, keyword, folded, position) select f.photo_id, f.keyword, f.folded, f.position from ${inFiles} f
     where not exists (select 1 from written_keyword w where w.photo_id = f.photo_id and w.keyword = f.keyword)
     on conflict (photo_id, keyword) do update set in_file = true, position = excluded.position`,
    [json, ids],
    tx,
  );
}

/** A photo whose picture has not been looked at since its file was read. */
export interface PictureTask {
  id: number;
  path: string;
  kind: FileKind;
  version: number;
  /** How it is to be seen, and how its preview shows it. */
  orientation: number;
  shownAs: number;
  /** Of a film the second that its preview is to show; null: one that is found. */
  poster: number | null;
  /** Of the picture as it was last looked at. */
  hash: Buffer | null;
  /** The SHA-256 that its file should have; null: it was not read yet. */
  known: string | null;
}

const PREVIEW_WANTED = 'p.preview_state = 0 and p.missing_since is null';

/** Photos of a drive whose picture is to be looked at, the next few by id. */
export async function pictureTasks(
  database: Database,
  driveId: string,
  after: number,
  limit: number,
): Promise<PictureTask[]> {
  return database.rows<PictureTask>(
    `select p.id, ltrim(f.path || '/' || p.name, '/') as path, p.kind, p.preview_version as version, p.orientation, p.preview_orientation as "shownAs", p.poster, p.picture_hash as hash,
       encode(x.sha256, 'hex') as known
     from photo p join folder f on f.id = p.folder_id left join photo_fixity x on x.photo_id = p.id
     where p.drive_id = $1 and ${PREVIEW_WANTED} and p.id > $2 order by p.id limit $3`,
    [driveId, after, limit],
  );
}

export async function countPictureTasks(database: Database, driveId: string): Promise<number> {
  const row = await database.row<{ count: number }>(
    `select count(*)::int as count from photo p where drive_id = $1 and ${PREVIEW_WANTED}`,
    [driveId],
  );
  return row?.count ?? 0;
}

/** A preview as it is noted; see MadePreview. */
export interface NotedPreview extends MeasuredPreview {
  placeholder: string;
  likeness: string;
}

/** What was found of a picture. */
export interface PictureResult {
  id: number;
  /** What its file holds; null when it could not be read. */
  hashes: FileHashes | null;
  /** The SHA-256 that its file should have, as it was known before it was read. */
  known: string | null;
  /** How the preview shows it, and of a film which second. */
  orientation: number;
  poster: number | null;
  /** Null when no preview can be made; undefined when the one there is stays. */
  preview: NotedPreview | null | undefined;
  whole: boolean;
  issue: string | null;
}

/** Notes what was found of pictures: their hashes, previews made, and those of which none can be made. */
export async function notePictures(database: Database, results: readonly PictureResult[]): Promise<void> {
  if (results.length === 0) return;
  const json = JSON.stringify(
    results.map(({ preview, hashes, id, orientation, poster, whole, issue }) => ({
      ...{ id, orientation, poster, whole, issue, hash: hashes?.picture ?? null },
      kept: preview === undefined,
      placeholder: preview?.placeholder ?? null,
      likeness: preview?.likeness ?? null,
    })),
  );
  const type =
    '(id int, orientation smallint, poster float8, hash text, kept boolean, placeholder text, likeness bigint, whole boolean, issue text)';
  await database.transaction(async (tx) => {
    await database.rows(
      `update photo p set picture_hash = coalesce(decode(r.hash, 'hex'), p.picture_hash),
         preview_state = case when r.kept or r.placeholder is not null then 1 else 2 end,
         preview_version = case when r.kept then p.preview_version when r.placeholder is null then 0 else p.preview_version + 1 end,
         preview_orientation = case when r.kept then p.preview_orientation else r.orientation end,
         preview_poster = case when r.kept then p.preview_poster else r.poster end,
         likeness = case when r.kept then p.likeness else r.likeness end, damaged = p.damaged or not r.whole
       from jsonb_to_recordset($1::jsonb) as r ${type} where p.id = r.id`,
      [json],
      tx,
    );
    await database.rows(
      `insert into photo_preview (photo_id, placeholder) select r.id, r.placeholder from jsonb_to_recordset($1::jsonb) as r ${type} where r.placeholder is not null
       on conflict (photo_id) do update set placeholder = excluded.placeholder`,
      [json],
      tx,
    );
    await database.rows(
      `update photo_text t set issues = t.issues || to_jsonb(r.issue) from jsonb_to_recordset($1::jsonb) as r ${type}
       where t.photo_id = r.id and r.issue is not null and not t.issues ? r.issue`,
      [json],
      tx,
    );
    await noteLooks(
      database,
      results.flatMap(({ id, preview }) => (preview ? [{ id, ...preview }] : [])),
      tx,
    );
    const findings = results.map(({ id, hashes, known }) => ({ photoId: id, found: hashes, expected: known }));
    await noteFindings(
      database,
      findings.filter(({ found }) => found !== null),
      tx,
    );
  });
}

/** What making the preview of a photo needs, and how far it is. */
export function findPictureTask(
  database: Database,
  photoId: number,
): Promise<(PictureTask & { state: number; mountPoint: string | null; missing: boolean }) | undefined> {
  return database.row<PictureTask & { state: number; mountPoint: string | null; missing: boolean }>(
    `select p.id, p.preview_state as state, p.preview_version as version, p.orientation, p.preview_orientation as "shownAs", p.poster, p.kind, p.picture_hash as hash,
         p.missing_since is not null as missing,
         case when d.attached then d.mount_point end as "mountPoint", ltrim(f.path || '/' || p.name, '/') as path
       from photo p join folder f on f.id = p.folder_id join drive d on d.id = p.drive_id
       left join photo_fixity x on x.photo_id = p.id where p.id = $1`,
    [photoId],
  );
}

/** A photo that was turned, whose preview shows it as before. */
export interface TurnedPhoto extends Pick<PictureTask, 'id' | 'version' | 'orientation' | 'shownAs' | 'poster'> {
  faces: number[];
}

/** A film whose preview shows another picture than the one that was chosen; its drive is attached. */
export interface PosterTask extends Pick<PictureTask, 'id' | 'version' | 'orientation' | 'poster' | 'kind' | 'path'> {
  mountPoint: string;
}

/** Some of them, behind one by id. */
export function posterTasks(database: Database, after: number, limit: number): Promise<PosterTask[]> {
  return database.rows<PosterTask>(
    `select p.id, p.preview_version as version, p.orientation, p.poster, p.kind, d.mount_point as "mountPoint", ltrim(f.path || '/' || p.name, '/') as path
     from photo p join folder f on f.id = p.folder_id join drive d on d.id = p.drive_id
     where p.poster is distinct from p.preview_poster and p.preview_version > 0 and d.attached and p.missing_since is null and p.id > $1
     order by p.id limit $2`,
    [after, limit],
  );
}

/** Some of the photos that were turned since their preview was made, behind one by id. */
export function turnedPhotos(database: Database, after: number, limit: number): Promise<TurnedPhoto[]> {
  return database.rows<TurnedPhoto>(
    `select p.id, p.preview_version as version, p.orientation, p.preview_orientation as "shownAs", p.preview_poster as poster,
       array(select f.id from face f where f.photo_id = p.id) as faces
     from photo p where p.preview_orientation <> p.orientation and p.preview_version > 0 and p.preview_state = 1 and p.id > $1
     order by p.id limit $2`,
    [after, limit],
  );
}

/** What a preview is noted by that was made of the one there was, or shows another picture of a film. */
export interface NotedRemake extends NotedPreview {
  id: number;
  /** Of the preview that it takes the place of. */
  version: number;
  orientation: number;
  poster: number | null;
}

/** Notes previews that took the place of others, and which are gone and to be made anew; gives those whose preview was still the one before. */
export function noteRemade(
  database: Database,
  remade: readonly NotedRemake[],
  gone: readonly number[],
): Promise<ReadonlySet<number>> {
  return database.transaction(async (tx) => {
    await database.rows(
      'update photo set preview_state = 0, preview_orientation = orientation where id = any($1)',
      [gone],
      tx,
    );
    const noted = await database.rows<{ id: number }>(
      `with remade as (
           select * from jsonb_to_recordset($1::jsonb) as r (id int, version int, orientation smallint, poster float8, likeness bigint, placeholder text)),
         noted as (
           update photo p set preview_version = p.preview_version + 1, preview_orientation = r.orientation, preview_poster = r.poster, likeness = r.likeness
           from remade r where p.id = r.id and p.preview_version = r.version returning p.id),
         shown as (
           update photo_preview v set placeholder = r.placeholder from remade r join noted using (id) where v.photo_id = r.id)
       select id from noted`,
      [JSON.stringify(remade)],
      tx,
    );
    const ids = new Set(noted.map(({ id }) => id));
    await noteLooks(
      database,
      remade.filter(({ id }) => ids.has(id)),
      tx,
    );
    return ids;
  });
}
