// Write-back: what waits, and setting the job to work that writes it.

import type { Job } from '@stellin/contract/jobs';
import type { Selection } from '@stellin/contract/photos';
import type { Database, Transaction } from '../database/database';
import { StellinError } from '../errors';
import type { Jobs } from '../jobs/service';
import type { AfterChange } from '../ledger/service';
import { selectionSql } from '../photos/selection';
import { photosToWrite, type GivenKeyword } from './keywords';
import * as store from './store';
import { TAKE_BACK_JOB } from './takingBack';
import { recoverWrites, WRITE_JOB } from './writing';

export type WriteBack = ReturnType<typeof writeBackService>;

export function writeBackService(database: Database) {
  return {
    overview: () => store.overview(database),
    listPending: (filter: Parameters<typeof store.listPending>[1]) => store.listPending(database, filter),
    /** Brings the queue in line with files that were just read: what they say now is what the catalogue is compared with. */
    async afterReading(photoIds: readonly number[], tx: Transaction): Promise<void> {
      await store.reopenConflicts(database, photoIds, tx);
      await store.refreshWaiting(database, { sql: 'select unnest($1::int[]) as id', bind: [photoIds] }, tx);
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
    async run(jobs: Jobs, request: { driveId?: string; retryFailed: boolean }, accountId: number): Promise<Job> {
      const driveId = request.driveId ?? null;
      if (request.retryFailed) await store.retryFailed(database, driveId);
      const count = await store.countTasks(database, driveId);
      if (count === 0) throw new StellinError('nothingToDo', { why: 'Nothing waits on a drive that is attached.' });
      return jobs.start(WRITE_JOB, 'Write back', { driveId }, accountId, {});
    },
  };
}
