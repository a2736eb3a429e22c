// Making a backup: the catalogue as it was at one moment, while others go on working, and the pictures of faces that can’t be
// made anew without their files.

import { existsSync } from 'node:fs';
import { mkdir, readdir, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { format } from 'date-fns';
import { sizeText } from '@stellin/contract/sizeText';
import type { Client } from 'pg';
import { places, type Config } from '../config';
import { systemCode } from '../errors';
import { problemOf } from '../files/problem';
import { freeBytesOn } from '../files/volume';
import { writeBag, type BagWriter, type Passed } from './bag';
import { CONTENTS, DUMP, FACES, PREVIEWS, SUMMED, type Contents } from './contents';
import { inSnapshot, migrationsOf, readFigures } from './catalogueStore';
import { eachPicture } from './pictures';
import { dumpDatabase } from './postgresTools';

export interface BackupWish {
  /** Made once more under the same id, what a process that was killed left of it goes. */
  id: string;
  folder: string;
  nightly: boolean;
  previews: boolean;
  /** Bytes of the last one, about as many as this one takes; 0: not known. */
  likelyBytes: number;
}

export interface MadeBackup {
  path: string;
  bytes: number;
  seconds: number;
}

/** Told of what is done now and how many bytes of it there are; may reject to give up. */
export type Progress = (doing: string, bytes: number) => Promise<void>;

/** The file of a backup that is made now: its name sorts by time, and says when by the clock of this machine. */
function freePath(folder: string, at: Date): string {
  const name = join(folder, `stellin-${format(at, 'yyyy-MM-dd-HHmmss')}`);
  for (let number = 1; ; number++) {
    const path = number === 1 ? `${name}.tar` : `${name}-${number}.tar`;
    if (!existsSync(path)) return path;
  }
}

/** Makes a backup; nothing is left of one that could not be finished. Throws an Error that says why there is none. */
export async function makeBackup(
  { kind, home }: Pick<Config, 'kind' | 'home'>,
  databaseUrl: string,
  wish: BackupWish,
  progress: Progress,
): Promise<MadeBackup> {
  const started = performance.now();
  const at = new Date();
  const path = freePath(wish.folder, at);
  const part = join(wish.folder, `.${wish.id}.tar.part`);
  try {
    await mkdir(wish.folder, { recursive: true, mode: 0o700 });
    await removeLeftovers(wish.folder);
    await requireRoom(wish);
    const bag = await writeBag(path, part);
    try {
      const tables = await dumpSnapshot(databaseUrl, bag, progress);
      const passed: Passed = (bytes) => progress('Putting the pictures in', bytes);
      await eachPicture(places.faces(home), (name, file) => bag.addFile(join(FACES, name), file, passed));
      if (wish.previews)
        await eachPicture(places.previews(home), (name, file) => bag.addFile(join(PREVIEWS, name), file, passed));
      const contents: Contents = {
        version: VERSION,
        holds: kind,
        at: at.toISOString(),
        nightly: wish.nightly,
        previews: wish.previews,
        ...tables,
      };
      await bag.addText(CONTENTS, `${JSON.stringify(contents, null, 1)}\n`);
      const bytes = await bag.finish({
        'Bagging-Date': format(at, 'yyyy-MM-dd'),
        'External-Description': `Catalogue of Stellin (${kind}), to be restored with ./stellin restore`,
      });
      return { path, bytes, seconds: (performance.now() - started) / 1000 };
    } catch (error) {
      await bag.abandon();
      throw error;
    }
  } catch (error) {
    if (systemCode(error)?.startsWith('E')) throw new Error(`${wish.folder}: ${problemOf(error)}`, { cause: error });
    throw error;
  }
}

/** Dumps the catalogue as it is at one moment into a backup, and reads the figures of the same moment. */
function dumpSnapshot(
  databaseUrl: string,
  bag: BagWriter,
  progress: Progress,
): Promise<Pick<Contents, 'tables' | 'migrations'>> {
  return inSnapshot(databaseUrl, async (client, snapshot) => {
    const dumping = bag.begin(DUMP, (into) =>
      dumpDatabase(databaseUrl, snapshot, into, (bytes) => progress('Dumping the catalogue', bytes)),
    );
    const [figures] = await Promise.allSettled([readSchema(client), dumping]);
    await dumping;
    if (figures.status === 'rejected') throw figures.reason;
    return figures.value;
  });
}

async function readSchema(client: Client): Promise<Pick<Contents, 'tables' | 'migrations'>> {
  return { migrations: await migrationsOf(client), tables: await readFigures(client, SUMMED[VERSION]) };
}

/** Of the description of backups that are made now. */
const VERSION = 3;
const LEFTOVER = /^\.[0-9a-f-]{36}\.(dump|tar)\.part$/;
const LEFTOVER_MS = 2 * 24 * 3_600_000;

/** Removes parts of backups that nobody finishes any more. */
async function removeLeftovers(folder: string): Promise<void> {
  for (const name of await readdir(folder)) {
    const path = join(folder, name);
    if (LEFTOVER.test(name) && Date.now() - (await stat(path)).mtimeMs > LEFTOVER_MS) await rm(path, { force: true });
  }
}

/** Throws an Error where a disk has less room than the backup is going to take. */
async function requireRoom({ folder, likelyBytes }: BackupWish): Promise<void> {
  const free = await freeBytesOn(folder);
  if (free < likelyBytes)
    throw new Error(
      `there is no room for a backup in ${folder}: ${sizeText(free)} are free, it takes about ${sizeText(likelyBytes)}`,
    );
}

/** The size of a file, undefined where it is not there. */
export async function sizeOf(path: string): Promise<number | undefined> {
  return (await stat(path).catch(() => undefined))?.size;
}
