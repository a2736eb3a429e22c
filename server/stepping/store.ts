// The SQL of stepping: where a photo stands, and what people have pinned.

import type { PinnedPlace } from '@stellin/contract/stepping';
import type { FieldValue } from '@stellin/core/metadata/fields';
import { sightSql } from '../catalogue/sightSql';
import type { Viewer } from '../catalogue/viewer';
import type { Database } from '../database/database';

export interface Standing {
  id: number;
  folderId: number;
  /** Local time; null: not known. */
  takenAt: string | null;
  event: FieldValue | null;
}

/** Where some photos stand, of those that exist for somebody. */
export function standingOf(database: Database, viewer: Viewer, ids: readonly number[]): Promise<Standing[]> {
  const { sql, bind } = sightSql(viewer.sight, [[...ids]]);
  return database.rows<Standing>(
    `select p.id, p.folder_id as "folderId", to_char(p.taken_at, 'YYYY-MM-DD"T"HH24:MI:SS') as "takenAt", t.fields -> 'event' as event
     from photo p join photo_text t on t.photo_id = p.id where p.id = any($1::int[]) and ${sql}`,
    bind,
  );
}

export function pinnedOf(database: Database, accountId: number): Promise<PinnedPlace[]> {
  return database.rows<PinnedPlace>(
    'select kind, target_id as id from pinned_place where account_id = $1 order by position',
    [accountId],
  );
}

/** Says anew what somebody has pinned, in its order. */
export async function setPinned(database: Database, accountId: number, pinned: readonly PinnedPlace[]): Promise<void> {
  await database.transaction(async (tx) => {
    await database.rows('delete from pinned_place where account_id = $1', [accountId], tx);
    await database.rows(
      `insert into pinned_place (account_id, position, kind, target_id)
       select $1, at, kind, id from unnest($2::text[], $3::int[]) with ordinality as given (kind, id, at)`,
      [accountId, pinned.map(({ kind }) => kind), pinned.map(({ id }) => id)],
      tx,
    );
  });
}
