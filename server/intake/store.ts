import type { Accession } from '@stellin/contract/intake';
import { isoSql, type Database, type Transaction } from '../database/database';
import type { PhotoRecord } from './record';

export interface KnownFile {
  id: number;
  name: string;
  mtimeMs: number;
  sizeBytes: number;
  sidecarMtimeMs: number | null;
}

/** The accession of a job, made if this is its first run. */
export async function ensureAccession(
  database: Database,
  accession: { jobId: string; driveId: string; folder: string; accountId: number | null },
): Promise<number> {
  const known = await database.row<{ id: number }>('select id from accession where job_id = $1', [accession.jobId]);
  if (known) return known.id;
  const row = await database.row<{ id: number }>(
    'insert into accession (drive_id, folder, account_id, job_id) values ($1, $2, $3, $4) returning id',
    [accession.driveId, accession.folder, accession.accountId, accession.jobId],
  );
  if (!row) throw new Error('the accession was not kept');
  return row.id;
}

export async function finishAccession(database: Database, id: number): Promise<Accession | undefined> {
  await database.rows('update accession set finished_at = now() where id = $1', [id]);
  return (await listAccessions(database)).find((accession) => accession.id === id);
}

export async function listAccessions(database: Database): Promise<Accession[]> {
  return database.rows<Accession>(
    `select c.id, d.label as "driveLabel", c.folder, coalesce(a.display_name, 'Stellin') as by,
       ${isoSql('c.started_at')} as "startedAt", ${isoSql('c.finished_at')} as "finishedAt",
       c.photos_new as "photosNew", c.photos_changed as "photosChanged", c.job_id as "jobId",
       (select count(*)::int from photo p where p.accession_id = c.id and p.damaged) as damaged,
       (select count(*)::int from job_failure f where f.job_id = c.job_id) as failures
     from accession c join drive d on d.id = c.drive_id left join account a on a.id = c.account_id
     order by c.id desc limit 200`,
  );
}

/** The id of a folder, made with the folders above it where they are not known yet. */
export async function ensureFolder(database: Database, driveId: string, path: string): Promise<number> {
  const known = await database.row<{ id: number }>('select id from folder where drive_id = $1 and path = $2', [
    driveId,
    path,
  ]);
  if (known) return known.id;
  const slash = path.lastIndexOf('/');
  const parent = path === '' ? null : await ensureFolder(database, driveId, path.slice(0, Math.max(0, slash)));
  const row = await database.row<{ id: number }>(
    `insert into folder (drive_id, parent_id, name, path) values ($1, $2, $3, $4)
     on conflict (drive_id, path) do update set name = excluded.name returning id`,
    [driveId, parent, path.slice(slash + 1), path],
  );
  if (!row) throw new Error(`the folder ${path} was not kept`);
  return row.id;
}

export async function knownFiles(database: Database, folderId: number): Promise<KnownFile[]> {
  return database.rows<KnownFile>(
    'select id, name, mtime_ms as "mtimeMs", size_bytes::float8 as "sizeBytes", sidecar_mtime_ms as "sidecarMtimeMs" from photo where folder_id = $1',
    [folderId],
  );
}

const PHOTO_COLUMNS = [
  'folder_id',
  'name',
  'kind',
  'size_bytes',
  'mtime_ms',
  'sidecar_mtime_ms',
  'width',
  'height',
  'orientation',
  'taken_at',
  'damaged',
  'has_caption',
  'has_people',
  'has_location',
];
const TEXT_COLUMNS = [
  'caption',
  'fields',
  'fields_folded',
  'facts',
  'issues',
  'disagreements',
  'name_folded',
  'caption_folded',
  'camera_folded',
  'words',
];
const RECORD_TYPE = `(folder_id int, name text, kind text, size_bytes bigint, mtime_ms float8, sidecar_mtime_ms float8, width int, height int,
  orientation smallint, taken_at timestamp, rating smallint, damaged boolean, has_caption boolean, has_people boolean, has_location boolean,
  caption text, fields jsonb, fields_folded jsonb, facts jsonb, issues jsonb, disagreements jsonb, name_folded text, caption_folded text, camera_folded text,
  words tsvector, keywords jsonb)`;

/**
 * Writes a batch of records. A file that was known and has changed keeps what was said of it here: a rating changed only
 * in the catalogue stays, one changed only in the file is taken. Without an accession the files are known to hold the
 * same pictures as before. Returns the ids of all, in one transaction.
 */
