// Write-back: what waits, and setting the job to work that writes it.

import type { Job } from '@stellin/contract/jobs';
import type { Selection } from '@stellin/contract/photos';
import type { WritePolicies, WritePreview } from '@stellin/contract/writeback';
import type { Drives } from '../drives/service';
import type { FileWriter } from '../files/writer';
import type { GivenKeyword } from '../catalogue/givenKeyword';
import type { Viewer } from '../catalogue/viewer';
import type { Database, Transaction } from '../database/database';
import { StellinError } from '../errors';
import type { Jobs } from '../jobs/service';
import type { AfterChange } from '../ledger/service';
import { idsSql, selectionSql } from '../catalogue/selection';
import { photosToWrite } from './keywords';
import type { VocabularyIndex } from '../catalogue/vocabularySnapshot';
import { readPolicies, savePolicies } from './policies';
import * as store from './store';
import { TAKE_BACK_JOB } from './takingBack';
import { intendedOf, pathOf, recoverWrites, requestOf, WRITE_JOB } from './writing';

interface RunRequest {
  driveId?: string | undefined;
  selection?: Selection | undefined;
  retryFailed: boolean;
}

export type WriteBack = ReturnType<typeof writeBackService>;

export function writeBackService(database: Database, terms: VocabularyIndex) {
  // One closure for what its functions share; each of them fits a screen.
  return {
    async overview(viewer: Viewer) {
      const { onReturn } = await readPolicies(database);
      return store.overview(database, viewer, onReturn === 'ask');
    },
    listPending: (filter: Parameters<typeof store.listPending>[1]) => store.listPending(database, filter),
    /** Brings the queue in line with files that were just read: what they say now is what the catalogue is compared with. */
    async afterReading(photoIds: readonly number[], tx: Transaction): Promise<void> {
      await store.refreshWaiting(database, idsSql(photoIds), tx);
    },
    /** Queues what a change has to say to files. */
    afterChange: ((entryId, tx) => store.refreshAfterEntry(database, entryId, tx)) satisfies AfterChange,
    /** Queues photos whose terms give other keywords now. */
    async afterKeywords(given: readonly GivenKeyword[], tx: Transaction): Promise<void> {
      const photos = await photosToWrite(database, given, tx);
      if (photos) await store.queueForKeywords(database, photos(), tx);
    },
    /** How many files, by drive, are to be written anew when terms come to give other keywords. */
    async filesToWrite(given: readonly GivenKeyword[]): Promise<store.FilesOfDrive[]> {
      const photos = await photosToWrite(database, given);
      return photos ? store.filesByDrive(database, photos) : [];
    },
    /** Sorts out what a killed process left behind. */
    recover: () => recoverWrites(database),

    listVersions: (photoId: number) => store.listVersions(database, photoId),

    /** Starts bringing the files of a selection back to what they were before their last write. */
    async takeBack(jobs: Jobs, selection: Selection, accountId: number): Promise<Job> {
      const count = await store.countVersions(database, selectionSql(selection));
      if (count === 0)
        throw new StellinError('nothingToDo', { why: 'None of these files was written, or their drive is away.' });
      return jobs.start(TAKE_BACK_JOB, 'Take writes back', { selection }, accountId, {});
    },

    /** Starts writing what waits on attached drives, or on one of them. */
    async run(jobs: Jobs, request: RunRequest, accountId: number | null): Promise<Job> {
      const driveId = request.driveId ?? null;
      const chosen = request.selection ?? null;
      const scope = { driveId, photos: chosen && selectionSql(chosen) };
      if (request.retryFailed) {
        // What was cut off and could not be sorted out so far, perhaps can be now.
        await recoverWrites(database);
        await store.retryFailed(database, scope);
      }
      const count = await store.countTasks(database, scope);
      if (count === 0) throw new StellinError('nothingToDo', { why: 'Nothing waits on a drive that is attached.' });
      return jobs.start(WRITE_JOB, 'Write back', { driveId, selection: chosen }, accountId, {});
    },

    policies: () => readPolicies(database),
    /** Changes how files are written: what is withheld from now on no longer waits, what no longer is waits. */
    async savePolicies(policies: WritePolicies): Promise<WritePolicies> {
      await database.transaction(async (tx) => {
        await savePolicies(database, policies, tx);
        await store.refreshWaiting(database, { sql: store.DIFFERING_SQL, bind: [] }, tx);
        await database.notify(['writeBack', 'photos'], tx);
      });
      return policies;
    },

    conflicts: () => store.countConflicts(database),

    /** What the next write would do to a photo's files. Throws a StellinError when they can't be reached. */
    async preview(photoId: number, drives: Drives, writer: FileWriter): Promise<WritePreview> {
      const task = await store.taskOf(database, photoId);
      if (!task) throw new StellinError('notFound', { what: 'such photo' });
      await drives.requireAttached(task.driveId);
      const path = await pathOf(task);
      const made =
        typeof path === 'string'
          ? await writer.preview(
              requestOf(task, intendedOf(task, await terms.current()), path, await readPolicies(database)),
            )
          : path;
      if (!made.ok) throw new StellinError('fileUnreadable', { file: task.name, why: made.message });
      return made;
    },
  };
}
