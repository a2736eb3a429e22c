// Brings the tables up to date: each migration runs once, in order, in a transaction of its own that also notes it as done. One
// process at a time; tables of a newer version are left alone.

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
import * as owners from './migrations/0024-owners';
import * as fixity from './migrations/0025-fixity';
import * as seen from './migrations/0026-seen';
import * as rights from './migrations/0027-rights';
import * as tokens from './migrations/0028-tokens';
import * as secondFactor from './migrations/0029-second-factor';
import * as projects from './migrations/0030-projects';
import * as access from './migrations/0031-access';
import * as onlookers from './migrations/0032-onlookers';
import * as theme from './migrations/0033-theme';
import * as language from './migrations/0035-language';
import * as placeTables from './migrations/0036-places';
import * as tracks from './migrations/0037-tracks';
import * as oldMaps from './migrations/0040-old-maps';
import * as placeLinks from './migrations/0041-place-links';
import * as delivering from './migrations/0042-delivering';
import * as incomingTables from './migrations/0043-incoming-tables';
import * as deliveryServers from './migrations/0044-delivery-servers';
import * as handover from './migrations/0045-handover';
import * as turning from './migrations/0046-turning';
import * as lookalikes from './migrations/0047-lookalikes';
import * as pictureText from './migrations/0048-picture-text';
import * as recordings from './migrations/0049-recordings';
import * as sideways from './migrations/0050-sideways';
import * as viewLinks from './migrations/0051-view-links';
import * as mailing from './migrations/0052-mailing';
import * as outside from './migrations/0053-outside';
import * as plans from './migrations/0054-plans';
import * as provenance from './migrations/0057-provenance';
import * as visits from './migrations/0059-visits';
import * as pocket from './migrations/0060-pocket';
import * as arrivals from './migrations/0061-arrivals';
import * as reports from './migrations/0058-reports';
import * as stepping from './migrations/0056-stepping';
import * as workLists from './migrations/0055-work-lists';
import * as clocks from './migrations/0039-clocks';
import * as placeNames from './migrations/0038-place-names';
import * as makers from './migrations/0034-makers';

interface Migration {
  name: string;
  sql: string;
}

const MIGRATIONS: readonly Migration[] = [
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
  { name: '0024-owners', sql: owners.sql },
  { name: '0025-fixity', sql: fixity.sql },
  { name: '0026-seen', sql: seen.sql },
  { name: '0027-rights', sql: rights.sql },
  { name: '0028-tokens', sql: tokens.sql },
  { name: '0029-second-factor', sql: secondFactor.sql },
  { name: '0030-projects', sql: projects.sql },
  { name: '0031-access', sql: access.sql },
  { name: '0032-onlookers', sql: onlookers.sql },
  { name: '0033-theme', sql: theme.sql },
  { name: '0034-makers', sql: makers.sql },
  { name: '0035-language', sql: language.sql },
  { name: '0036-places', sql: placeTables.sql },
  { name: '0037-tracks', sql: tracks.sql },
  { name: '0038-place-names', sql: placeNames.sql },
  { name: '0039-clocks', sql: clocks.sql },
  { name: '0040-old-maps', sql: oldMaps.sql },
  { name: '0041-place-links', sql: placeLinks.sql },
  { name: '0042-delivering', sql: delivering.sql },
  { name: '0043-incoming-tables', sql: incomingTables.sql },
  { name: '0044-delivery-servers', sql: deliveryServers.sql },
  { name: '0045-handover', sql: handover.sql },
  { name: '0046-turning', sql: turning.sql },
  { name: '0047-lookalikes', sql: lookalikes.sql },
  { name: '0048-picture-text', sql: pictureText.sql },
  { name: '0049-recordings', sql: recordings.sql },
  { name: '0050-sideways', sql: sideways.sql },
  { name: '0051-view-links', sql: viewLinks.sql },
  { name: '0052-mailing', sql: mailing.sql },
  { name: '0053-outside', sql: outside.sql },
  { name: '0054-plans', sql: plans.sql },
  { name: '0055-work-lists', sql: workLists.sql },
  { name: '0056-stepping', sql: stepping.sql },
  { name: '0057-provenance', sql: provenance.sql },
  { name: '0058-reports', sql: reports.sql },
  { name: '0059-visits', sql: visits.sql },
  { name: '0060-pocket', sql: pocket.sql },
  { name: '0061-arrivals', sql: arrivals.sql },
];

/** Of the migrations that this version knows. */
export const MIGRATION_NAMES: readonly string[] = MIGRATIONS.map(({ name }) => name);

const TABLE = 'migration';
/** Of the advisory lock that keeps others from migrating meanwhile. */
const LOCK = 5_306_417;

/** The migrations of these names, for a schema of an earlier version. */
export function migrationsNamed(names: readonly string[]): readonly Migration[] {
  return MIGRATIONS.filter(({ name }) => names.includes(name));
}

/**
 * Runs what has not run yet. Returns the names of the migrations that did. Throws an Error when the tables are those of a newer
 * version.
 */
export async function migrate(database: Database, migrations = MIGRATIONS): Promise<string[]> {
  const done = await doneMigrations(database);
  const unknown = [...done].find((name) => !migrations.some((known) => known.name === name));
  if (unknown !== undefined)
    throw new Error(
      `The catalogue was used by a newer version of Stellin (its schema has “${unknown}”); open it with that version. Nothing was changed.`,
    );
  const ran: string[] = [];
  for (const migration of migrations)
    if (!done.has(migration.name) && (await run(database, migration))) ran.push(migration.name);
  return ran;
}

/** Runs a migration and notes it, both or neither; false when another process has run it meanwhile. */
function run(database: Database, { name, sql }: Migration): Promise<boolean> {
  return database.transaction(async (tx) => {
    await database.rows('select pg_advisory_xact_lock($1)', [LOCK], tx);
    await database.rows(`create table if not exists ${TABLE} (name varchar(255) primary key)`, [], tx);
    if (await database.row(`select 1 as done from ${TABLE} where name = $1`, [name], tx)) return false;
    // Several statements at once: without values.
    await database.sequelize.query(sql, { transaction: tx });
    await database.rows(`insert into ${TABLE} (name) values ($1)`, [name], tx);
    return true;
  });
}

async function doneMigrations(database: Database): Promise<Set<string>> {
  const table = await database.row<{ found: string | null }>(`select to_regclass($1)::text as found`, [TABLE]);
  if (!table?.found) return new Set();
  const rows = await database.rows<{ name: string }>(`select name from ${TABLE}`);
  return new Set(rows.map(({ name }) => name));
}
