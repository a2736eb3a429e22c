// Paths inside a drive. Nothing outside server/files opens files of drives, and nothing here opens one that does not lie
// inside the drive it is asked for.

import { mkdir, realpath } from 'node:fs/promises';
import { isAbsolute, join, normalize, relative, sep } from 'node:path';
import { StellinError, systemCode } from '../errors';

/** The file's path in the system, for a path below a drive's mount point. Refuses paths that lead out of it, by `..` or by links. */
export async function resolveInside(mountPoint: string, path: string): Promise<string> {
  return resolveBelow(mountPoint, realpath(mountPoint), path);
}

/** The same for many files that are asked for at once: where each drive is, is looked up once. */
export function insideDrives(): typeof resolveInside {
  const roots = new Map<string, Promise<string>>();
  return (mountPoint, path) => {
    const root = roots.get(mountPoint) ?? realpath(mountPoint);
    roots.set(mountPoint, root);
    return resolveBelow(mountPoint, root, path);
  };
}

async function resolveBelow(mountPoint: string, realRoot: Promise<string>, path: string): Promise<string> {
  const inside = normalize(path === '' ? '.' : path);
  if (path.includes('\0') || isAbsolute(inside) || leadsOut(inside)) throw new StellinError('outsideDrive', { path });
  const [root, real] = await Promise.all([realRoot, realpath(join(mountPoint, inside))]);
  const below = relative(root, real);
  if (isAbsolute(below) || leadsOut(below)) throw new StellinError('outsideDrive', { path });
  return real;
}

/** The folder's path in the system, made with those above it where it is not there yet. Refuses what leads out of the drive. */
export async function ensureFolderInside(mountPoint: string, path: string): Promise<string> {
  if (path === '') return resolveInside(mountPoint, '');
  const slash = path.lastIndexOf('/');
  const above = await ensureFolderInside(mountPoint, path.slice(0, Math.max(0, slash)));
  const name = path.slice(slash + 1);
  if (name === '..' || name === '.' || name.includes('\0')) throw new StellinError('outsideDrive', { path });
  await mkdir(join(above, name)).catch((error: unknown) => {
    if (systemCode(error) !== 'EEXIST') throw error;
  });
  return resolveInside(mountPoint, path);
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
