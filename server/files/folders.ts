// Folders of a drive: made, renamed, and removed while they are empty.

import { mkdir, opendir, rename, rmdir } from 'node:fs/promises';
import { basename, dirname, join } from 'node:path';
import { systemCode } from '../errors';
import { resolveInside } from './drivePath';
import { isTaken, TakenError } from './relocate';

/** Makes a folder; one that is there already will do. */
export async function makeFolder(mountPoint: string, path: string): Promise<void> {
  await mkdir(await newPath(mountPoint, path)).catch((error: unknown) => {
    if (systemCode(error) !== 'EEXIST') throw error;
  });
}

/** Renames a folder with all that is in it. Throws TakenError when the new name is taken. */
export async function renameFolder(mountPoint: string, from: string, to: string): Promise<void> {
  const [source, target] = [await resolveInside(mountPoint, from), await newPath(mountPoint, to)];
  if (await isTaken(target)) throw new TakenError(target);
  await rename(source, target);
}

/** Removes a folder unless something is in it: then it says false. */
export async function removeFolder(mountPoint: string, path: string): Promise<boolean> {
  try {
    await rmdir(await resolveInside(mountPoint, path));
    return true;
  } catch (error) {
    if (systemCode(error) === 'ENOENT') return true;
    if (systemCode(error) === 'ENOTEMPTY' || systemCode(error) === 'EEXIST') return false;
    throw error;
  }
}

/** The paths of all files in a folder and below it, from the folder on; undefined where there are more than `most`. Links are not followed. */
export async function filesBelow(mountPoint: string, path: string, most: number): Promise<string[] | undefined> {
  const root = await resolveInside(mountPoint, path);
  const found: string[] = [];
  const open = [''];
  for (let folder = open.pop(); folder !== undefined; folder = open.pop())
    for await (const entry of await opendir(join(root, folder))) {
      if (entry.isDirectory()) open.push(join(folder, entry.name));
      else if (found.push(join(folder, entry.name)) > most) return undefined;
    }
  return found;
}

/** The path in the system of something that is not there yet, in a folder that is. */
async function newPath(mountPoint: string, path: string): Promise<string> {
  const above = dirname(path);
  return join(await resolveInside(mountPoint, above === '.' ? '' : above), basename(path));
}
