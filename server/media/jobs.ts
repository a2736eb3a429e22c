// Jobs that make what films and sounds are looked at and played by. What is there already is passed over, so one that was cut off
// goes on where it was.

import { z } from 'zod';
import type { Database } from '../database/database';
import type { Drives } from '../drives/service';
import { messageOf } from '../errors';
import type { JobKind } from '../jobs/service';
import { MEDIA_JOB, PLAYABLE_JOB } from './jobNames';
import type { MediaService } from './service';
import * as store from './store';

export function mediaPartsJob(database: Database, drives: Drives, media: MediaService): JobKind {
  return {
    kind: MEDIA_JOB,
    takesRoom: true,
    async run(run) {
      await run.progress({ done: 0, total: await store.countAttachedMedia(database) });
      let [after, made] = [0, 0];
      for (;;) {
        const files = await store.attachedMedia(database, after);
        if (files.length === 0) return { made };
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
