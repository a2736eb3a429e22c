// A folder on a drive or on the machine of the server, as a place that copies go to.

import { basename, dirname, join } from 'node:path';
import { systemCode } from '../errors';
import type { Drives } from '../drives/service';
import { ensureFolderInside, joinPath } from '../files/drivePath';
import { flushFolder } from '../files/flush';
import { holdsAlready, lookAt, streamOf } from '../files/fileContent';
import type { FilePlacer } from '../files/placing';
import { DriveGone } from '../jobs/service';
import type { Destination } from './destination';

interface Place {
  label: string;
  mountPoint: string;
  /** Below that. */
  folder: string;
}

/** A folder on a drive. */
export function driveDestination(drives: Drives, placer: FilePlacer, place: Place & { driveId: string }): Destination {
  const { driveId } = place;
  return {
    ...folderDestination(placer, place),
    async requireThere(cause) {
      if (!(await drives.isAttached(driveId))) throw new DriveGone(driveId, 'that is delivered to');
      requireRoom(place.label, cause);
    },
  };
}

function requireRoom(label: string, cause: unknown): void {
  if (systemCode(cause) === 'ENOSPC')
    throw new Error(`“${label}” is full. Make room on it and try again: what is there is passed over.`, { cause });
}

/** A folder that is there as long as the machine is. */
export function folderDestination(placer: FilePlacer, { label, mountPoint, folder }: Place): Destination {
  /** Folders that files go into until the next `settle`, in the system: each is looked at once. */
  const folders = new Map<string, string>();

  /** The path in the system; its folder is made. */
  const fullPath = async (path: string): Promise<string> => {
    const below = joinPath(folder, path);
    const parent = dirname(below);
    const inside = parent === '.' ? '' : parent;
    const known = folders.get(inside) ?? (await ensureFolderInside(mountPoint, inside));
    folders.set(inside, known);
    return join(known, basename(below));
  };

  return {
    label,

    async standing(path, content) {
      const full = await fullPath(path);
      const there = await lookAt(full);
      if (!there || there.size === 0) return undefined;
      return { mtimeMs: there.mtimeMs, same: await holdsAlready(full, content) };
    },

    put: async (path, content, how) => placer.place(await fullPath(path), content, how),

    async read(path) {
      const full = await fullPath(path);
      return (await lookAt(full)) ? streamOf({ from: full }) : undefined;
    },

    async settle() {
      for (const each of new Set(folders.values())) await flushFolder(each);
      folders.clear();
    },

    requireThere: (cause) => Promise.resolve(requireRoom(label, cause)),

    close: () => Promise.resolve(),
  };
}
