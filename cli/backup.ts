// `./stellin backup` and `./stellin restore`: the catalogue put aside, and taken back.

import { randomUUID } from 'node:crypto';
import { existsSync } from 'node:fs';
import { chmod, mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { sizeText } from '@stellin/contract/sizeText';
import { countText } from '@stellin/contract/wording';
import { checkedContents } from '@stellin/server/backup/contents';
import { makeBackup } from '@stellin/server/backup/make';
import { readPlan } from '@stellin/server/backup/plan';
import { restoreBackup } from '@stellin/server/backup/restore';
import { noteBackup } from '@stellin/server/backup/store';
import { trialOf } from '@stellin/server/backup/trial';
import { places, readConfig, type Config } from '@stellin/server/config';
import { clusterFolder } from '@stellin/server/database/cluster';
import { kindOfFolder, markFolder, markNewFolder, requireFolder } from '@stellin/server/identity';
import { requireNotRunning } from './background';
import { borrowDatabase } from './database';
import { ensureInstalled, NEEDS } from './debian';
import { step } from './steps';
import { withDatabase } from './withDatabase';

interface Which {
  /** That of the demo. */
  demo?: boolean;
}

const configOf = ({ demo = false }: Which): Config => readConfig(demo ? 'demo' : 'archive');

/** Backs the catalogue up, whether it is served meanwhile or not. */
export async function backupCommand({ to, ...which }: Which & { to?: string }): Promise<number> {
  const config = configOf(which);
  if (!config.databaseUrl && kindOfFolder(config.home) === undefined)
    throw new Error(`There is nothing to back up in ${config.home}. STELLIN_HOME names another data folder.`);
  await ensureInstalled([NEEDS.postgres]);
  return withDatabase(config, async (database) => {
    const { plan } = await readPlan(database);
    const folder = to ? resolve(to) : plan.folder || places.backups(config.home);
    const row = { id: randomUUID(), at: new Date(), nightly: false, previews: plan.previews };
    const made = await step('Backing the catalogue up', async ({ progress }) => {
      let bytes = 0;
      return makeBackup(config, database.url, { ...row, folder, likelyBytes: 0 }, async (_doing, more) => {
        bytes += more;
        progress(bytes, 0, sizeText(bytes));
      });
    });
    const size = { bytes: String(made.bytes) };
    await noteBackup(database, { ...row, ...made, ...size, problem: null, checkedAt: null, checkProblem: null });
    console.log(`${made.path}  ${sizeText(made.bytes)}`);
    return 0;
  });
}

/** Restores a backup into the data folder; with `check` only for trial. */
export async function restoreCommand(
  file: string,
  { check = false, replace = false, ...which }: Which & { check?: boolean; replace?: boolean },
): Promise<number> {
  const config = configOf(which);
  const path = resolve(file);
  requireFolder(config.home, config.kind);
  const contents = await step('Checking every byte of it', () => checkedContents(path));
  if (contents.holds !== config.kind)
    throw new Error(
      contents.holds === 'demo'
        ? `${path} is a backup of the demo; restore it with --demo. Nothing was changed.`
        : `${path} is a backup of an archive; restore it without --demo. Nothing was changed.`,
    );
  if (!check) requireNotRunning(config);
  await ensureInstalled([NEEDS.postgres]);
  if (!check) markNewFolder(config.home, config.kind);
  const own = check ? await folderForTrial(config) : undefined;
  const used = await borrowDatabase(own === undefined ? config : { ...config, home: own });
  try {
    if (check) {
      const tables = await step('Restoring it for trial', () => trialOf(path, contents, used.url));
      console.log(`${path} can be restored: ${countText(tables, 'table')}, each as it was.`);
      return 0;
    }
    const { kept, tables } = await step('Restoring the catalogue', () =>
      restoreBackup(config, used.url, { path, contents, replace }),
    );
    markFolder(config.home, config.kind);
    console.log(`Restored: ${countText(tables, 'table')}, as they were at ${contents.at}.`);
    for (const what of kept) console.log(`  what was there before is kept: ${what}`);
    console.log(
      'Drives are looked through when they are attached; what differs shows as conflicts. Nothing is overwritten.',
    );
    return 0;
  } finally {
    await used.stop();
    if (own !== undefined) await removeCluster(own);
  }
}

/** A trial makes no catalogue in a data folder that has none: it gets a folder of its own. Undefined where there is one. */
async function folderForTrial({ home, databaseUrl }: Config): Promise<string | undefined> {
  if (databaseUrl || existsSync(clusterFolder(home))) return undefined;
  const folder = await mkdtemp(join(tmpdir(), 'stellin-trial-'));
  // PostgreSQL has a user of its own, who passes through.
  await chmod(folder, 0o755);
  return folder;
}

async function removeCluster(home: string): Promise<void> {
  await rm(clusterFolder(home), { recursive: true, force: true });
  await rm(home, { recursive: true, force: true });
}
