// Whether a database holds anything of ours, and emptying it.

import type { Database } from './database';

/** Whether the tables are there. */
export async function hasTables(database: Database): Promise<boolean> {
  const table = await database.row<{ found: string | null }>(`select to_regclass('public.setting')::text as found`);
  return Boolean(table?.found);
}

/** Whether anybody has an account. */
export async function hasAccounts(database: Database): Promise<boolean> {
  return (await database.row('select 1 as found from account limit 1')) !== undefined;
}

/** Removes all tables with what they hold. */
export async function dropAllTables(database: Database): Promise<void> {
  await database.rows('drop schema public cascade');
  await database.rows('create schema public');
}
