// Brings the tables up to date (umzug): each migration runs once, in order, in a transaction of its own.

import type { Database } from './database';
import * as foundation from './migrations/0001-foundation';
import * as metadataVersions from './migrations/0002-metadata-versions';
import * as identity from './migrations/0003-identity';
import * as settledKeywords from './migrations/0004-settled-keywords';
import * as marks from './migrations/0005-marks';
import * as filing from './migrations/0006-filing';
import * as doubles from './migrations/0007-doubles';
import * as tracking from './migrations/0008-tracking';
import * as copying from './migrations/0009-copying';
import * as browsing from './migrations/0010-browsing';
import * as thesaurus from './migrations/0011-thesaurus';
import * as finding from './migrations/0012-finding';
import * as describing from './migrations/0013-describing';
import * as people from './migrations/0014-people';
import * as privacy from './migrations/0015-private';
import * as guesses from './migrations/0016-guesses';
import * as apart from './migrations/0017-apart';
import * as aside from './migrations/0018-aside';
import * as quicker from './migrations/0019-quicker';
import * as deltas from './migrations/0020-deltas';
import * as accounts from './migrations/0021-accounts';
import * as queue from './migrations/0022-queue';
import * as backups from './migrations/0023-backups';

const MIGRATIONS: readonly { name: string; sql: string }[] = [
  { name: '0001-foundation', sql: foundation.sql },
  { name: '0002-metadata-versions', sql: metadataVersions.sql },
  { name: '0003-identity', sql: identity.sql },
  { name: '0004-settled-keywords', sql: settledKeywords.sql },
  { name: '0005-marks', sql: marks.sql },
  { name: '0006-filing', sql: filing.sql },
  { name: '0007-doubles', sql: doubles.sql },
  { name: '0008-tracking', sql: tracking.sql },
  { name: '0009-copying', sql: copying.sql },
  { name: '0010-browsing', sql: browsing.sql },
  { name: '0011-thesaurus', sql: thesaurus.sql },
  { name: '0012-finding', sql: finding.sql },
  { name: '0013-describing', sql: describing.sql },
  { name: '0014-people', sql: people.sql },
  { name: '0015-private', sql: privacy.sql },
  { name: '0016-guesses', sql: guesses.sql },
  { name: '0017-apart', sql: apart.sql },
  { name: '0018-aside', sql: aside.sql },
  { name: '0019-quicker', sql: quicker.sql },
  { name: '0020-deltas', sql: deltas.sql },
  { name: '0021-accounts', sql: accounts.sql },
  { name: '0022-queue', sql: queue.sql },
  { name: '0023-backups', sql: backups.sql },
];

/** Of the migrations that this version knows. */
export const MIGRATION_NAMES: readonly string[] = MIGRATIONS.map(({ name }) => name);

const TABLE = 'migration';

/** Runs what has not run yet. Returns the names of the migrations that did. */
export async function migrate(database: Database): Promise<string[]> {
  if (await isUpToDate(database)) return [];
  const { sequelize } = database;
  // Loading it takes longer than looking whether it is needed, which it seldom is.
  const { SequelizeStorage, Umzug } = await import('umzug');
  const umzug = new Umzug({
    migrations: MIGRATIONS.map(({ name, sql }) => ({
      name,
      up: async () => {
        await database.transaction((transaction) => sequelize.query(sql, { transaction }));
      },
    })),
    storage: new SequelizeStorage({ sequelize, tableName: TABLE }),
    logger: undefined,
  });
  return (await umzug.up()).map(({ name }) => name);
}

async function isUpToDate(database: Database): Promise<boolean> {
  const table = await database.row<{ found: string | null }>(`select to_regclass($1)::text as found`, [TABLE]);
  if (!table?.found) return false;
  const rows = await database.rows<{ name: string }>(`select name from ${TABLE}`);
  const done = new Set(rows.map(({ name }) => name));
  return MIGRATIONS.every(({ name }) => done.has(name));
}
