// Putting another catalogue in the place of that of a data folder: it is filled as a database and folders of its own first. Only when
// all of it is there do they take the place of what was there, which is kept under another name.

import { mkdir, readdir, rename, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { format } from 'date-fns';
import { countText } from '@stellin/contract/wording';
import { places, type Config } from '../config';
import { systemCode } from '../errors';
import * as store from './catalogueStore';
import { FACES, PREVIEWS } from './contents';

export interface Replaced {
  /** Where what was there before is kept: a database and folders. Empty where there was nothing. */
  kept: string[];
  tables: number;
}

export interface Replacement {
  /** Whether a catalogue that is there may be put aside; refused otherwise. */
  replace: boolean;
  /** Makes the database of this name and fills it; returns how many tables it has. Nothing is left of one that fails. */
  fill: (adminUrl: string, name: string) => Promise<number>;
  /** Folders of the data folder that come along, and what fills each. */
  folders: Readonly<Record<string, (folder: string) => Promise<void>>>;
}

/** Puts another catalogue in the place of that of a data folder. Throws an Error that says why nothing has changed. */
export async function replaceCatalogue(
  { home }: Pick<Config, 'home'>,
  databaseUrl: string,
  { replace, fill, folders }: Replacement,
): Promise<Replaced> {
  const name = decodeURIComponent(new URL(databaseUrl).pathname.slice(1));
  const adminUrl = store.databaseUrl(databaseUrl, 'postgres');
  const at = format(new Date(), 'yyyyMMdd-HHmmss');
  const isThere = await requireFree(adminUrl, databaseUrl, name, replace);

  const filling = `${name}-restoring-${at}`;
  const tables = await fill(adminUrl, filling);
  try {
    for (const [folder, fillFolder] of Object.entries(folders)) {
      await rm(partOf(home, folder), { recursive: true, force: true });
      await mkdir(partOf(home, folder), { recursive: true });
      await fillFolder(partOf(home, folder));
    }
    await store.withClient(store.databaseUrl(adminUrl, filling), (client) =>
      store.settleRestored(client, new Date().toISOString()),
    );
  } catch (error) {
    await store.withClient(adminUrl, (admin) => store.dropDatabase(admin, filling));
    for (const folder of Object.keys(folders)) await rm(partOf(home, folder), { recursive: true, force: true });
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
    await store.exchangeDatabases(admin, { name, by: filling, before });
    if (!isThere) await store.dropDatabase(admin, before);
  });
  for (const folder of Object.keys(folders)) await rename(partOf(home, folder), join(home, folder));
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
      `There is a catalogue already, of ${countText(holds.photos, 'photo')}. --replace puts the other one in its place, and keeps what is there now under another name. Nothing was changed.`,
    );
  return holds !== undefined;
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
