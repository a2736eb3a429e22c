// Jobs that make what films and sounds are looked at and played by. What is there already is passed over, so one that was cut off
// goes on where it was.

import { z } from 'zod';
import type { Database } from '../database/database';
import type { Reread } from '../catalogue/rereading';
import type { Drives } from '../drives/service';
import { messageOf } from '../errors';
import { resolveInside } from '../files/drivePath';
import { sidecarBeside } from '../files/planWrite';
import type { JobKind } from '../jobs/service';
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
  /** Reads a file of which nothing is known yet, once more. */
  const toldNow = async (file: store.MediaRow): Promise<store.MediaRow | undefined> => {
    const { driveId, folderId, name, mountPoint } = file;
    if (mountPoint === null) return undefined;
    const path = await resolveInside(mountPoint, file.path);
    await database.transaction((tx) =>
      reread([{ driveId, folderId, name, path, sidecarPath: sidecarBeside(path) }], tx),
    );
    return store.findMedia(database, file.id);
  };
  return {
    kind: MEDIA_JOB,
    takesRoom: true,
    async run(run) {
      await run.progress({ done: 0, total: await store.countAttachedMedia(database) });
      let [after, made] = [0, 0];
      for (;;) {
        const files = await store.attachedMedia(database, after);
        if (files.length === 0) {
          await media.prune();
          return { made };
        }
        for (const file of files) {
          try {
            const told = file.isTold ? file : await toldNow(file);
            if (told && (await media.prepare(told))) made += 1;
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
