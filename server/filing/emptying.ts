// Emptying the trash of a drive: the files go first, then what the catalogue knows of them.

import { join } from 'node:path';
import { z } from 'zod';
import type { Database } from '../database/database';
import { holdingFiles } from '../database/filesLock';
import type { Drives } from '../drives/service';
import { resolveInside } from '../files/drivePath';
import { faultPoint } from '../files/fault';
import { problemOf } from '../files/problem';
import { removeFile } from '../files/relocate';
import { baseName } from '../files/sidecars';
import { sidecarsIn } from '../files/walk';
import { DriveGone, orWaitFor, type JobKind, type JobRun } from '../jobs/service';
import * as store from './store';

export const EMPTY_TRASH_JOB = 'emptyTrash';
const parameters = z.object({ driveId: z.uuid() });
const FILES_PER_BATCH = 100;

interface Services {
  database: Database;
  drives: Drives;
  /** Deletes what is kept of photos that are going for good. */
  removePictures: (photos: readonly store.KeptPictures[]) => Promise<void>;
}

export function emptyingJob({ database, drives, removePictures }: Services): JobKind {
  return {
    kind: EMPTY_TRASH_JOB,
    async run(run) {
      const { driveId } = parameters.parse(run.parameters);
      await run.progress({ done: 0, total: await store.countTrashed(database, driveId) });
      let [after, deleted, seen] = [0, 0, 0];
      for (;;) {
        const batch = await holdingFiles(database, 'alone', async () => {
          const drive = await orWaitFor(driveId, 'with the trash', drives.requireAttached(driveId));
          const files = await store.nextTrashed(database, driveId, after, FILES_PER_BATCH);
          const sharers = await store.sharersOf(database, files);
          const gone = await deleteFiles(drive.mountPoint, files, sharers, run);
          faultPoint('trash:deleted');
          // A drive that was pulled out has no files either, and that means nothing.
          if (!(await drives.isAttached(driveId))) throw new DriveGone(driveId, drive.label);
          // Cut off in between, the photos are still there to be deleted again.
          await removePictures(await store.picturesOf(database, gone));
          await store.forget(database, gone);
          return { files, gone };
        });
        if (batch.files.length === 0) break;
        after = batch.files.at(-1)?.id ?? after;
        deleted += batch.gone.length;
        seen += batch.files.length;
        await database.notify(['photos', 'drives']);
        await run.progress({ done: seen, current: batch.files.at(-1)?.name ?? '' });
      }
      return { deleted };
    },
  };
}

/** Deletes files with the sidecars nobody else needs; `sharers` tells how many photos there are of a base name. Returns the photos whose files are gone. */
async function deleteFiles(
  mountPoint: string,
  files: readonly store.TrashedFile[],
  sharers: ReadonlyMap<string, number>,
  run: JobRun,
): Promise<number[]> {
  const gone: number[] = [];
  const goneAlike = new Map<string, number>();
  for (const { id, folderId, folder, name, base } of files) {
    try {
      const inside = await resolveInside(mountPoint, folder);
      await removeFile(join(inside, name));
      const sidecars = await sidecarsIn(inside);
      const [own, sidecar] = [sidecars.get(name.toLowerCase()), sidecars.get(baseName(name))];
      if (own !== undefined) await removeFile(join(inside, own));
      gone.push(id);
      const key = store.sharerKey(folderId, base);
      const count = (goneAlike.get(key) ?? 0) + 1;
      goneAlike.set(key, count);
      // Whoever shares it may be trashed as well and come later.
      if (sidecar !== undefined && count >= (sharers.get(key) ?? 0)) await removeFile(join(inside, sidecar));
    } catch (error) {
      await run.failure(name, problemOf(error));
    }
  }
  return gone;
}
