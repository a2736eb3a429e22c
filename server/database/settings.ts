// Settings: what the team has settled, or the program has to remember, by name, as JSON.

import type { Database, Transaction } from './database';
import { SETTING } from './models/settings';
import { modelOf } from './models/table';

/** What is kept under a name, as it was given; undefined where nothing is. */
export async function readSetting(database: Database, name: string, tx?: Transaction): Promise<unknown> {
  const found = await modelOf(database, SETTING).findByPk(name, { transaction: tx ?? null });
  return found?.value;
}

export async function writeSetting(database: Database, name: string, value: unknown, tx?: Transaction): Promise<void> {
  await modelOf(database, SETTING).upsert({ name, value }, { transaction: tx ?? null });
}

export async function removeSetting(database: Database, name: string, tx?: Transaction): Promise<void> {
  await modelOf(database, SETTING).destroy({ where: { name }, transaction: tx ?? null });
}
