// How changes write down what they do: rows of ledger_photo and ledger_object, before and after. All writing to these two tables
// for a change goes through here; what takes effect is read from them.

import type { Bind, Database, Transaction } from '../database/database';

/** A statement with its values. */
interface Statement {
  sql: string;
  bind: Bind;
}

/** What happens to a row that the entry has already: it is an error, it stays as it is, or gets the new `after`. */
type OnConflict = 'fails' | 'stays' | 'replaced';

const PHOTO_CONFLICTS: Record<OnConflict, string> = {
  fails: '',
  stays: 'on conflict do nothing',
  replaced: 'on conflict (entry_id, photo_id, aspect, key) do update set after = excluded.after',
};

/**
 * Records what a change does to an aspect of photos, in one statement.
 * @param rows a statement that returns photo, key, before and after, in this order
 */
export async function recordPhotos(
  database: Database,
  entryId: number,
  aspect: string,
  rows: Statement,
  tx: Transaction,
  onConflict: OnConflict = 'fails',
): Promise<void> {
  const bind = [...rows.bind];
  const [entry, name] = [`$${bind.push(entryId)}::int`, `$${bind.push(aspect)}::text`];
  await database.rows(
    `insert into ledger_photo (entry_id, photo_id, aspect, key, before, after)
     select ${entry}, r.photo_id, ${name}, r.key, r.before::jsonb, r.after::jsonb
     from (${rows.sql}) r (photo_id, key, before, after) ${PHOTO_CONFLICTS[onConflict]}`,
    bind,
    tx,
  );
}

/** Records before and after of the fields of photos: JSON of rows with `id`, `before` and `after`, null where a field has nothing. */
export async function recordFields(database: Database, entryId: number, json: string, tx: Transaction): Promise<void> {
  const sql =
    'select r.id, 0, r.before, r.after from jsonb_to_recordset($1::jsonb) as r (id int, before jsonb, after jsonb)';
  await recordPhotos(database, entryId, 'fields', { sql, bind: [json] }, tx);
}

/**
 * Records what a change does to objects of a kind, in one statement.
 * @param rows a statement that returns id, before and after (null where it is not there), in this order
 */
export async function recordObjects(
  database: Database,
  entryId: number,
  kind: string,
  rows: Statement,
  tx: Transaction,
): Promise<void> {
  const bind = [...rows.bind];
  const [entry, name] = [`$${bind.push(entryId)}::int`, `$${bind.push(kind)}::text`];
  await database.rows(
    `insert into ledger_object (entry_id, kind, object_id, before, after)
     select ${entry}, ${name}, r.id, nullif(r.before::jsonb, 'null'), nullif(r.after::jsonb, 'null') from (${rows.sql}) r (id, before, after)`,
    bind,
    tx,
  );
}

/** Objects that are known with what they were and become, as the rows that `recordObjects` takes. */
export function objectRows(rows: readonly { id: number | undefined; before: unknown; after: unknown }[]): Statement {
  return {
    sql: 'select r.id, r.before, r.after from jsonb_to_recordset($1::jsonb) r (id int, before jsonb, after jsonb)',
    bind: [JSON.stringify(rows)],
  };
}

/**
 * Records that one object is made (a new id is taken, unless `after` has one), changed or removed. Of one that the entry has
 * recorded already `after` is replaced. Returns its id.
 */
export async function recordObject<Row extends { id: number }>(
  database: Database,
  entryId: number,
  kind: string,
  before: Row | null,
  after: (Omit<Row, 'id'> & { id?: number }) | null,
  tx: Transaction,
): Promise<number> {
  const row = await database.row<{ id: number }>(
    `insert into ledger_object (entry_id, kind, object_id, before, after)
     select $1, $2, n.id, $4::jsonb, $5::jsonb || jsonb_build_object('id', n.id)
     from (select coalesce($3::int, nextval(pg_get_serial_sequence($2, 'id'))::int) as id) n
     on conflict (entry_id, kind, object_id) do update set after = excluded.after returning object_id as id`,
    [entryId, kind, before?.id ?? after?.id ?? null, before && JSON.stringify(before), after && JSON.stringify(after)],
    tx,
  );
  if (!row) throw new Error('nothing was recorded');
  return row.id;
}
