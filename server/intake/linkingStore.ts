// The tables’ side of giving a missing photo its file.

import type { Database, Transaction } from '../database/database';

/** Another photo that has a place already, and whether anybody said anything of it. */
export function photoAt(
  database: Database,
  folderId: number,
  name: string,
  photoId: number,
  tx: Transaction,
): Promise<{ id: number; said: boolean } | undefined> {
  return database.row<{ id: number; said: boolean }>(
    `select id, exists (select 1 from ledger_photo l where l.photo_id = photo.id) as said from photo where folder_id = $1 and name = $2 and id <> $3`,
    [folderId, name, photoId],
    tx,
  );
}

/** Removes a record that nobody said anything of. */
export async function dropPhoto(database: Database, id: number, tx: Transaction): Promise<void> {
  await database.rows('delete from photo where id = $1', [id], tx);
}

/** Lets the preview of a photo be made anew. */
export async function makePreviewAnew(database: Database, photoId: number, tx: Transaction): Promise<void> {
  await database.rows('update photo set preview_state = 0 where id = $1', [photoId], tx);
}

/** A photo whose file is missing. */
export function findMissing(database: Database, photoId: number): Promise<MissingPhoto | undefined> {
  return database.row<MissingPhoto>(
    `select id, name, kind, size_bytes::float8 as "sizeBytes", picture_hash as hash from photo where id = $1 and missing_since is not null`,
    [photoId],
  );
}

/** Photos of a folder by name, and whether anybody said anything of them. */
export function namesKnownIn(
  database: Database,
  driveId: string,
  folder: string,
): Promise<{ name: string; said: boolean }[]> {
  return database.rows<{ name: string; said: boolean }>(
    `select p.name, exists (select 1 from ledger_photo l where l.photo_id = p.id) as said
       from photo p join folder f on f.id = p.folder_id where f.drive_id = $1 and f.path = $2 and p.missing_since is null`,
    [driveId, folder],
  );
}

export interface MissingPhoto {
  id: number;
  name: string;
  kind: string;
  sizeBytes: number;
  hash: Buffer | null;
}
