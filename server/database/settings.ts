// Settings: what the team has settled, or the program has to remember, by name, as JSON.

import type { Database, Transaction } from './database';

/** What is kept under a name, as it was given; undefined where nothing is. */
export async function readSetting(database: Database, name: string, tx?: Transaction): Promise<unknown> {
  const row = await database.row<{ value: unknown }>('select value from setting where name = $1', [name], tx);
  return row?.value;
}

export async function writeSetting(database: Database, name: string, value: unknown, tx?: Transaction): Promise<void> {
  await database.rows(
    `insert into setting (name, value) values ($1, $2::jsonb) on conflict (name) do update set value = excluded.value`,
    [name, JSON.stringify(value)],
    tx,
  );
}
