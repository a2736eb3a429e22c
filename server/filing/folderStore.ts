// The table of folders, as making and renaming them needs it.

import type { Database, Transaction } from '../database/database';

/** A folder as the ledger keeps it. */
export interface FolderRow {
  id: number;
  drive_id: string;
  parent_id: number | null;
  name: string;
  path: string;
  colour: string;
  note: string;
}

/** The folder at a path of a drive. */
export function folderAt(
  database: Database,
  driveId: string,
  path: string,
  tx: Transaction,
): Promise<FolderRow | undefined> {
  return database.row<FolderRow>('select * from folder where drive_id = $1 and path = $2', [driveId, path], tx);
}

/** The id of a folder that is made. */
export async function nextFolderId(database: Database, tx: Transaction): Promise<number> {
  const row = await database.row<{ id: number }>(
    `select nextval(pg_get_serial_sequence('folder', 'id'))::int as id`,
    [],
    tx,
  );
  if (!row) throw new Error('there is no next id of a folder');
  return row.id;
}

/** A folder. */
export function findFolderById(database: Database, folderId: number, tx?: Transaction): Promise<FolderRow | undefined> {
  return database.row<FolderRow>('select * from folder where id = $1', [folderId], tx);
}

/** A folder and all below it. */
export function foldersUnder(database: Database, driveId: string, path: string, tx: Transaction): Promise<FolderRow[]> {
  return database.rows<FolderRow>(
    `select * from folder where drive_id = $1 and (path = $2 or starts_with(path, $2 || '/'))`,
    [driveId, path],
    tx,
  );
}

/** How many files the catalogue knows in a folder and all below it, how many folders are below it, and the files by their paths from the folder on; undefined where there are more than `most`. */
export async function filesKnown(
  database: Database,
  { drive_id: driveId, path }: FolderRow,
  most: number,
): Promise<{ photos: number; folders: number; files: string[] | undefined }> {
  const row = await database.row<{ photos: number; folders: number; files: string[] | null }>(
    `with within as materialized (
       select id, path, trim(leading '/' from substr(path, length($2) + 1)) as below from folder
       where drive_id = $1 and ($2 = '' or path = $2 or starts_with(path, $2 || '/')))
     select (select count(*)::int - 1 from within) as folders,
       (select count(*)::int from within w join photo p on p.folder_id = w.id where p.trashed_from is null) as photos,
       (select array_agg(name) from (
          select case when w.below = '' then p.name else w.below || '/' || p.name end as name from within w join photo p on p.folder_id = w.id
          where p.trashed_from is null limit $3) known) as files`,
    [driveId, path, most + 1],
  );
  const files = row?.files ?? [];
  return { photos: row?.photos ?? 0, folders: row?.folders ?? 0, files: files.length > most ? undefined : files };
}

/** What hinders a folder from being deleted; undefined where nothing is in it, so far as the catalogue knows. */
export async function whatIsIn(database: Database, { id }: FolderRow, tx: Transaction): Promise<string | undefined> {
  const row = await database.row<{ folders: boolean; photos: boolean; removed: boolean }>(
    `select exists (select 1 from folder b where b.parent_id = $1) as folders,
       exists (select 1 from photo p where p.folder_id = $1 and not p.removed) as photos,
       exists (select 1 from photo p where p.folder_id = $1 and p.removed) as removed`,
    [id],
    tx,
  );
  if (row?.photos) return 'photos are in it';
  if (row?.removed) return 'photos are in it that were taken out of the catalogue';
  return row?.folders ? 'folders are in it' : undefined;
}

/** Forgets the folder at a path if it left neither photos nor folders behind. */
export async function dropVanishedFolder(
  database: Database,
  driveId: string,
  path: string,
  tx: Transaction,
): Promise<void> {
  await database.rows(
    `delete from folder f where drive_id = $1 and path = $2 and not exists (select 1 from photo p where p.folder_id = f.id)
         and not exists (select 1 from folder b where b.parent_id = f.id)`,
    [driveId, path],
    tx,
  );
}

/** What an entry does to a folder: its path before and after, where it was or is there; of several the uppermost. */
export function folderOfEntry(
  database: Database,
  entryId: number,
  tx: Transaction,
): Promise<{ drive: string; before: string | null; after: string | null }[]> {
  return database.rows<{ drive: string; before: string | null; after: string | null }>(
    `select coalesce(after, before) ->> 'drive_id' as drive, before ->> 'path' as before, after ->> 'path' as after
       from ledger_object where entry_id = $1 and kind = 'folder' and before ->> 'path' is distinct from after ->> 'path' order by length(coalesce(after, before) ->> 'path') limit 1`,
    [entryId],
    tx,
  );
}
