// Paths inside a drive. Nothing outside server/files opens files of drives, and nothing here opens one that does not lie
// inside the drive it is asked for.

import { realpath } from 'node:fs/promises';
import { isAbsolute, join, normalize, relative, sep } from 'node:path';
import { StellinError } from '../errors';

/** The file's path in the system, for a path below a drive's mount point. Refuses paths that lead out of it, by `..` or by links. */
export async function resolveInside(mountPoint: string, path: string): Promise<string> {
  const inside = normalize(path === '' ? '.' : path);
  if (path.includes('\0') || isAbsolute(inside) || leadsOut(inside)) throw new StellinError('outsideDrive', { path });
  const target = join(mountPoint, inside);
  const [root, real] = await Promise.all([realpath(mountPoint), realpath(target)]);
  const below = relative(root, real);
  if (isAbsolute(below) || leadsOut(below)) throw new StellinError('outsideDrive', { path });
  return real;
}

/** Turns paths in the system into paths below a drive's mount point: it may come back at another place. */
export async function belowDrive(mountPoint: string): Promise<(path: string) => string> {
  const root = await realpath(mountPoint);
  return (path) => relative(root, path);
}

/** The last names of folder and file joined as they stand below a drive. */
export function joinPath(folder: string, name: string): string {
  return folder === '' ? name : `${folder}/${name}`;
}

function leadsOut(path: string): boolean {
  return path === '..' || path.startsWith(`..${sep}`);
}
