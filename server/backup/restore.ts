// Restoring a backup: into a database and folders of their own first. Only when all of it is there and as it was do they take
// the place of what was there, which is kept under another name.

import { createWriteStream } from 'node:fs';
import { mkdir, readdir, rename, rm } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { format } from 'date-fns';
import { countText } from '@stellin/contract/wording';
import { places, type Config } from '../config';
import { systemCode } from '../errors';
import { MIGRATION_NAMES } from '../database/migrate';
import { readBag, type Passed } from './bag';
import * as store from './catalogueStore';
import { DUMP, FACES, PREVIEWS, type Contents } from './contents';
import { restoreDatabase } from './postgresTools';

const PAYLOAD = 'data/';

/** Throws an Error that says why, where this version of Stellin can’t go on with a backup. */
export function requireKnownSchema(path: string, { migrations }: Contents): void {
  const unknown = migrations.find((name) => !MIGRATION_NAMES.includes(name));
  if (unknown !== undefined)
    throw new Error(
      `${path} was made by a newer version of Stellin (its schema has “${unknown}”); restore it with that version. Nothing was changed.`,
    );
}

/** Restores the catalogue of a backup that was checked into a new database, and compares all tables with what they were. The database is dropped when it fails. */
export async function restoreCatalogue(
  path: string,
  contents: Contents,
  adminUrl: string,
  name: string,
  passed?: Passed,
): Promise<number> {
  return store.withClient(adminUrl, async (admin) => {
    await store.createDatabase(admin, name);
    try {
      const url = store.databaseUrl(adminUrl, name);
      await readBag(path, async (entry, content) => {
        if (entry === `${PAYLOAD}${DUMP}`) await restoreDatabase(url, content);
        await passed?.(0);
      });
      const found = await store.withClient(url, store.readFigures);
      const differences = store.figureDifferences(contents.tables, found);
      if (differences.length > 0)
        throw new Error(`what was restored is not what was backed up: ${differences.join('; ')}`);
      return Object.keys(found).length;
    } catch (error) {
      await store.dropDatabase(admin, name);
      throw error;
    }
  });
}

export interface Restored {
  /** Where what was there before is kept: a database and folders. Empty where there was nothing. */
  kept: string[];
  tables: number;
}

/**
 * Restores a checked backup as the catalogue of a data folder.
 * @param replace  whether an archive that is there may be put aside; refused otherwise.
 */
export async function restoreBackup(
  { home }: Pick<Config, 'home'>,
  databaseUrl: string,
  { path, contents, replace }: { path: string; contents: Contents; replace: boolean },
): Promise<Restored> {
  requireKnownSchema(path, contents);
  const name = decodeURIComponent(new URL(databaseUrl).pathname.slice(1));
  const adminUrl = store.databaseUrl(databaseUrl, 'postgres');
  const at = format(new Date(), 'yyyyMMdd-HHmmss');
  const isThere = await requireFree(adminUrl, databaseUrl, name, replace);

  const restoring = `${name}-restoring-${at}`;
  const folders = [FACES, ...(contents.previews ? [PREVIEWS] : [])];
  const tables = await restoreCatalogue(path, contents, adminUrl, restoring);
  try {
    await extractFolders(path, home, folders);
    await store.withClient(store.databaseUrl(adminUrl, restoring), (client) =>
      store.settleRestored(client, new Date().toISOString()),
    );
  } catch (error) {
    await store.withClient(adminUrl, (admin) => store.dropDatabase(admin, restoring));
    for (const folder of folders) await rm(partOf(home, folder), { recursive: true, force: true });
    throw error;
  }

  const before = `${name}-before-${at}`;
  const kept = isThere ? [`database ${before}`] : [];
  // Pictures are numbered by the catalogue: those of another one would show others. They go first, and come last: a catalogue
  // without pictures makes them anew.
  for (const folder of [FACES, PREVIEWS]) {
    const aside = `${join(home, folder)}-before-${at}`;
    if (await movedAside(join(home, folder), aside)) kept.push(aside);
  }
  await rm(places.finder(home), { recursive: true, force: true });
  await store.withClient(adminUrl, async (admin) => {
    await store.exchangeDatabases(admin, { name, by: restoring, before });
    if (!isThere) await store.dropDatabase(admin, before);
  });
  for (const folder of folders) await rename(partOf(home, folder), join(home, folder));
  return { kept, tables };
}

const partOf = (home: string, folder: string) => join(home, `.${folder}-restoring`);

/** Throws an Error that says why nothing can be restored there now. Returns whether there is a catalogue. */
async function requireFree(adminUrl: string, databaseUrl: string, name: string, replace: boolean): Promise<boolean> {
  const others = await store.withClient(adminUrl, (admin) => store.countConnections(admin, name));
  if (others > 0)
    throw new Error(
      `Something still works with the catalogue (${countText(others, 'connection')}). Stop Stellin, and its workers, first. Nothing was changed.`,
    );
  const holds = await store.withClient(databaseUrl, store.holdingsOf);
  if (holds && holds.accounts > 0 && !replace)
    throw new Error(
      `There is a catalogue already, of ${countText(holds.photos, 'photo')}. --replace puts the backup in its place, and keeps what is there now under another name. Nothing was changed.`,
    );
  return holds !== undefined;
}

async function extractFolders(path: string, home: string, folders: readonly string[]): Promise<void> {
  for (const folder of folders) {
    await rm(partOf(home, folder), { recursive: true, force: true });
    await mkdir(partOf(home, folder), { recursive: true });
  }
  await readBag(path, async (entry, content) => {
    const [, folder, inside] = /^data\/([^/]+)\/(.+)$/.exec(entry) ?? [];
    if (folder === undefined || inside === undefined || !folders.includes(folder)) return;
    if (inside.split('/').includes('..')) throw new Error(`${path} names a file outside its folder: ${entry}`);
    const target = join(partOf(home, folder), inside);
    await mkdir(dirname(target), { recursive: true });
    await pipeline(content, createWriteStream(target, { flush: true }));
  });
}

/** Moves a folder aside; false when there was none, or nothing in it. */
async function movedAside(folder: string, to: string): Promise<boolean> {
  const names = await readdir(folder).catch((error: unknown) => {
    if (systemCode(error) === 'ENOENT') return [];
    throw error;
  });
  if (names.length === 0) {
    await rm(folder, { recursive: true, force: true });
    return false;
  }
  await rename(folder, to);
  return true;
}
