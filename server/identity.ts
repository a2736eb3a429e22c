// What a data folder and a database hold: an archive, or the demo with its published passwords. Each says so itself, so that
// the one is never opened, or erased, as the other.

import { chmodSync, existsSync, mkdirSync, readdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { basename } from 'node:path';
import { z } from 'zod';
import { DATA_KINDS, places, type DataKind } from './config';
import type { Database } from './database/database';
import { dropAllTables, hasAccounts, hasTables } from './database/holdings';
import { readSetting, removeSetting, writeSetting } from './database/settings';
import { messageOf } from './errors';

const identity = z.object({ holds: z.enum(DATA_KINDS) });

const NAMES: Record<DataKind, { what: string; opens: string }> = {
  archive: { what: 'an archive', opens: './stellin start' },
  demo: { what: 'the demo', opens: './stellin demo' },
};

/** The setting in which a database says what it holds. */
const SETTING = 'holds';
/** The setting in which the demo of an earlier version noted its steps; only a database it has filled has it. */
const EARLIER_DEMO_SETTING = 'demo';

/** What a data folder says it holds; undefined where it says nothing. Throws an Error that names the file when it can't be read. */
export function kindOfFolder(home: string): DataKind | undefined {
  const path = places.identity(home);
  if (!existsSync(path)) return undefined;
  try {
    return identity.parse(JSON.parse(readFileSync(path, 'utf8'))).holds;
  } catch (error) {
    throw new Error(`${path} can’t be read: ${messageOf(error)}`, { cause: error });
  }
}

/** Throws an Error that says what to do when a data folder holds the other kind. */
export function requireFolder(home: string, kind: DataKind): void {
  const holds = kindOfFolder(home);
  if (holds !== undefined && holds !== kind) throw refusal(`The data folder ${home}`, holds, 'STELLIN_HOME');
}

/** What stands in a data folder that shows photos or what is said of them. */
const PRIVATE = [places.previews, places.faces, places.finder, places.journals, places.backups];

/**
 * Keeps other users of the machine out of a data folder. Where PostgreSQL's user, who is another one, has its cluster in it, others
 * may pass through to what they know the name of, and the folders in it are closed instead.
 */
export function protectFolder(home: string): void {
  mkdirSync(home, { recursive: true, mode: 0o700 });
  chmodSync(home, process.getuid?.() === 0 ? 0o711 : 0o700);
  for (const placeOf of PRIVATE) {
    mkdirSync(placeOf(home), { recursive: true });
    chmodSync(placeOf(home), 0o700);
  }
}

/** What is in a data folder but for the log, which a server in the background writes before all else. */
export function contentsOf(home: string): string[] {
  return existsSync(home) ? readdirSync(home).filter((name) => name !== basename(places.log(home))) : [];
}

/** Writes down what a data folder is going to hold while there is nothing in it yet. */
export function markNewFolder(home: string, kind: DataKind): void {
  if (contentsOf(home).length === 0) markFolder(home, kind);
}

/** Writes down what a data folder holds, made if it is not there. */
export function markFolder(home: string, kind: DataKind): void {
  requireFolder(home, kind);
  const path = places.identity(home);
  if (existsSync(path)) return;
  mkdirSync(home, { recursive: true });
  writeFileSync(`${path}.part`, `${JSON.stringify({ holds: kind } satisfies z.infer<typeof identity>)}\n`);
  renameSync(`${path}.part`, path);
}

/**
 * Throws an Error that says what to do when a database holds the other kind, or when an earlier version has mixed both in it.
 * Nothing is changed; the tables need not be there yet.
 */
export async function requireDatabase(database: Database, kind: DataKind): Promise<void> {
  const holds = await kindOfDatabase(database);
  if (holds === 'mixed') throw new Error(MIXED);
  if (holds !== undefined && holds !== kind) throw refusal('The database', holds, 'STELLIN_DATABASE_URL');
}

/** Writes down what a database with all tables holds. */
export async function markDatabase(database: Database, kind: DataKind): Promise<void> {
  if ((await readSetting(database, SETTING)) === undefined) await writeSetting(database, SETTING, kind);
}

/** Makes an archive of a database in which an earlier version has mixed the demo and an archive. */
export async function adoptDatabase(database: Database): Promise<void> {
  await database.transaction(async (tx) => {
    await removeSetting(database, EARLIER_DEMO_SETTING, tx);
    await writeSetting(database, SETTING, 'archive', tx);
  });
}

/** Removes all tables of a demo; throws an Error when the database holds something else. One that holds nothing of ours stays as it is. */
export async function eraseDemo(database: Database): Promise<void> {
  await requireDatabase(database, 'demo');
  if ((await kindOfDatabase(database)) === undefined) return;
  await dropAllTables(database);
}

/** What a database holds: `mixed` is what an earlier version left that kept demo and archive together; undefined: it is new. */
export async function kindOfDatabase(database: Database): Promise<DataKind | 'mixed' | undefined> {
  if (!(await hasTables(database))) return undefined;
  const holds = await readSetting(database, SETTING);
  if (holds !== undefined) return z.enum(DATA_KINDS).parse(holds);
  if ((await readSetting(database, EARLIER_DEMO_SETTING)) !== undefined) return 'mixed';
  return (await hasAccounts(database)) ? 'archive' : undefined;
}

function refusal(where: string, holds: DataKind, variable: string): Error {
  const { what, opens } = NAMES[holds];
  return new Error(`${where} holds ${what}, which ${opens} opens. ${variable} names another. Nothing was changed.`);
}

const MIXED = `This data was used by ./stellin demo of an earlier version, which kept the demo and an archive of your own together, with
passwords that everybody can read. Nothing was changed.
  If it only held the demo: remove its folder (README, “Where the data is”) and run ./stellin demo, which has a folder of its own now.
  If it holds photos of your own: ./stellin start --adopt makes an archive of it. The demo’s accounts lose their passwords, and a
  new one for the keeper is shown; the demo’s photos stay in the catalogue, on drives that are away.`;
