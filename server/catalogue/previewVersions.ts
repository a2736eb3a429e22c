// Which version of its preview a photo has: a new one has a new address.

import type { Database } from '../database/database';

/** The versions of the previews of some photos, by id; 0 where none can be made. */
export async function previewVersions(database: Database, ids: readonly number[]): Promise<Map<number, number>> {
  const rows = await database.rows<{ id: number; version: number }>(
    'select id, preview_version as version from photo where id = any($1::int[])',
    [ids],
  );
  return new Map(rows.map(({ id, version }) => [id, version]));
}
