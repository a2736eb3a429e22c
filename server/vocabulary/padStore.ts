// The table of term pads.

import { localSql } from '../catalogue/clock';
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

/** The terms that somebody gave today, those given most often first where there are more than `most`; in the order in which they were given first. */
export async function givenToday(database: Database, accountId: number, most: number): Promise<number[]> {
  const rows = await database.rows<{ id: number }>(
    `select id from (
       select t.id::int as id, min(e.id) as first from ledger_entry e
       cross join lateral jsonb_array_elements_text(e.parameters -> 'termIds') t (id)
       where e.account_id = $1 and e.kind = 'giveTerms' and e.step = 'do' and not e.undone
         and ${localSql('e.at')}::date = ${localSql('now()')}::date
       group by t.id order by count(*) desc, first limit $2) given
     order by first`,
    [accountId, most],
  );
  return rows.map(({ id }) => id);
}
