// The SQL of reading files again, and of damaged ones.

import { FIXITY_STATES } from '@stellin/core/fixity/states';
import { MOST_DAMAGED, type DamagedFile, type DriveFixity } from '@stellin/contract/fixity';
import { FIXITY_SQL } from '../catalogue/fixity';
import { alsoSeen } from '../catalogue/photoRow';
import { sightSql } from '../catalogue/sightSql';
import type { Viewer } from '../catalogue/viewer';
import type { Database, Transaction } from '../database/database';
import { isoSql } from '../database/isoSql';
import { recordPhotos } from '../ledger/recordStore';

/** A file to be read. */
export interface FileToProve {
  photoId: number;
  folderId: number;
  folder: string;
  name: string;
  sizeBytes: number;
  /** The SHA-256 it should have; null: it was never read. */
  known: string | null;
  /** The same of its sidecar; null: it had none. */
  sidecar: string | null;
}

const IN_REACH = 'p.missing_since is null and not p.removed';
const NOT_SINCE = '(x.proven_at is null or x.proven_at < $2::timestamptz)';

/** The next files of a drive that were not read since a moment (ISO 8601), by folder as they lie on the drive. */
export function nextToProve(
  database: Database,
  driveId: string,
  since: string,
  after: number,
  limit: number,
): Promise<FileToProve[]> {
  return database.rows<FileToProve>(
    `select p.id as "photoId", p.folder_id as "folderId", f.path as folder, p.name, p.size_bytes::float8 as "sizeBytes", encode(x.sha256, 'hex') as known, encode(x.sidecar_sha256, 'hex') as sidecar
     from photo p join folder f on f.id = p.folder_id left join photo_fixity x on x.photo_id = p.id and x.photo_id > $3
     where p.drive_id = $1 and ${IN_REACH} and ${NOT_SINCE} and p.id > $3 order by p.id limit $4`,
    [driveId, since, after, limit],
  );
}

/** How many files of a drive were not read since a moment, and their bytes. */
export async function countToProve(
  database: Database,
  driveId: string,
  since: string,
): Promise<{ files: number; bytes: number }> {
  const row = await database.row<{ files: number; bytes: number }>(
    `select count(*)::int as files, coalesce(sum(p.size_bytes), 0)::float8 as bytes
     from photo p left join photo_fixity x on x.photo_id = p.id where p.drive_id = $1 and ${IN_REACH} and ${NOT_SINCE}`,
    [driveId, since],
  );
  return row ?? { files: 0, bytes: 0 };
}

/** Attached drives with files that were not read since a moment. */
export function drivesToProve(database: Database, since: string): Promise<{ id: string; label: string }[]> {
  return database.rows(
    `select d.id, d.label from drive d where d.attached and exists (
       select 1 from photo p left join photo_fixity x on x.photo_id = p.id
       where p.drive_id = d.id and ${IN_REACH} and ${NOT_SINCE.replace('$2', '$1')}) order by d.label`,
    [since],
  );
}

/** Notes files that are not where they should be; returns how many. Those that have been moved meanwhile are left out. */
export async function noteMissing(database: Database, files: readonly FileToProve[], tx: Transaction): Promise<number> {
  if (files.length === 0) return 0;
  const rows = await database.rows(
    `update photo p set missing_since = now() from unnest($1::int[], $2::int[], $3::text[]) as r (id, folder, name)
     where p.id = r.id and p.folder_id = r.folder and p.name = r.name and p.missing_since is null returning p.id`,
    [files.map(({ photoId }) => photoId), files.map(({ folderId }) => folderId), files.map(({ name }) => name)],
    tx,
  );
  return rows.length;
}

/** By drive what is known of its files. */
export function fixityByDrive(database: Database, { sight }: Viewer): Promise<DriveFixity[]> {
  const seen = sightSql(sight);
  const count = (state: string) => `count(*) filter (where s.state = '${state}')::int as ${state}`;
  return database.rows<DriveFixity>(
    `select d.id, d.label, not d.attached as away, count(*)::int as photos, ${['unread', 'unchanged', 'ours', 'others', 'damaged', 'missing'].map(count).join(', ')},
       ${isoSql('min(s.proven)')} as oldest
     from (select p.drive_id, ${FIXITY_SQL} as state, x.proven_at as proven from photo p left join photo_fixity x on x.photo_id = p.id where not p.removed and ${seen.sql}) s
     join drive d on d.id = s.drive_id group by d.id order by d.label`,
    seen.bind,
  );
}

