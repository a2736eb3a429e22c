// The SQL of handing over: what went out, what came back, and what it belongs to.

import type { FieldValues } from '@stellin/core/metadata/fields';
import type { Database, Transaction } from '../database/database';
import { isoSql } from '../database/isoSql';
import { HANDOVER } from '../database/models/handover';
import { modelOf } from '../database/models/table';
import { recordPhotos } from '../ledger/recordStore';

export interface HandoverRow {
  deliveryId: string;
  folder: string;
  program: string;
  outcome: string | null;
  closed: boolean;
}

const SELECTED = `select h.delivery_id as "deliveryId", h.folder, h.program, h.outcome, h.closed_at is not null as closed from handover h`;

export async function addHandover(
  database: Database,
  handover: Pick<HandoverRow, 'deliveryId' | 'folder' | 'program'>,
  tx: Transaction,
): Promise<void> {
  await modelOf(database, HANDOVER).create(handover, { transaction: tx });
}

export function findHandover(database: Database, deliveryId: string): Promise<HandoverRow | undefined> {
  return database.row<HandoverRow>(`${SELECTED} where h.delivery_id = $1`, [deliveryId]);
}

/** Handovers that something may come back of. */
export function openHandovers(database: Database): Promise<HandoverRow[]> {
  return database.rows<HandoverRow>(`${SELECTED} where h.closed_at is null`);
}

/** Notes what became of the program. */
export async function noteOutcome(database: Database, deliveryId: string, outcome: string): Promise<void> {
  await modelOf(database, HANDOVER).update({ outcome }, { where: { deliveryId } });
}

export async function close(database: Database, deliveryId: string): Promise<void> {
  await modelOf(database, HANDOVER).update({ closedAt: new Date() }, { where: { deliveryId } });
}

/** Of some deliveries the handovers, with how much has come back. */
export function statesOf(
  database: Database,
  deliveryIds: readonly string[],
): Promise<(HandoverRow & { back: number; waiting: number })[]> {
  return database.rows(
    `select x.*, b.back, b.waiting from (${SELECTED} where h.delivery_id = any($1::uuid[])) x
     cross join lateral (select count(*)::int as back, count(*) filter (where ${IS_WAITING})::int as waiting
       from returned_file r left join ledger_entry e on e.id = r.entry_id where r.delivery_id = x."deliveryId") b`,
    [deliveryIds],
  );
}

/** What was taken in and taken back again waits anew. */
const IS_WAITING = `(r.state = 'waiting' or (r.state = 'taken' and coalesce(e.undone, false)))`;

/** A file as it went out; hashes are hexadecimal. */
export interface HandedFile {
  position: number;
  path: string;
  sha256: string;
  picture: string | null;
  sidecar: string | null;
  said: FieldValues;
}

export async function noteHanded(database: Database, deliveryId: string, files: readonly HandedFile[]): Promise<void> {
  await database.rows(
    `insert into handed_file (delivery_id, position, path, sha256, picture_hash, sidecar_sha256, said)
     select $1, x.position, x.path, decode(x.sha256, 'hex'), decode(x.picture, 'hex'), decode(x.sidecar, 'hex'), x.said
     from jsonb_to_recordset($2::jsonb) x (position int, path text, sha256 text, picture text, sidecar text, said jsonb)
     on conflict (delivery_id, position) do update set path = excluded.path, sha256 = excluded.sha256,
       picture_hash = excluded.picture_hash, sidecar_sha256 = excluded.sidecar_sha256, said = excluded.said`,
    [deliveryId, JSON.stringify(files)],
  );
}

/** All files of a handover without what they said. */
export function handedFiles(database: Database, deliveryId: string): Promise<Omit<HandedFile, 'said'>[]> {
  return database.rows(
    `select position, path, encode(sha256, 'hex') as sha256, encode(picture_hash, 'hex') as picture, encode(sidecar_sha256, 'hex') as sidecar
     from handed_file where delivery_id = $1 order by position`,
    [deliveryId],
  );
}

/** A file that came back, as it is found; hashes are hexadecimal. */
export interface FoundFile {
  path: string;
  position: number | null;
  kind: 'picture' | 'words';
  whole: boolean;
  bytes: number;
  sha256: string;
  sidecarSha256: string | null;
  sidecar: string | null;
  said: FieldValues;
  problem: string | null;
}

