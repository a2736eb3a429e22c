// How changes to fields stand in the ledger, whoever makes them.

import type { Database, Transaction } from '../database/database';

/** Records before and after of the fields of photos: JSON of rows with `id`, `before` and `after`, null where a field has nothing. */
export async function recordFields(database: Database, entryId: number, json: string, tx: Transaction): Promise<void> {
  await database.rows(
    `insert into ledger_photo (entry_id, photo_id, aspect, key, before, after)
     select $1, r.id, 'fields', 0, r.before, r.after from jsonb_to_recordset($2::jsonb) as r (id int, before jsonb, after jsonb)`,
    [entryId, json],
    tx,
  );
}