const PATH = (photo: string, folder: string, drive: string) =>
  `concat_ws('/', ${drive}.label, nullif(${folder}.path, ''), ${photo}.name)`;

/** Photos `o` whose file holds the picture that a damaged one (`x`) should. */
const COPIES = `photo o join folder of on of.id = o.folder_id join drive od on od.id = o.drive_id left join photo_fixity ox on ox.photo_id = o.id
  where o.id <> x.photo_id and not o.removed and o.missing_since is null and o.fixity <> 4
    and (ox.sha256 = x.sha256 or (x.picture_hash is not null and coalesce(ox.picture_hash, o.picture_hash) = x.picture_hash))`;

/** Damaged files, the first few by path, with their copies. */
export function damagedFiles(database: Database, { sight }: Viewer): Promise<DamagedFile[]> {
  const seen = sightSql(sight);
  return database.rows<DamagedFile>(
    `select p.id as "photoId", p.preview_version as "previewVersion", ${PATH('p', 'f', 'd')} as path, coalesce(x.problem, '') as problem, ${isoSql('x.proven_at')} as "provenAt",
       exists (select 1 from copy_back c where c.photo_id = p.id) as "comingBack", not d.attached as away,
       coalesce((select json_agg(json_build_object('photoId', o.id, 'path', ${PATH('o', 'of', 'od')}, 'away', not od.attached) order by od.attached desc, o.id)
         from ${COPIES}${alsoSeen('o', seen.sql)}), '[]') as copies
     from photo p join photo_fixity x on x.photo_id = p.id join folder f on f.id = p.folder_id join drive d on d.id = p.drive_id
     where p.fixity = 4 and not p.removed and ${seen.sql} order by d.label, f.path, p.name limit ${MOST_DAMAGED}`,
    seen.bind,
  );
}

/** Records that the file of a copy is to be put in the place of a damaged one; false when it is not damaged, or that is no copy of it. */
export async function recordCopyBack(
  database: Database,
  entryId: number,
  { photoId, copyId, kept }: { photoId: number; copyId: number; kept: string },
  tx: Transaction,
): Promise<boolean> {
  const isCopy = await database.row(
    `select 1 as is from photo p join photo_fixity x on x.photo_id = p.id where p.id = $1 and p.fixity = 4
       and not exists (select 1 from copy_back c where c.photo_id = p.id) and exists (select 1 from ${COPIES} and o.id = $2)`,
    [photoId, copyId],
    tx,
  );
  if (!isCopy) return false;
  const sql = `select p.id, 0, 'null'::jsonb, jsonb_build_object('drive', p.drive_id, 'from', $2::int, 'kept', $3::text) from photo p where p.id = $1`;
  await recordPhotos(database, entryId, 'copyBack', { sql, bind: [photoId, copyId, kept] }, tx);
  return true;
}

/** A damaged file in whose place a copy is put, or that comes back. */
export interface CopyBack {
  photoId: number;
  driveId: string;
  label: string;
  mountPoint: string | null;
  folderId: number;
  folder: string;
  name: string;
  /** The SHA-256 and the picture's hash that its file should have. */
  sha256: string;
  picture: string | null;
  /** The hidden folder in which the other file is kept, below the drive it was on then. */
  kept: string;
  keptDriveId: string;
  keptLabel: string;
  keptMountPoint: string | null;
  /** Whether a copy is put there; else the damaged file comes back. */
  copies: boolean;
  /** Where the copy stands; null where it is gone. */
  copy: { driveId: string; label: string; mountPoint: string | null; folder: string; name: string } | null;
}

