// How pictures look, as it was measured of their previews: noted whenever a preview is made.

import { LOOKS_BY } from '@stellin/core/lookalikes/look';
import type { Database, Transaction } from '../database/database';

/** What was measured of a preview; the look is an Int8Array in base64. */
export interface MeasuredLook {
  id: number;
  look: string;
  sharpness: number;
}

/** Notes how the previews of photos look. */
export async function noteLooks(database: Database, looks: readonly MeasuredLook[], tx?: Transaction): Promise<void> {
  if (looks.length === 0) return;
  await database.rows(
    `insert into photo_look (photo_id, recipe, look, sharpness)
     select p.id, $2, decode(r.look, 'base64'), r.sharpness from jsonb_to_recordset($1::jsonb) as r (id int, look text, sharpness real) join photo p on p.id = r.id
     on conflict (photo_id) do update set recipe = excluded.recipe, look = excluded.look, sharpness = excluded.sharpness`,
    [JSON.stringify(looks), LOOKS_BY],
    tx,
  );
}
