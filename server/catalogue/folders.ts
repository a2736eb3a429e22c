// Folders of drives by their paths.

import type { Database } from '../database/database';

/** The id of a folder, made with the folders above it where they are not known yet. */
export async function ensureFolder(database: Database, driveId: string, path: string): Promise<number> {
  const known = await findFolder(database, driveId, path);
  if (known !== undefined) return known;
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

export async function findFolder(database: Database, driveId: string, path: string): Promise<number | undefined> {
  return (
    await database.row<{ id: number }>('select id from folder where drive_id = $1 and path = $2', [driveId, path])
  )?.id;
}
