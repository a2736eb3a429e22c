// Street maps: files of tiles in the data folder, laid there by hand or uploaded.

import { randomUUID } from 'node:crypto';
import { mkdir, open, readdir, rename, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import { LRUCache } from 'lru-cache';
import { streetMapName, type StreetMapRow } from '@stellin/contract/streetMaps';
import type { Database } from '../database/database';
import { messageOf, StellinError, systemCode } from '../errors';
import { flushFolder } from '../files/flush';
import { freeBytesOn } from '../files/volume';
import { TileFile, versionOf, type Tile } from './tileFile';

export type StreetMaps = ReturnType<typeof streetMapService>;

/** So many files are known at once: of each the directories that were read are kept. */
const MAX_OPEN = 20;
/** Of what is uploaded, until it is whole. */
const PART = '.part';
/** Hidden and named by us: what somebody laid there stays, whatever it is called. */
const OWN_PART = /^\.[0-9a-f]{8}-[0-9a-f-]{27}\.part$/;
const FORGOTTEN_MS = 24 * 3_600_000;
const GONE = { what: 'such street map (it may have been removed meanwhile)' };

/** `leastFreeBytes` stay free on the disk of the folder. */
export function streetMapService(database: Database, folder: string, leastFreeBytes: number) {
  const opened = new LRUCache<string, TileFile>({ max: MAX_OPEN });

  /** The file as it is now: one that was replaced is read anew. */
  const fileOf = async (name: string): Promise<TileFile> => {
    const path = pathOf(folder, name);
    const { version } = await versionOf(path).catch(goneIfMissing);
    const key = `${version} ${name}`;
    const known = opened.get(key) ?? new TileFile(path);
    opened.set(key, known);
    return known;
  };

  return {
    async list(): Promise<StreetMapRow[]> {
      const names = (await namesIn(folder)).filter((name) => streetMapName.safeParse(name).success);
      return Promise.all(
        names.sort().map(async (name) => {
          const { bytes, version } = await versionOf(join(folder, name));
          return fileOf(name)
            .then((file) => file.shown())
            .then((shown) => ({ ...{ name, bytes, version, shown }, problem: null }))
            .catch((error: unknown) => ({ ...{ name, bytes, version }, shown: null, problem: messageOf(error) }));
        }),
      );
    },

    /** A tile; undefined where the map shows nothing. */
    async tile(name: string, zoom: number, column: number, row: number): Promise<Tile | undefined> {
      const file = await fileOf(name);
      return file.tile(zoom, column, row).catch((error: unknown) => {
        throw new StellinError('unreadableMap', { file: name, why: messageOf(error) });
      });
    },

    /** Keeps what comes in as a file; one of the same name is replaced once the new one is whole. Refuses by name what is no such file. */
    async add(name: string, content: Readable, bytes: number): Promise<void> {
      const path = pathOf(folder, name);
      await mkdir(folder, { recursive: true });
      if ((await freeBytesOn(folder)) - bytes < leastFreeBytes)
        throw new StellinError('noRoom', { drive: 'the disk of the data folder' });
      await clearParts(folder);
      const part = join(folder, `.${randomUUID()}${PART}`);
      try {
        await keep(part, content);
        await new TileFile(part).shown().catch((error: unknown) => {
          throw new StellinError('unreadableMap', { file: name, why: messageOf(error) });
        });
        await rename(part, path);
        await flushFolder(folder);
      } catch (error) {
        await rm(part, { force: true });
        throw error;
      }
      await database.notify(['places']);
    },

    async remove(name: string): Promise<void> {
      await rm(pathOf(folder, name)).catch(goneIfMissing);
      await database.notify(['places']);
    },
  };
}

function pathOf(folder: string, name: string): string {
  const { data } = streetMapName.safeParse(name);
  if (data === undefined) throw new StellinError('notFound', GONE);
  return join(folder, data);
}

/** The names of files in a folder; none while it has not been made. */
async function namesIn(folder: string): Promise<string[]> {
  try {
    return await readdir(folder);
  } catch (error) {
    if (systemCode(error) === 'ENOENT') return [];
    throw error;
  }
}

/** A file that is not there is gone; whatever else went wrong stays what it is. */
function goneIfMissing(error: unknown): never {
  throw systemCode(error) === 'ENOENT' ? new StellinError('notFound', GONE) : error;
}

/** Removes what uploads that were cut off long ago have left. */
async function clearParts(folder: string): Promise<void> {
  for (const name of (await readdir(folder)).filter((each) => OWN_PART.test(each))) {
    const path = join(folder, name);
    const { mtimeMs } = await stat(path);
    if (Date.now() - mtimeMs > FORGOTTEN_MS) await rm(path, { force: true });
  }
}

/** Writes what comes in, until it is on the disk. */
async function keep(path: string, content: Readable): Promise<void> {
  const handle = await open(path, 'wx');
  try {
    for await (const chunk of content as AsyncIterable<Buffer>) await handle.writeFile(chunk);
    await handle.sync();
  } catch (error) {
    if (systemCode(error) === 'ENOSPC') throw new StellinError('noRoom', { drive: 'the disk of the data folder' });
    throw error;
  } finally {
    await handle.close();
  }
}