export function copiesBack(database: Database, entryId: number): Promise<CopyBack[]> {
  return database.rows<CopyBack>(
    `select p.id as "photoId", d.id as "driveId", d.label, case when d.attached then d.mount_point end as "mountPoint", f.id as "folderId", f.path as folder, p.name,
       encode(x.sha256, 'hex') as sha256, encode(x.picture_hash, 'hex') as picture, c.kept, c.from_photo is not null as copies,
       kd.id as "keptDriveId", kd.label as "keptLabel", case when kd.attached then kd.mount_point end as "keptMountPoint",
       case when o.id is not null then json_build_object('driveId', od.id, 'label', od.label, 'mountPoint', case when od.attached then od.mount_point end, 'folder', of.path, 'name', o.name) end as copy
     from copy_back c join photo p on p.id = c.photo_id join photo_fixity x on x.photo_id = p.id
     join folder f on f.id = p.folder_id join drive d on d.id = p.drive_id
     join ledger_photo l on l.entry_id = c.entry_id and l.photo_id = p.id and l.aspect = 'copyBack'
     join drive kd on kd.id = (coalesce(nullif(l.after, 'null'), l.before) ->> 'drive')::uuid
     left join photo o on o.id = c.from_photo left join folder of on of.id = o.folder_id left join drive od on od.id = o.drive_id
     where c.entry_id = $1 order by p.id`,
    [entryId],
  );
}

/** Ends the putting back of some photos; `undone` forgets that it was ever meant. */
export async function endCopyBack(
  database: Database,
  entryId: number,
  photoIds: readonly number[],
  undone: boolean,
  tx: Transaction,
): Promise<void> {
  const bind = [entryId, photoIds];
  await database.rows('delete from copy_back where entry_id = $1 and photo_id = any($2)', bind, tx);
  if (undone)
    await database.rows(
      `with gone as (delete from ledger_photo where entry_id = $1 and photo_id = any($2) and aspect = 'copyBack' returning 1)
       update ledger_entry set photos = photos - (select count(*) from gone) where id = $1`,
      bind,
      tx,
    );
}

/** A file that was put in place is looked at again: its preview is made anew. */
export async function lookAgain(database: Database, photoIds: readonly number[], tx: Transaction): Promise<void> {
  await database.rows('update photo set preview_state = 0, damaged = false where id = any($1)', [photoIds], tx);
}

/** Entries of the ledger whose files are still to be put back and that no job is at. */
export function strandedCopies(
  database: Database,
  jobKind: string,
): Promise<{ id: number; title: string; accountId: number | null }[]> {
  return database.rows(
    `select distinct e.id, e.title, e.account_id as "accountId" from ledger_entry e join copy_back c on c.entry_id = e.id
     where not exists (select 1 from job_run j where j.kind = $1 and (j.parameters ->> 'entryId')::int = e.id)`,
    [jobKind],
  );
}

/** Forgets what jobs that were cancelled or have failed had not put back. */
export async function dropAbandonedCopies(database: Database, jobKind: string, tx: Transaction): Promise<void> {
  await database.rows(
    `with dropped as (
       delete from copy_back c using job_run j where j.kind = $1 and j.state in ('cancelled', 'failed')
         and (j.parameters ->> 'entryId')::int = c.entry_id returning c.entry_id, c.photo_id)
     delete from ledger_photo l using dropped x where l.entry_id = x.entry_id and l.photo_id = x.photo_id and l.aspect = 'copyBack'`,
    [jobKind],
    tx,
  );
}

export async function hasCopiesBack(database: Database, entryId: number): Promise<boolean> {
  return (await database.row('select 1 as is from copy_back where entry_id = $1 limit 1', [entryId])) !== undefined;
}

/** Where the file of a photo is, and the SHA-256 it should have. */
export function fileOfPhoto(
  database: Database,
  photoId: number,
): Promise<(FileToProve & { driveId: string }) | undefined> {
  return database.row(
    `select p.id as "photoId", p.folder_id as "folderId", f.path as folder, p.name, p.size_bytes::float8 as "sizeBytes", encode(x.sha256, 'hex') as known, encode(x.sidecar_sha256, 'hex') as sidecar,
       p.drive_id as "driveId" from photo p join folder f on f.id = p.folder_id left join photo_fixity x on x.photo_id = p.id where p.id = $1 and not p.removed`,
    [photoId],
  );
}

