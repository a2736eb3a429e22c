// Jobs that make what films and sounds are looked at and played by. What is there already is passed over, so one that was cut off
// goes on where it was.

import { z } from 'zod';
import type { Database } from '../database/database';
import type { Reread } from '../catalogue/rereading';
import type { Drives } from '../drives/service';
import { messageOf } from '../errors';
import { resolveInside } from '../files/drivePath';
import { sidecarBeside } from '../files/sidecars';
import type { JobKind, JobRun } from '../jobs/service';
import { MEDIA_JOB, PLAYABLE_JOB } from './jobNames';
import type { MediaService } from './service';
import * as store from './store';

interface Services {
  database: Database;
  drives: Drives;
  media: MediaService;
  reread: Reread;
}

export function mediaPartsJob({ database, drives, media, reread }: Services): JobKind {
  /** Reads files of which nothing is known yet once more; gives the page as it is then. */
  const told = async (run: JobRun, files: store.UntoldRow[], after: number): Promise<store.UntoldRow[]> => {
    const untold = files.filter(({ isTold }) => !isTold);
    if (untold.length === 0) return files;
    const found = await Promise.all(
      untold.map(async ({ driveId, folderId, name, mountPoint, path: below }) => {
        const path = await resolveInside(mountPoint ?? '', below).catch(async (error: unknown) => {
          // Of a drive that has just gone the next run reads them.
          if (await drives.isAttached(driveId)) await run.failure(below, messageOf(error));
          return undefined;
        });
        return path === undefined ? [] : [{ driveId, folderId, name, path, sidecarPath: sidecarBeside(path) }];
      }),
    );
    const unread = await database.transaction((tx) => reread(found.flat(), tx));
    for (const { name, message } of unread) await run.failure(name, message);
    return store.attachedMedia(database, after);
  };
  return {
    kind: MEDIA_JOB,
    takesRoom: true,
    async run(run) {
      await run.progress({ done: 0, total: await store.countAttachedMedia(database) });
      let [after, made] = [0, 0];
      for (;;) {
        const files = await told(run, await store.attachedMedia(database, after), after);
        if (files.length === 0) {
          await media.prune();
          return { made };
        }
        for (const file of files) {
          try {
            if (await media.prepare(file)) made += 1;
          } catch (error) {
            // Of a drive that has just gone the next run makes them.
            if (await drives.isAttached(file.driveId)) await run.failure(file.path, messageOf(error));
          }
          await run.progress({ done: Math.min(run.total, run.done + 1), current: `Looking through ${file.path}` });
          after = file.id;
        }
      }
    },
  };
}

export function playableJob(media: MediaService): JobKind {
  const parameters = z.object({ photoId: z.number() });
  return {
    kind: PLAYABLE_JOB,
    takesRoom: true,
    async run(run) {
      await run.progress({ done: 0, total: 1 });
      await media.makeCopy(parameters.parse(run.parameters).photoId);
      await run.progress({ done: 1 });
      return { made: 1 };
    },
  };
}
