// The tables' side of recognising moved files.

import type { Database, Transaction } from '../database/database';
import { outsideTrash } from '../files/trash';

export interface Candidate {
  /** Of the new file. */
  name: string;
  /** Of the missing photo. */
  id: number;
  hash: Buffer | null;
  sameName: boolean;
  sameSize: boolean;
  /** Size and time are those of the missing photo's file. */
  sameTrace: boolean;
}

export interface Move {
  id: number;
  name: string;
}

/** Whether any photo is missing. */
export async function areMissing(database: Database): Promise<boolean> {
  return (
    (await database.row('select 1 as found from photo where missing_since is not null and shown limit 1')) !== undefined
  );
}

/** Missing photos that new files may be: of the same name, or of the same size (and about the same time, unless `withinMs` is null). Best first. */
export function candidatesFor(
  database: Database,
  files: readonly { name: string; sizeBytes: number; mtimeMs: number }[],
  withinMs: number | null,
): Promise<Candidate[]> {
  return database.rows<Candidate>(
    `select a.name, p.id, p.picture_hash as hash, p.name = a.name as "sameName", p.size_bytes = a.size as "sameSize",
       p.size_bytes = a.size and abs(p.mtime_ms - a.mtime) < 2001 as "sameTrace"
     from unnest($1::text[], $2::bigint[], $3::float8[]) as a (name, size, mtime)
     join photo p on p.missing_since is not null and p.shown
       and (p.name = a.name or (p.size_bytes = a.size and ($4::float8 is null or abs(p.mtime_ms - a.mtime) < $4)))
     order by "sameTrace" desc, "sameName" desc, p.missing_since desc, p.id`,
    [
      files.map(({ name }) => name),
      files.map(({ sizeBytes }) => sizeBytes),
      files.map(({ mtimeMs }) => mtimeMs),
      withinMs,
    ],
  );
}

/** Gives missing photos a new place. What their files say is read anew right after. */
export async function moveHere(
  database: Database,
  { driveId, folderId }: { driveId: string; folderId: number },
  moves: readonly Move[],
  tx?: Transaction,
): Promise<void> {
  if (moves.length === 0) return;
  await database.rows(
    `update photo p set folder_id = $1, drive_id = $2, name = m.name, missing_since = null
     from unnest($3::int[], $4::text[]) as m (id, name) where p.id = m.id and p.missing_since is not null`,
    [folderId, driveId, moves.map(({ id }) => id), moves.map(({ name }) => name)],
    tx,
  );
}

/** Marks photos of a folder whose file is not there. Returns how many were not marked before. */
export async function markMissing(database: Database, folderId: number, ids: readonly number[]): Promise<number> {
  if (ids.length === 0) return 0;
  const marked = await database.rows(
    'update photo set missing_since = now() where id = any($1) and folder_id = $2 and missing_since is null returning id',
    [ids, folderId],
  );
  return marked.length;
}

/** The folders of a drive as far as they lie within one; those of its trash are never looked through. */
export function foldersWithin(
  database: Database,
  driveId: string,
  scope: { folder: string; subFolders: boolean },
): Promise<{ id: number; path: string }[]> {
  return database.rows(
    `select f.id, f.path from folder f where f.drive_id = $1 and ${outsideTrash('f')} and (f.path = $2 or ($3 and ($2 = '' or f.path like $4)))`,
    [driveId, scope.folder, scope.subFolders, `${scope.folder.replace(/[\\%_]/g, '\\$&')}/%`],
  );
}

/** The folders of a drive that hold photos of the catalogue; those of its trash are left aside. */
export async function foldersWithPhotos(database: Database, driveId: string): Promise<string[]> {
  const rows = await database.rows<{ path: string }>(
    `select f.path from folder f where f.drive_id = $1 and ${outsideTrash('f')}
       and exists (select 1 from photo p where p.folder_id = f.id) order by f.path`,
    [driveId],
  );
  return rows.map(({ path }) => path);
}

/** Marks the photos of folders that are no more. Returns how many were not marked before. */
export async function markVanishedFolders(database: Database, folderIds: readonly number[]): Promise<number> {
  const marked = await database.rows(
    'update photo set missing_since = now() where folder_id = any($1) and missing_since is null returning id',
    [folderIds],
  );
  return marked.length;
}

export async function markReturned(database: Database, ids: readonly number[]): Promise<void> {
  if (ids.length > 0) await database.rows('update photo set missing_since = null where id = any($1)', [ids]);
}

export interface Adopted {
  id: number;
  driveId: string;
  folderId: number;
  name: string;
  folder: string;
  /** Of the record it took the place of. */
  accessionId: number | null;
}

/**
 * Some of the missing photos whose picture has turned up as a new record of which nobody said anything yet: the old record
 * takes the new one's place. Only records newer than the missing one count, since an older one is a double that was always
 * there. Terms that a remembered decision gave are nobody's word: the ledger doesn't know of them.
 */
export async function adoptByPicture(database: Database, limit: number, tx: Transaction): Promise<Adopted[]> {
  const pairs = await database.rows<{ missing: number; arrived: number }>(
    `select distinct on (arrived) missing, arrived from (
       select distinct on (m.id) m.id as missing, a.id as arrived
       from photo m join photo a on a.picture_hash = m.picture_hash and a.missing_since is null and a.shown and a.id > m.id
       where m.missing_since is not null and m.shown and not exists (select 1 from ledger_photo l where l.photo_id = a.id)
       order by m.id, (a.name = m.name) desc, a.id) pair order by arrived, missing limit $1`,
    [limit],
    tx,
  );
  if (pairs.length === 0) return [];
  const bind = [pairs.map(({ missing }) => missing), pairs.map(({ arrived }) => arrived)];
  const places = await database.rows<Adopted & { bundle: number | null; leads: boolean; foldedInto: number | null }>(
    `select pair.missing as id, a.drive_id as "driveId", a.folder_id as "folderId", a.name, f.path as folder, a.accession_id as "accessionId",
       a.bundle, a.leads, a.folded_into as "foldedInto"
     from unnest($1::int[], $2::int[]) as pair (missing, arrived) join photo a on a.id = pair.arrived join folder f on f.id = a.folder_id`,
    bind,
    tx,
  );
  // What the new record was bundled with is what the file lies beside now.
  await database.rows(
    `update photo p set folded_into = pair.missing from unnest($1::int[], $2::int[]) as pair (missing, arrived) where p.folded_into = pair.arrived`,
    bind,
    tx,
  );
  await database.rows('delete from photo where id = any($1)', [pairs.map(({ arrived }) => arrived)], tx);
  await database.rows(
    `update photo p set missing_since = null, folder_id = r."folderId", drive_id = r."driveId", name = r.name,
       bundle = coalesce(r.bundle, p.bundle), leads = case when r.bundle is null then p.leads else r.leads end,
       folded_into = case when r.bundle is null then p.folded_into else r."foldedInto" end
     from jsonb_to_recordset($1::jsonb) as r (id int, "driveId" uuid, "folderId" int, name text, bundle int, leads boolean, "foldedInto" int)
     where p.id = r.id`,
    [JSON.stringify(places)],
    tx,
  );
  return places;
}
