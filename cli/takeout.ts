// `./stellin export`, `./stellin import` and `./stellin bag`: all of the catalogue in open formats, and manifests that other
// programs can read.

import { resolve } from 'node:path';
import { countText, numberText } from '@stellin/contract/wording';
import { checkBagFolder, readManifest } from '@stellin/server/files/bagFolder';
import { checkedTaken, takeIn } from '@stellin/server/backup/takeIn';
import { takeOut } from '@stellin/server/backup/takeOut';
import { readConfig, type Config } from '@stellin/server/config';
import { kindOfFolder, markFolder, markNewFolder, requireFolder } from '@stellin/server/identity';
import { writeDriveBag } from '@stellin/server/fixity/driveBag';
import { takeManifest } from '@stellin/server/fixity/takeManifest';
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

/** Takes all of the catalogue out, whether it is served meanwhile or not. */
export async function exportCommand(which: Which & { all: string }): Promise<number> {
  const config = await catalogueOf(which);
  const folder = resolve(which.all);
  return withDatabase(config, async (database) => {
    const { photos, tables } = await step('Taking the catalogue out', ({ progress }) =>
      takeOut(config, database.url, folder, (doing, done) =>
        progress(done, 0, done > 0 ? `${doing}: ${numberText(done)}` : doing),
      ),
    );
    console.log(`${folder}: ${countText(photos, 'photo')} described, ${countText(tables, 'table')}`);
    return 0;
  });
}

/** Makes a catalogue that was taken out that of the data folder. */
export async function importCommand(given: string, { replace = false, ...which }: Which & { replace?: boolean }) {
  const config = configOf(which);
  const folder = resolve(given);
  requireFolder(config.home, config.kind);
  const contents = await step('Checking every byte of it', ({ progress }) =>
    checkedTaken(folder, (done, total, path) => progress(done, total, path)),
  );
  if (contents.holds !== config.kind)
    throw new Error(
      contents.holds === 'demo'
        ? `${folder} is the catalogue of the demo; take it in with --demo. Nothing was changed.`
        : `${folder} is the catalogue of an archive; take it in without --demo. Nothing was changed.`,
    );
  requireNotRunning(config);
  await ensureInstalled([NEEDS.postgres]);
  markNewFolder(config.home, config.kind);
  const used = await borrowDatabase(config);
  try {
    const { kept, tables } = await step('Taking the catalogue in', ({ progress }) =>
      takeIn(config, used.url, { folder, contents, replace }, (doing) => progress(0, 0, doing)),
    );
    markFolder(config.home, config.kind);
    console.log(`Taken in: ${countText(tables, 'table')}, as they were at ${contents.at}.`);
    for (const what of kept) console.log(`  what was there before is kept: ${what}`);
    console.log('Passwords were not taken out. ./stellin account password NAME sets one; nobody can sign in before.');
    return 0;
  } finally {
    await used.stop();
  }
}

/**
 * Writes what the files of a drive should hold as a bag, takes in what somebody else says of that, or checks a bag by whatever program it
 * was made.
 */
export async function bagCommand(
  options: Which & { drive?: string; to?: string; from?: string; check?: string },
): Promise<number> {
  if (options.check !== undefined) return checkBag(resolve(options.check));
  const { drive } = options;
  if (drive !== undefined && options.from !== undefined) return takeManifestOf(options, drive, resolve(options.from));
  if (drive === undefined || options.to === undefined)
    throw new Error(
      'Name a drive and a folder (--drive LABEL --to FOLDER), a drive and a manifest (--drive LABEL --from FILE), or a bag to be checked (--check FOLDER).',
    );
  const config = await catalogueOf(options);
  const to = resolve(options.to);
  return withDatabase(config, async (database) => {
    const { files, unread } = await writeDriveBag(database, drive, to);
    console.log(`${to}: ${countText(files, 'file')} of ${drive}`);
    if (unread > 0) console.log(`  ${countText(unread, 'photo')} not among them: no file was read to be compared yet`);
    return 0;
  });
}

/** What a manifest, or that of a bag, says of the files of a drive. */
async function takeManifestOf(which: Which, drive: string, from: string): Promise<number> {
  const config = await catalogueOf(which);
  const text = await readManifest(from);
  return withDatabase(config, async (database) => {
    const { noted, same, damaged, changed, unknown } = await takeManifest(database, drive, text);
    console.log(`${countText(same, 'file')} of ${drive} as the manifest says.`);
    if (noted > 0) console.log(`${countText(noted, 'file')} not read yet: compared when they are.`);
    const lists = [
      [damaged, 'other ones already when they were taken in'],
      [changed, 'changed since, so that it can’t be told'],
      [unknown, 'not in the catalogue'],
    ] as const;
    for (const [paths, what] of lists) {
      if (paths.length > 0) console.log(`${countText(paths.length, 'file')} ${what}:`);
      for (const path of paths) console.log(`  ${path}`);
    }
    return damaged.length === 0 ? 0 : 1;
  });
}

async function checkBag(folder: string): Promise<number> {
  const { files, problems } = await step('Reading every file of it', ({ progress }) =>
    checkBagFolder(folder, (done, total, path) => progress(done, total, path)),
  );
  for (const problem of problems) console.log(`  ${problem}`);
  console.log(
    problems.length === 0
      ? `${countText(files, 'file')}, each as it was written.`
      : `${countText(problems.length, 'file')} of ${numberText(files)} not as ${problems.length === 1 ? 'it was' : 'they were'} written.`,
  );
  return problems.length === 0 ? 0 : 1;
}

async function catalogueOf(which: Which): Promise<Config> {
  const config = configOf(which);
  if (!config.databaseUrl && kindOfFolder(config.home) === undefined)
    throw new Error(`There is no catalogue in ${config.home}. STELLIN_HOME names another data folder.`);
  await ensureInstalled([NEEDS.postgres]);
  return config;
}
