// The table of term pads.

import type { Database, Transaction } from '../database/database';

/** Pads that an account may use: those of all, then its own. */
export function visiblePads(database: Database, accountId: number): Promise<PadRow[]> {
  return database.rows<PadRow>(
    'select id, name, owner_id, keys, created_by from term_pad where owner_id is null or owner_id = $1 order by owner_id is not null, name',
    [accountId],
  );
}

/** Whether another pad has a name. */
export function padNamed(
  database: Database,
  name: string,
  owner: number | null,
  padId: number | null,
  tx: Transaction,
): Promise<object | undefined> {
  return database.row<object>(
    'select 1 as taken from term_pad where name = $1 and owner_id is not distinct from $2::int and id is distinct from $3::int',
    [name, owner, padId],
    tx,
  );
}

/** A pad that an account may use. */
export function findPad(
  database: Database,
  id: number,
  accountId: number,
  tx: Transaction,
): Promise<PadRow | undefined> {
  return database.row<PadRow>(
    'select id, name, owner_id, keys, created_by from term_pad where id = $1 and (owner_id is null or owner_id = $2)',
    [id, accountId],
    tx,
  );
}

export interface PadRow {
  id: number;
  name: string;
  owner_id: number | null;
  keys: Record<string, number>;
  created_by: number | null;
}
