// What the files of a drive should hold, as a bag (BagIt, RFC 8493) whose payload is the drive itself: other programs can check it
// without us.

import { join, relative } from 'node:path';
import type { Database } from '../database/database';
import { StellinError } from '../errors';
import { writeLinkedBag } from '../files/linkedBag';
import { sharedSidecarPath, sidecarPath } from '../files/sidecars';
import * as store from './store';

/** Writes the bag into a folder that is not there yet. Its data/ leads to the drive where that is attached. */
export async function writeDriveBag(
  database: Database,
  label: string,
  folder: string,
): Promise<{ files: number; unread: number }> {
  const drive = await store.driveNamed(database, label);
  if (!drive) throw new StellinError('notFound', { what: `drive “${label}”` });
  const files = await writeLinkedBag(folder, drive.mountPoint, filesOf(database, drive), {
    'Bagging-Date': new Date().toISOString().slice(0, 10),
    'External-Description': `Photos on the drive ${drive.label}, as Stellin knows them`,
    'External-Identifier': drive.id,
  });
  return { files, unread: await store.countUnread(database, drive.id) };
}

/** Files and sidecars; one that several photos share stands once. */
async function* filesOf(
  database: Database,
  { id, mountPoint }: { id: string; mountPoint: string | null },
): AsyncGenerator<{ path: string; sha256: string }[]> {
  // What a sidecar is called is known of drives that are there; of others the usual name is written.
  const besideOf = (path: string) =>
    mountPoint === null ? sharedSidecarPath(path) : relative(mountPoint, sidecarPath(join(mountPoint, path)));
  const sidecars = new Set<string>();
  for await (const rows of store.knownHashes(database, id))
    yield rows.flatMap(({ path, sha256, sidecar }) => {
      const beside = besideOf(path);
      if (sidecar === null || sidecars.has(beside)) return [{ path, sha256 }];
      sidecars.add(beside);
      return [
        { path, sha256 },
        { path: beside, sha256: sidecar },
      ];
    });
}