/** Notes what came back, unless just that was taken in or left before. What waits under the same path is replaced. Gives how many are new. */
export async function noteReturned(
  database: Database,
  deliveryId: string,
  files: readonly FoundFile[],
): Promise<number> {
  if (files.length === 0) return 0;
  const rows = await database.rows(
    `insert into returned_file (delivery_id, path, position, kind, whole, bytes, sha256, sidecar_sha256, sidecar, said, problem)
     select $1, x.path, x.position, x.kind, x.whole, x.bytes, decode(x.sha256, 'hex'), decode(x."sidecarSha256", 'hex'), x.sidecar, x.said, x.problem
     from jsonb_to_recordset($2::jsonb) x (path text, position int, kind text, whole boolean, bytes bigint, sha256 text, "sidecarSha256" text, sidecar text, said jsonb, problem text)
     where not exists (select 1 from returned_file r where r.delivery_id = $1 and r.path = x.path and r.sha256 = decode(x.sha256, 'hex')
       and r.sidecar_sha256 is not distinct from decode(x."sidecarSha256", 'hex') and r.problem is not distinct from x.problem)
     on conflict (delivery_id, path) where state = 'waiting' do update set position = excluded.position, kind = excluded.kind, whole = excluded.whole,
       bytes = excluded.bytes, sha256 = excluded.sha256, sidecar_sha256 = excluded.sidecar_sha256, sidecar = excluded.sidecar,
       said = excluded.said, problem = excluded.problem, at = now(), folder_id = null, name = null
     returning id`,
    [deliveryId, JSON.stringify(files)],
  );
  return rows.length;
}

/** Forgets what waits and is no more, or is again as it went out. */
export async function forgetReturned(
  database: Database,
  deliveryId: string,
  paths: readonly string[],
): Promise<number> {
  if (paths.length === 0) return 0;
  const rows = await database.rows(
    `delete from returned_file where delivery_id = $1 and path = any($2) and state = 'waiting' returning id`,
    [deliveryId, paths],
  );
  return rows.length;
}

/** What came back, with the photo it belongs to. */
export interface ReturnedFile extends FoundFile {
  id: number;
  deliveryId: string;
  at: string;
  state: 'waiting' | 'taken' | 'left';
  /** What the file said that it belongs to, when it went out. */
  sent: FieldValues;
  originalId: number | null;
  originalName: string | null;
  previewVersion: number;
  /** What is said of the original now. */
  now: FieldValues;
  isPrivate: boolean;
  driveId: string | null;
  drive: string | null;
  folder: string | null;
  /** Where it is put. */
  toFolderId: number | null;
  toName: string | null;
  /** The photo that it has become. */
  photoId: number | null;
}

const RETURNED = `select r.id, r.delivery_id as "deliveryId", r.path, r.position, r.kind, r.whole, r.bytes::float8 as bytes, encode(r.sha256, 'hex') as sha256,
    encode(r.sidecar_sha256, 'hex') as "sidecarSha256", r.sidecar, r.said, r.problem, ${isoSql('r.at')} as at,
    case when ${IS_WAITING} then 'waiting' else r.state end as state, coalesce(w.said, '{}') as sent,
    p.id as "originalId", p.name as "originalName", coalesce(p.preview_version, 0) as "previewVersion", coalesce(t.fields, '{}') as now,
    coalesce(p.private, false) as "isPrivate", p.drive_id as "driveId", d.label as drive, f.path as folder,
    r.folder_id as "toFolderId", r.name as "toName", n.id as "photoId"
  from returned_file r left join ledger_entry e on e.id = r.entry_id
  left join handed_file w on w.delivery_id = r.delivery_id and w.position = r.position
  left join delivery_file q on q.delivery_id = r.delivery_id and q.position = r.position
  left join photo p on p.id = q.photo_id and p.shown left join photo_text t on t.photo_id = p.id
  left join drive d on d.id = p.drive_id left join folder f on f.id = p.folder_id
  left join photo n on n.folder_id = r.folder_id and n.name = r.name`;

