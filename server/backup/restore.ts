// Restoring a backup: it takes the place of the catalogue of a data folder only when all of it is there and as it was.

import { createWriteStream } from 'node:fs';
import { mkdir } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import type { Config } from '../config';
import { MIGRATION_NAMES } from '../database/migrate';
import { readBag, type Passed } from './bag';
import * as store from './catalogueStore';
import { DUMP, FACES, PACKED_DUMP, PREVIEWS, SUMMED, type Contents } from './contents';
import { restoreDatabase } from './postgresTools';
import { replaceCatalogue, type Replaced } from './replacing';

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
        if (entry === `${PAYLOAD}${DUMP}`) await restoreDatabase(url, content, true);
        if (entry === `${PAYLOAD}${PACKED_DUMP}`) await restoreDatabase(url, content, false);
        await passed?.(0);
      });
      const found = await store.withClient(url, (client) => store.readFigures(client, SUMMED[contents.version]));
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

/** Restores a checked backup as the catalogue of a data folder; `replace`: whether one that is there may be put aside. */
export async function restoreBackup(
  config: Pick<Config, 'home'>,
  databaseUrl: string,
  { path, contents, replace }: { path: string; contents: Contents; replace: boolean },
): Promise<Replaced> {
  requireKnownSchema(path, contents);
  return replaceCatalogue(config, databaseUrl, {
    replace,
    fill: (adminUrl, name) => restoreCatalogue(path, contents, adminUrl, name),
    folders: Object.fromEntries(
      [FACES, ...(contents.previews ? [PREVIEWS] : [])].map((name) => [
        name,
        (folder: string) => extractFolder(path, name, folder),
      ]),
    ),
  });
}

/** Unpacks a folder of a backup. */
async function extractFolder(path: string, name: string, folder: string): Promise<void> {
  await readBag(path, async (entry, content) => {
    const [, of, inside] = /^data\/([^/]+)\/(.+)$/.exec(entry) ?? [];
    if (of !== name || inside === undefined) return;
    if (inside.split('/').includes('..')) throw new Error(`${path} names a file outside its folder: ${entry}`);
    const target = join(folder, inside);
    await mkdir(dirname(target), { recursive: true });
    await pipeline(content, createWriteStream(target, { flush: true }));
  });
}