export async function saveRecords(
  database: Database,
  driveId: string,
  accessionId: number | null,
  records: readonly PhotoRecord[],
  tx: Transaction,
): Promise<number[]> {
  const json = JSON.stringify(records);
  const saved = await database.rows<{ id: number; fresh: boolean }>(
    `insert into photo (drive_id, accession_id, rating, rating_written, ${PHOTO_COLUMNS.join(', ')})
     select $2, $3, r.rating, r.rating, ${PHOTO_COLUMNS.map((column) => `r.${column}`).join(', ')}
     from jsonb_to_recordset($1::jsonb) as r ${RECORD_TYPE}
     on conflict (folder_id, name) do update set
       rating = case when photo.rating = photo.rating_written then excluded.rating else photo.rating end,
       rating_written = excluded.rating, preview_state = case when $3::int is null then photo.preview_state else 0 end,
       ${PHOTO_COLUMNS.map((column) => `${column} = excluded.${column}`).join(', ')}
     returning id, (xmax = 0) as fresh`,
    [json, driveId, accessionId],
    tx,
  );
  await database.rows(
    `insert into photo_text (photo_id, ${TEXT_COLUMNS.join(', ')})
     select p.id, ${TEXT_COLUMNS.map((column) => `r.${column}`).join(', ')}
     from jsonb_to_recordset($1::jsonb) as r ${RECORD_TYPE} join photo p on p.folder_id = r.folder_id and p.name = r.name
     on conflict (photo_id) do update set ${TEXT_COLUMNS.map((column) => `${column} = excluded.${column}`).join(', ')}`,
    [json],
    tx,
  );
  const ids = saved.map(({ id }) => id);
  await replaceKeywords(database, json, ids, tx);
  const fresh = saved.filter((row) => row.fresh).length;
  await database.rows(
    'update accession set photos_new = photos_new + $2, photos_changed = photos_changed + $3 where id = $1',
    [accessionId, fresh, saved.length - fresh],
    tx,
  );
  return ids;
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
     cross join jsonb_to_recordset(r.keywords) as k (keyword text, folded text, position int))`;
  await database.rows('delete from photo_keyword where photo_id = any($1)', [ids], tx);
  await database.rows(
    `delete from written_keyword w where w.photo_id = any($2)
       and not exists (select 1 from ${inFiles} f where f.photo_id = w.photo_id and f.keyword = w.keyword)`,
    [json, ids],
    tx,
  );
  await database.rows(
    `insert into photo_keyword (photo_id, keyword, folded, position) select f.photo_id, f.keyword, f.folded, f.position from ${inFiles} f
     where not exists (select 1 from written_keyword w where w.photo_id = f.photo_id and w.keyword = f.keyword)`,
    [json],
    tx,
  );
}

export interface PreviewTask {
  id: number;
  path: string;
  version: number;
}

/** Photos of a drive without a preview, the next few by id. */
export async function previewTasks(
  database: Database,
  driveId: string,
  after: number,
  limit: number,
): Promise<PreviewTask[]> {
  return database.rows<PreviewTask>(
    `select p.id, ltrim(f.path || '/' || p.name, '/') as path, p.preview_version as version
     from photo p join folder f on f.id = p.folder_id
     where p.drive_id = $1 and p.preview_state = 0 and p.id > $2 order by p.id limit $3`,
    [driveId, after, limit],
  );
}

export async function countPreviewTasks(database: Database, driveId: string): Promise<number> {
  const row = await database.row<{ count: number }>(
    'select count(*)::int as count from photo where drive_id = $1 and preview_state = 0',
    [driveId],
  );
  return row?.count ?? 0;
}

/** Notes previews made, and photos of which none can be made. */
export async function notePreviews(
  database: Database,
  results: readonly { id: number; placeholder: string | null; whole: boolean; issue: string | null }[],
): Promise<void> {
  await database.transaction(async (tx) => {
    const json = JSON.stringify(results);
    const type = '(id int, placeholder text, whole boolean, issue text)';
    await database.rows(
      `update photo p set preview_state = case when r.placeholder is null then 2 else 1 end,
         preview_version = case when r.placeholder is null then 0 else p.preview_version + 1 end, damaged = p.damaged or not r.whole
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
  });
}