/** What came back, what waits first. */
export async function listReturned(
  database: Database,
  deliveryId: string,
  { offset, limit }: { offset: number; limit: number },
): Promise<{ files: ReturnedFile[]; total: number }> {
  const [files, count] = await Promise.all([
    database.rows<ReturnedFile>(
      `${RETURNED} where r.delivery_id = $1 order by not ${IS_WAITING}, r.path, r.id limit $2 offset $3`,
      [deliveryId, limit, offset],
    ),
    database.row<{ total: number }>('select count(*)::int as total from returned_file where delivery_id = $1', [
      deliveryId,
    ]),
  ]);
  return { files, total: count?.total ?? 0 };
}

/** What of some files waits and can be taken in; `ids` null: of all. */
export function takeable(
  database: Database,
  deliveryId: string,
  ids: readonly number[] | null,
  tx?: Transaction,
): Promise<ReturnedFile[]> {
  return database.rows<ReturnedFile>(
    `${RETURNED} where r.delivery_id = $1 and ($2::int[] is null or r.id = any($2::int[])) and ${IS_WAITING}
       and r.problem is null and p.id is not null order by r.id`,
    [deliveryId, ids],
    tx,
  );
}

export function findReturned(database: Database, deliveryId: string, id: number): Promise<ReturnedFile | undefined> {
  return database.row<ReturnedFile>(`${RETURNED} where r.delivery_id = $1 and r.id = $2`, [deliveryId, id]);
}

/** Settles where files are put. */
export async function settlePlaces(
  database: Database,
  places: readonly { id: number; folderId: number; name: string }[],
): Promise<void> {
  await database.rows(
    `update returned_file r set folder_id = x."folderId", name = x.name
     from jsonb_to_recordset($1::jsonb) x (id int, "folderId" int, name text) where r.id = x.id`,
    [JSON.stringify(places)],
  );
}

/** The base names of photos that some folders have, in small letters, as `folder/base`. */
export async function namesIn(database: Database, folderIds: readonly number[]): Promise<Set<string>> {
  const rows = await database.rows<{ name: string }>(
    `select p.folder_id || '/' || lower(regexp_replace(p.name, '\\.[^.]*$', '')) as name from photo p where p.folder_id = any($1::int[])
     union select r.folder_id || '/' || lower(regexp_replace(r.name, '\\.[^.]*$', '')) from returned_file r where r.folder_id = any($1::int[]) and r.state = 'waiting'`,
    [folderIds],
  );
  return new Set(rows.map(({ name }) => name));
}

/** Notes what became of files: photos, by an entry of the ledger. */
export async function noteTaken(
  database: Database,
  entryId: number,
  taken: readonly { id: number; photoId: number | null }[],
  tx: Transaction,
): Promise<void> {
  await database.rows(
    `update returned_file r set state = 'taken', entry_id = $1, photo_id = x."photoId"
     from jsonb_to_recordset($2::jsonb) x (id int, "photoId" int) where r.id = x.id`,
    [entryId, JSON.stringify(taken)],
    tx,
  );
}

/** What of a handover was taken in and is still; hashes are hexadecimal. */
export function takenFiles(
  database: Database,
  deliveryId: string,
): Promise<{ path: string; sha256: string; sidecar: string | null }[]> {
  return database.rows(
    `select r.path, encode(r.sha256, 'hex') as sha256, encode(r.sidecar_sha256, 'hex') as sidecar
     from returned_file r left join ledger_entry e on e.id = r.entry_id
     where r.delivery_id = $1 and r.state = 'taken' and not coalesce(e.undone, false)`,
    [deliveryId],
  );
}

/** Leaves files where they are, as nobody wants them. */
export async function leave(database: Database, deliveryId: string, ids: readonly number[]): Promise<void> {
  await database.rows(
    `update returned_file set state = 'left' where delivery_id = $1 and id = any($2::int[]) and state = 'waiting'`,
    [deliveryId, ids],
  );
}

/** Records that photos become private. */
export async function recordPrivate(
  database: Database,
  entryId: number,
  photoIds: readonly number[],
  tx: Transaction,
): Promise<void> {
  const sql = `select p.id, 0, 'false'::jsonb, 'true'::jsonb from photo p where p.id = any($1::int[]) and not p.private`;
  await recordPhotos(database, entryId, 'private', { sql, bind: [photoIds] }, tx);
}
