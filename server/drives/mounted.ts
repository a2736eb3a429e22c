// What is mounted: the places where drives may be, and what stands at each.

import { readdir } from 'node:fs/promises';
import { join } from 'node:path';
import type { Logger } from 'pino';
import type { Config } from '../config';
import { messageOf, systemCode } from '../errors';
import { mayHoldPictures, mountTable, volumeOf, type Volume } from '../files/volume';
import { readMarker, type Marker } from './marker';

export interface Mounted {
  /** Absolute. */
  mountPoint: string;
  marker: Marker | undefined;
  volume: Volume;
}

/** Where a system mounts what is plugged in. */
const SYSTEM_PLACES = ['/media/', '/run/media/', '/mnt/'];

/** All that is mounted where drives may be: below the configured roots, where the system mounts drives, and at added places. */
export async function findMounted(
  { mountRoots, mountTable: looksAtMountTable }: Pick<Config, 'mountRoots' | 'mountTable'>,
  added: readonly string[],
  log: Logger,
): Promise<Mounted[]> {
  const [roots, table] = await Promise.all([
    Promise.all(mountRoots.map(foldersIn)),
    looksAtMountTable ? mountTable() : [],
  ]);
  const system = table
    .filter(mayHoldPictures)
    .map(({ mountPoint }) => mountPoint)
    .filter((path) => SYSTEM_PLACES.some((place) => path.startsWith(place)));
  const places = [...new Set([...roots.flat(), ...system, ...added])];
  return (await Promise.all(places.map((place) => lookAt(place, log)))).flatMap((found) => found ?? []);
}

/** A drive of the catalogue that was found at a mount point. */
export interface SeenDrive {
  id: string;
  mountPoint: string;
  volume: Volume;
}

/**
 * Tells drives from copies of them, which carry their originals' markers: the one that was where it is now stays the original,
 * else the first. `lastPlaces` gives the mount point of each drive by its id.
 */
export function tellCopies(
  seen: readonly SeenDrive[],
  lastPlaces: ReadonlyMap<string, string | null>,
): { originals: SeenDrive[]; copies: Map<string, string> } {
  const originals = seen.filter(
    (drive, i) =>
      !seen.some(
        (other, j) =>
          j !== i &&
          other.id === drive.id &&
          (lastPlaces.get(drive.id) === other.mountPoint || (j < i && lastPlaces.get(drive.id) !== drive.mountPoint)),
      ),
  );
  const copies = seen.filter((drive) => !originals.includes(drive));
  return { originals, copies: new Map(copies.map(({ id, mountPoint }) => [mountPoint, id])) };
}

async function foldersIn(root: string): Promise<string[]> {
  const entries = await readdir(root, { withFileTypes: true }).catch((error: unknown) => {
    if (systemCode(error) === 'ENOENT') return [];
    throw error;
  });
  return entries
    .filter((entry) => entry.isDirectory() && !entry.name.startsWith('.'))
    .map(({ name }) => join(root, name))
    .sort();
}

/** What is at a place; undefined when nothing is. */
async function lookAt(mountPoint: string, log: Logger): Promise<Mounted | undefined> {
  try {
    const volume = await volumeOf(mountPoint);
    const marker = await readMarker(mountPoint).catch((error: unknown) => {
      log.warn(`drives: ${messageOf(error)}`);
      return undefined;
    });
    return { mountPoint, marker, volume };
  } catch (error) {
    if (!['ENOENT', 'ENOTDIR'].includes(systemCode(error) ?? ''))
      log.warn(`drives: ${mountPoint}: ${messageOf(error)}`);
    return undefined;
  }
}
