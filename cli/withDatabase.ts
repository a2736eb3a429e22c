// The catalogue for a command that works on it. Apart from starting PostgreSQL, since what it takes is long to load.

import type { Config } from '@stellin/server/config';
import { openDatabase, type Database } from '@stellin/server/database/database';
import { migrate } from '@stellin/server/database/migrate';
import { requireDatabase, requireFolder } from '@stellin/server/identity';
import { borrowDatabase } from './database';

/** Works on the catalogue of a data folder, its tables brought up to date, whether it is served meanwhile or not. */
export async function withDatabase<Result>(
  config: Config,
  work: (database: Database) => Promise<Result>,
): Promise<Result> {
  requireFolder(config.home, config.kind);
  const used = await borrowDatabase(config);
  const database = openDatabase(used.url);
  try {
    await requireDatabase(database, config.kind);
    await migrate(database);
    return await work(database);
  } finally {
    await database.close();
    await used.stop();
  }
}
