// The write-back job: photo by photo, what waits goes into the files of attached drives. A journal row stands for every
// write under way, so that a killed process leaves nothing that the next one can't sort out.

import { join } from 'node:path';
import { z } from 'zod';
import type { FieldChanges } from '@stellin/core/metadata/write';
import type { Job } from '@stellin/contract/jobs';
import type { Database } from '../database/database';
import type { Drives } from '../drives/service';
import { messageOf, systemCode } from '../errors';
import { joinPath, resolveInside } from '../files/drivePath';
import { faultPoint } from '../files/fault';
import { ChangedFileError, removeLeftover } from '../files/replace';
import { DriveGone, type JobKind, type JobRun } from '../jobs/service';
import * as store from './store';
import { saysAlready, temporaryPaths, writePhotoFile } from './writeFile';

export const WRITE_JOB = 'writeBack';
export const writeParameters = z.object({ driveId: z.uuid().nullable() });

const BATCH = 50;

export function writingJob(database: Database, drives: Drives): JobKind {
  return {
    kind: WRITE_JOB,
    async run(run) {
      const { driveId } = writeParameters.parse(run.parameters);
      await recoverWrites(database);
      const counts = { written: 0, conflict: 0, failed: 0 };
      await run.progress({ done: 0, total: await store.countTasks(database, driveId) });
      let after = 0;
      for (
        let tasks = await store.nextTasks(database, driveId, after, BATCH);
        tasks.length > 0;
        tasks = await store.nextTasks(database, driveId, after, BATCH)
      ) {
        for (const task of tasks) {
          counts[await writeTask(database, drives, run, task)] += 1;
          after = task.id;
          await run.progress({
            done: counts.written + counts.conflict + counts.failed,
            current: `Writing ${task.driveLabel}: ${joinPath(task.folderPath, task.name)}`,
          });
        }
      }
      return counts satisfies Job['result'];
    },
  };
}

/** Sorts out writes that were cut off: leftovers are removed; where the new file is in place already, the write counts as made. */
export async function recoverWrites(database: Database): Promise<number> {
  const open = await store.openWrites(database);
  for (const task of open) {
    const path = join(task.mountPoint, task.folderPath, task.name);
    for (const temporary of task.temporary) await removeLeftover(join(task.mountPoint, temporary));
    const made = await saysAlready({ path, kind: task.kind }, task.intended);
    if (made)
      await store.recordWritten(database, task.id, {
        ...made.file,
        sidecarMtimeMs: made.sidecarMtimeMs,
        ...task.intended,
      });
    else await store.closeJournal(database, task.id);
  }
  return open.length;
}

async function writeTask(
  database: Database,
  drives: Drives,
  run: JobRun,
  task: store.WriteTask,
): Promise<'written' | 'conflict' | 'failed'> {
  const shown = joinPath(task.folderPath, task.name);
  const intended: store.Intended = {
    keywords: [...new Set([...task.freeKeywords, ...task.termKeywords])],
    termKeywords: task.termKeywords,
    rating: task.rating,
  };
  try {
    const path = await resolveInside(task.mountPoint, shown);
    await store.openJournal(database, task.id, leftoversOf(shown), intended);
    faultPoint('write:journaled');
    const written = await writePhotoFile(
      {
        path,
        kind: task.kind,
        expected: { sizeBytes: task.sizeBytes, mtimeMs: task.mtimeMs },
        sidecarMtimeMs: task.sidecarMtimeMs,
      },
      changesFor(task, intended),
    );
    await store.recordWritten(database, task.id, {
      ...written.file,
      sidecarMtimeMs: written.sidecarMtimeMs,
      ...intended,
    });
    faultPoint('write:recorded');
    return 'written';
  } catch (error) {
    if (systemCode(error) !== undefined && !(await drives.isAttached(task.driveId)))
      throw new DriveGone(task.driveId, task.driveLabel);
    await store.closeJournal(database, task.id);
    const state = error instanceof ChangedFileError ? 'conflict' : 'failed';
    const message = state === 'conflict' ? 'Another program has changed the file since it was read.' : messageOf(error);
    await store.recordProblem(database, task.id, state, message);
    await run.failure(`${task.driveLabel}: ${shown}`, message);
    await database.notify(['writeBack', 'photos']);
    return state;
  }
}

function changesFor(task: store.WriteTask, intended: store.Intended): FieldChanges {
  const rating = task.rating === task.ratingWritten ? {} : { rating: task.rating };
  return { keywords: intended.keywords, ...rating };
}

/** The temporary files of a write, as paths below the drive. */
function leftoversOf(shown: string): string[] {
  const { file, sidecar } = temporaryPaths(shown);
  return [file, sidecar];
}
