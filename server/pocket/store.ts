// The SQL of pockets.

import type { Database } from '../database/database';

/** What somebody has put aside, what was put in first coming first. */
export async function pocketOf(database: Database, accountId: number): Promise<number[]> {
  const rows = await database.rows<{ id: number }>(
    'select photo_id as id from pocket_photo where account_id = $1 order by position',
    [accountId],
  );
  return rows.map(({ id }) => id);
}

/** Puts photos aside behind those that are there; those among them stay where they are. */
export async function putIn(database: Database, accountId: number, ids: readonly number[]): Promise<void> {
  await database.rows(
    `insert into pocket_photo (account_id, photo_id) select $1, id from unnest($2::int[]) with ordinality as given (id, at) order by at
     on conflict (account_id, photo_id) do nothing`,
    [accountId, [...ids]],
  );
}

export async function takeOut(database: Database, accountId: number, ids: readonly number[]): Promise<void> {
  await database.rows('delete from pocket_photo where account_id = $1 and photo_id = any($2::int[])', [
    accountId,
    [...ids],
  ]);
}

export async function empty(database: Database, accountId: number): Promise<void> {
  await database.rows('delete from pocket_photo where account_id = $1', [accountId]);
}