/** Forgets what a file should hold: the next reading says. */
export async function forgetKnown(database: Database, photoId: number, tx: Transaction): Promise<void> {
  await database.rows('delete from photo_fixity where photo_id = $1', [photoId], tx);
  await database.rows('update photo set fixity = 0 where id = $1', [photoId], tx);
}

/** A drive by its label, and where it is attached. */
export function driveNamed(
  database: Database,
  label: string,
): Promise<{ id: string; label: string; mountPoint: string | null } | undefined> {
  return database.row(
    `select id, label, case when attached then mount_point end as "mountPoint" from drive where label = $1 order by attached desc limit 1`,
    [label],
  );
}

const HASHES_PER_READ = 5000;

/** The files of a drive with the SHA-256 they should have, and their sidecars; many at a time. */
export async function* knownHashes(
  database: Database,
  driveId: string,
): AsyncGenerator<{ path: string; sha256: string; sidecar: string | null }[]> {
  for (let after = 0; ;) {
    const rows = await database.rows<{ id: number; path: string; sha256: string; sidecar: string | null }>(
      `select p.id, ltrim(f.path || '/' || p.name, '/') as path, encode(x.sha256, 'hex') as sha256, encode(x.sidecar_sha256, 'hex') as sidecar
       from photo p join photo_fixity x on x.photo_id = p.id join folder f on f.id = p.folder_id
       where p.drive_id = $1 and ${IN_REACH} and p.id > $2 order by p.id limit $3`,
      [driveId, after, HASHES_PER_READ],
    );
    if (rows.length === 0) return;
    yield rows;
    after = rows.at(-1)?.id ?? after;
  }
}

export async function countUnread(database: Database, driveId: string): Promise<number> {
  const row = await database.row<{ count: number }>(
    `select count(*)::int as count from photo p where p.drive_id = $1 and ${IN_REACH} and not exists (select 1 from photo_fixity x where x.photo_id = p.id)`,
    [driveId],
  );
  return row?.count ?? 0;
}

/** What somebody else says of a file; hashes are hexadecimal. */
export interface ExpectedFile {
  path: string;
  sha256: string;
  sidecar: string | null;
}

const PROBLEM_BEFORE = 'it is not what its manifest says, and was not when it was taken in';

/**
 * Notes what files of a drive should hold, by their paths, and says what became of each. One that was read and is as it was taken in
 * is damaged where it holds something else; one that was changed since stays as it is.
 */
export function expectHashes(
  database: Database,
  driveId: string,
  files: readonly ExpectedFile[],
  tx: Transaction,
): Promise<{ path: string; outcome: 'noted' | 'same' | 'damaged' | 'changed' | 'unknown' }[]> {
  const [unchanged, damaged] = [FIXITY_STATES.indexOf('unchanged'), FIXITY_STATES.indexOf('damaged')];
  return database.rows(
    `with given as materialized (select * from jsonb_to_recordset($2::jsonb) g (path text, sha256 text, sidecar text)),
       meant as materialized (
         select g.path, decode(g.sha256, 'hex') as sha256, decode(g.sidecar, 'hex') as sidecar, p.id,
           case when p.id is null then 'unknown' when x.photo_id is null then 'noted' when x.sha256 = decode(g.sha256, 'hex') then 'same'
             when p.fixity = $3 and not exists (select 1 from write_journal j where j.photo_id = p.id) then 'damaged' else 'changed' end as outcome
         from given g left join (photo p join folder f on f.id = p.folder_id and f.drive_id = $1)
           on ltrim(f.path || '/' || p.name, '/') = g.path left join photo_fixity x on x.photo_id = p.id),
       noted as (
         insert into photo_fixity (photo_id, sha256, sidecar_sha256, origin, proven_at)
         select id, sha256, sidecar, $3, to_timestamp(0) from meant where outcome = 'noted'),
       spoilt as (
         update photo_fixity x set sha256 = m.sha256, picture_hash = null, sidecar_sha256 = m.sidecar, problem = $5
         from meant m where m.outcome = 'damaged' and x.photo_id = m.id),
       marked as (update photo p set fixity = $4 from meant m where m.outcome = 'damaged' and p.id = m.id)
     select path, outcome from meant order by path`,
    [driveId, JSON.stringify(files), unchanged, damaged, PROBLEM_BEFORE],
    tx,
  );
}
