// The job that reads the text in pictures, one after the other: it is in no hurry. What was read is passed over, so one that was cut off
// goes on where it was.

import type { Database } from '../database/database';
import type { Drives } from '../drives/service';
import { messageOf } from '../errors';
import { MissingTool } from '../files/tools';
import type { JobKind } from '../jobs/service';
import { TEXT_JOB } from './jobNames';
import type { PictureTexts } from './service';
import * as store from './store';

const PICTURES_PER_BATCH = 10;

export function pictureTextJob(database: Database, drives: Drives, texts: PictureTexts): JobKind {
  return {
    kind: TEXT_JOB,
    async run(run) {
      await run.progress({ done: 0, total: await store.countToRead(database) });
      let [after, withText] = [0, 0];
      for (;;) {
        const tasks = await store.nextToRead(database, after, PICTURES_PER_BATCH);
        if (tasks.length === 0) return { withText };
        const read: store.ReadText[] = [];
        for (const task of tasks) {
          after = task.id;
          await run.progress({ done: Math.min(run.total, run.done + 1), current: `Reading ${task.path}` });
          const { mountPoint } = task;
          if (mountPoint === null) continue;
          try {
            read.push(await texts.read({ ...task, mountPoint }));
          } catch (error) {
            // Without the program nothing can be read.
            if (error instanceof MissingTool) throw error;
            // Of a drive that has just gone the next run reads them.
            if (await drives.isAttached(task.driveId)) await run.failure(task.path, messageOf(error));
          }
        }
        await texts.note(read);
        withText += read.filter(({ text }) => text !== '').length;
      }
    },
  };
}
