// How files are written, as the team has settled it.

import { writePolicies, type WritePolicies } from '@stellin/contract/writeback';
import type { Database, Transaction } from '../database/database';

const SETTING = 'writePolicies';

export async function readPolicies(database: Database, tx?: Transaction): Promise<WritePolicies> {
  const row = await database.row<{ value: unknown }>('select value from setting where name = $1', [SETTING], tx);
  return writePolicies.parse(row?.value ?? {});
}

export async function savePolicies(database: Database, policies: WritePolicies, tx: Transaction): Promise<void> {
  await database.rows(
    `insert into setting (name, value) values ($1, $2::jsonb) on conflict (name) do update set value = excluded.value`,
    [SETTING, JSON.stringify(policies)],
    tx,
  );
}
