// What is on a drive against what the catalogue knows of it: new, changed, unchanged, vanished and returned files.

import { join } from 'node:path';
import { joinPath, resolveInside } from '../files/drivePath';
import { sameTime } from '../files/fingerprint';
import { isTaken } from '../files/relocate';
import type { FileReader } from '../catalogue/reader';
import type { RecordRequest } from '../files/readRecord';
import { sidecarFor } from '../files/sidecars';
import { type FolderListing } from '../files/walk';
import type * as store from './store';

export interface FileToRead extends RecordRequest {
  name: string;
  /** Below the drive, for messages. */
  shown: string;
  sizeBytes: number;
  mtimeMs: number;
  /** Nothing of this name is known in its folder. */
  isNew: boolean;
}

export interface FolderComparison {
  /** New files and such as are not as they were read. */
  toRead: FileToRead[];
  unchanged: number;
  /** Photos whose file is not there. */
  goneIds: number[];
  /** Photos that were missing and are there again, as they were. */
  returnedIds: number[];
  /** What could not be looked at. */
  problems: { shown: string; code: string | undefined; message: string }[];
}

/** Compares a folder with what is known of it. `isAgain` tells files (below the drive) that are to be read whether changed or not. */
export async function compareFolder(
  reader: FileReader,
  mountPoint: string,
  listing: FolderListing,
  known: readonly store.KnownFile[],
  { isIgnored, isAgain }: { isIgnored: (path: string) => boolean; isAgain: (path: string) => boolean },
): Promise<FolderComparison> {
  const folder = await resolveInside(mountPoint, listing.path);
  const sidecars = listing.photos.map((name) => sidecarFor(listing.sidecars, name));
  const stats = await reader.stats({ folder, names: listing.photos, sidecars });
  const byName = new Map(known.map((file) => [file.name, file]));
  const bad = new Map(stats.problems.map((problem) => [problem.index, problem]));
  const comparison: FolderComparison = { toRead: [], unchanged: 0, goneIds: [], returnedIds: [], problems: [] };
  for (const [i, name] of listing.photos.entries()) {
    const shown = joinPath(listing.path, name);
    const before = byName.get(name);
    byName.delete(name);
    const problem = bad.get(i);
    if (problem) {
      comparison.problems.push({ shown, code: problem.code, message: problem.message });
      continue;
    }
    const [sizeBytes, mtimeMs, sidecarTime] = [
      stats.sizes[i] ?? 0,
      stats.mtimes[i] ?? 0,
      stats.sidecarMtimes[i] ?? Number.NaN,
    ];
    const isSame =
      before !== undefined &&
      before.sizeBytes === sizeBytes &&
      sameTime(before.mtimeMs, mtimeMs) &&
      sameTime(before.sidecarMtimeMs, Number.isNaN(sidecarTime) ? null : sidecarTime);
    if (isSame && before.missing) comparison.returnedIds.push(before.id);
    if (isSame && !isAgain(shown)) {
      comparison.unchanged += 1;
      continue;
    }
    const sidecar = sidecars[i];
    comparison.toRead.push({
      name,
      shown,
      path: join(folder, name),
      sidecarPath: sidecar === undefined ? undefined : join(folder, sidecar),
      sizeBytes,
      mtimeMs,
      isNew: before === undefined,
    });
  }
  // What was left aside this time, or could not be listed, may well be there; and so may what came after the listing.
  if (!listing.problem)
    for (const [name, { id, missing }] of byName)
      if (!missing && !isIgnored(joinPath(listing.path, name)) && !(await isTaken(join(folder, name))))
        comparison.goneIds.push(id);
  return comparison;
}

/** Whether a folder was not walked because it or one above it is left aside, or could not be listed. */
export function liesAside(path: string, unlisted: readonly string[], isIgnored: (path: string) => boolean): boolean {
  const steps = path.split('/');
  return steps.some((_, i) => {
    const above = steps.slice(0, i + 1).join('/');
    return isIgnored(above) || unlisted.includes(above);
  });
}
