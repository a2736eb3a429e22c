// Making a catalogue of one that was taken out: into a database of its own first, compared table by table with what was taken out.

import { randomBytes } from 'node:crypto';
import { createReadStream, existsSync } from 'node:fs';
import { cp, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { hash } from '@node-rs/argon2';
import type { Client } from 'pg';
import { z } from 'zod';
import type { Config } from '../config';
import { openDatabase } from '../database/database';
import { migrate, migrationsNamed, MIGRATION_NAMES } from '../database/migrate';
import { messageOf } from '../errors';
import { checkBagFolder } from '../files/bagFolder';
import * as catalogue from './catalogueStore';
import { FACES } from './contents';
import { replaceCatalogue, type Replaced } from './replacing';
import { TAKEN, takenContents, type TakenContents } from './takeOut';
import * as store from './takeOutStore';

const ROWS_PER_INSERT = 500;
const MAX_NAMED = 5;

/** Reads every byte of a catalogue that was taken out; returns what it says of itself. Throws an Error that says what is wrong with it. */
export async function checkedTaken(
  folder: string,
  progress?: (done: number, total: number, path: string) => Promise<void> | void,
): Promise<TakenContents> {
  const { problems } = await checkBagFolder(folder, progress);
  if (problems.length > 0)
    throw new Error(
      `${folder} is damaged: ${problems.slice(0, MAX_NAMED).join('; ')}${problems.length > MAX_NAMED ? ` and ${problems.length - MAX_NAMED} more` : ''}. Nothing was changed.`,
    );
  try {
    return takenContents.parse(JSON.parse(await readFile(join(folder, 'data', TAKEN.contents), 'utf8')));
  } catch (error) {
    if (error instanceof z.ZodError && error.issues.some(({ path: [name] }) => name === 'version'))
      throw new Error(`${folder} was made by a newer version of Stellin; take it in with that one`, { cause: error });
    throw new Error(`${folder} is no catalogue of Stellin that was taken out: ${messageOf(error)}`, { cause: error });
  }
}

/** Makes a catalogue that was taken out, and checked, that of a data folder; `replace`: whether one that is there may be put aside. */
export async function takeIn(
  config: Pick<Config, 'home'>,
  databaseUrl: string,
  { folder, contents, replace }: { folder: string; contents: TakenContents; replace: boolean },
  progress: (doing: string) => Promise<void> | void,
): Promise<Replaced> {
  const unknown = contents.migrations.find((name) => !MIGRATION_NAMES.includes(name));
  if (unknown !== undefined)
    throw new Error(
      `${folder} was made by a newer version of Stellin (its schema has “${unknown}”); take it in with that version. Nothing was changed.`,
    );
  const faces = join(folder, 'data', TAKEN.faces);
  return replaceCatalogue(config, databaseUrl, {
    replace,
    fill: (adminUrl, name) => fillDatabase(adminUrl, name, folder, contents, progress),
    folders: {
      [FACES]: async (target) => {
        if (existsSync(faces)) await cp(faces, target, { recursive: true });
      },
    },
  });
}

/** Makes a database with the schema that was taken out, fills it, compares it, and brings its schema up to date. It is dropped when that fails. */
function fillDatabase(
  adminUrl: string,
  name: string,
  folder: string,
  contents: TakenContents,
  progress: (doing: string) => Promise<void> | void,
): Promise<number> {
  return catalogue.withClient(adminUrl, async (admin) => {
    await catalogue.createDatabase(admin, name);
    try {
      const url = catalogue.databaseUrl(adminUrl, name);
      const database = openDatabase(url);
      try {
        await migrate(database, migrationsNamed(contents.migrations));
        const tables = await catalogue.withClient(url, (client) => fill(client, folder, contents, progress));
        await migrate(database);
        return tables;
      } finally {
        await database.close();
      }
    } catch (error) {
      await catalogue.dropDatabase(admin, name);
      throw error;
    }
  });
}

async function fill(
  client: Client,
  folder: string,
  contents: TakenContents,
  progress: (doing: string) => Promise<void> | void,
): Promise<number> {
  await store.settle(client);
  const tables = await store.takenTables(client);
  const missing = tables.find(({ name }) => contents.tables[name] === undefined);
  if (missing) throw new Error(`${folder} lacks the table ${missing.name}`);
  const nobodyKnows = await hash(randomBytes(32).toString('hex'));
  await client.query('begin');
  await store.emptyTables(client, tables);
  await store.withoutGuards(client, async () => {
    for (const table of tables) {
      await progress(`Filling ${table.name}`);
      for await (const lines of linesIn(join(folder, 'data', TAKEN.tables, `${table.name}.jsonl`)))
        await store.fillTable(client, table, lines, nobodyKnows);
    }
  });
  await store.setSequences(client, contents.sequences);
  const differences = catalogue.figureDifferences(contents.tables, await store.figuresOf(client, tables));
  if (differences.length > 0) throw new Error(`what was taken in is not what was taken out: ${differences.join('; ')}`);
  await client.query('commit');
  return tables.length;
}

/** The lines of a file, some at a time. They end at line feeds only: texts may hold other ends of lines as they are. */
async function* linesIn(path: string): AsyncGenerator<string[]> {
  let lines: string[] = [];
  let rest = '';
  for await (const chunk of createReadStream(path, 'utf8')) {
    const parts = (rest + String(chunk)).split('\n');
    rest = parts.pop() ?? '';
    lines.push(...parts);
    while (lines.length >= ROWS_PER_INSERT) {
      yield lines.slice(0, ROWS_PER_INSERT);
      lines = lines.slice(ROWS_PER_INSERT);
    }
  }
  if (rest !== '') lines.push(rest);
  if (lines.length > 0) yield lines;
}
