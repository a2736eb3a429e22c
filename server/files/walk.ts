// Walking the folders of a drive. Hidden and system folders are passed over, links are not followed.

import { opendir, readdir } from 'node:fs/promises';
import { kindByName } from '@stellin/core/metadata/containers/index';
import { messageOf } from '../errors';
import { joinPath, resolveInside } from './drivePath';
import { baseName } from './sidecars';

export interface FolderListing {
  /** Below the drive, '' for the drive itself. */
  path: string;
  /** Names of files of a kind we know. */
  photos: string[];
  /** As `sidecarFor` looks them up. */
  sidecars: Map<string, string>;
  /** Why the folder could not be listed, or not wholly. */
  problem?: string;
}

export interface WalkOptions {
  subFolders: boolean;
  /** Whether a file or folder (its path below the drive) is left aside. */
  isIgnored?: (path: string) => boolean;
}

const SYSTEM_FOLDERS = new Set(['lost+found', '$recycle.bin', 'system volume information', '@eadir']);
/** Where trashed files of a drive are kept; hidden, so that it is never taken in. */
export const TRASH_FOLDER = '.stellin-trash';
/** What a name that is no UTF-8 is shown with: such a file can't be opened by it. */
const UNREADABLE_LETTER = '\ufffd';

/** The folders below `start` (and itself), each before its sub-folders, in the order of their names. */
export async function* walkFolders(
  mountPoint: string,
  start: string,
  { subFolders, isIgnored = () => false }: WalkOptions,
): AsyncGenerator<FolderListing> {
  const todo = [start];
  for (let path = todo.pop(); path !== undefined; path = todo.pop()) {
    const listing: FolderListing = { path, photos: [], sidecars: new Map() };
    const below: string[] = [];
    try {
      for await (const entry of await opendir(await resolveInside(mountPoint, path), { bufferSize: 512 })) {
        const { name } = entry;
        if (name.startsWith('.') || isIgnored(joinPath(path, name))) continue;
        if (name.includes(UNREADABLE_LETTER))
          listing.problem = `“${name}” has letters that are no UTF-8; rename it so that it can be taken in`;
        else if (entry.isDirectory() && !SYSTEM_FOLDERS.has(name.toLowerCase())) below.push(joinPath(path, name));
        else if (!entry.isFile()) continue;
        else if (kindByName(name)) listing.photos.push(name);
        else if (/\.xmp$/i.test(name)) listing.sidecars.set(baseName(name), name);
      }
    } catch (error) {
      if (path === start) throw error;
      listing.problem = messageOf(error);
    }
    listing.photos.sort();
    yield listing;
    if (subFolders) todo.push(...below.sort().reverse());
  }
}

/** The sidecars of a folder (its path in the system), as `sidecarFor` looks them up. */
export async function sidecarsIn(folder: string): Promise<Map<string, string>> {
  const names = (await readdir(folder)).filter((name) => /\.xmp$/i.test(name) && !name.startsWith('.'));
  return new Map(names.map((name) => [baseName(name), name]));
}
