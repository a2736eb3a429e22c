// Looks as the thread that compares them reads them.

import type { Client } from 'pg';
import { LOOKS_BY } from '@stellin/core/lookalikes/look';

export interface LookRow {
  photoId: number;
  /** Bytes of an Int8Array. */
  look: Buffer;
  version: string;
}

/** The next looks that changed after a version, in the order in which they did. */
export async function looksSince(database: Client, version: string, limit: number): Promise<LookRow[]> {
  const { rows } = await database.query<LookRow>(
    `select photo_id as "photoId", look, version from photo_look where version > $1 and recipe = ${LOOKS_BY} order by version limit $2`,
    [version, limit],
  );
  return rows;
}
