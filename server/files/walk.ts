// Walking the folders of a drive. Hidden and system folders are passed over, links are not followed.

import { opendir } from 'node:fs/promises';
import { kindByName } from '@stellin/core/metadata/containers/index';
import { messageOf } from '../errors';
import { joinPath, resolveInside } from './drivePath';

export interface FolderListing {
  /** Below the drive, '' for the drive itself. */
  path: string;
  /** Names of files of a kind we know. */
  photos: string[];
  /** The sidecar's name for a photo's base name in small letters. */
  sidecars: Map<string, string>;
  /** Why the folder could not be listed. */
  problem?: string;
}

const SYSTEM_FOLDERS = new Set(['lost+found', '$recycle.bin', 'system volume information', '@eadir']);

/** The folders below `start` (and itself), each before its sub-folders, in the order of their names. */
export async function* walkFolders(
  mountPoint: string,
  start: string,
  subFolders: boolean,
): AsyncGenerator<FolderListing> {
  const todo = [start];
  for (let path = todo.pop(); path !== undefined; path = todo.pop()) {
    const listing: FolderListing = { path, photos: [], sidecars: new Map() };
    const below: string[] = [];
    try {
      for await (const entry of await opendir(await resolveInside(mountPoint, path))) {
        if (entry.name.startsWith('.')) continue;
        if (entry.isDirectory() && !SYSTEM_FOLDERS.has(entry.name.toLowerCase()))
          below.push(joinPath(path, entry.name));
        if (!entry.isFile()) continue;
        if (kindByName(entry.name)) listing.photos.push(entry.name);
        else if (/\.xmp$/i.test(entry.name)) listing.sidecars.set(baseName(entry.name), entry.name);
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

/** The name without its extension, in small letters: what a photo and its sidecar share. */
export function baseName(name: string): string {
  const dot = name.lastIndexOf('.');
  return (dot > 0 ? name.slice(0, dot) : name).toLowerCase();
}
