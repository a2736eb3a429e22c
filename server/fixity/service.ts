// Whether files hold what they should, as people see it and have it looked at.

import type { DamagedFile, DriveFixity, FixityPlan } from '@stellin/contract/fixity';
import type { Job } from '@stellin/contract/jobs';
import type { LedgerEntry } from '@stellin/contract/ledger';
import { noteFindings } from '../catalogue/fixity';
import type { FileReader } from '../catalogue/reader';
import type { Viewer } from '../catalogue/viewer';
import type { Database } from '../database/database';
import { holdingFiles } from '../database/filesLock';
import type { Drives } from '../drives/service';
import { StellinError } from '../errors';
import { joinPath, resolveInside } from '../files/drivePath';
import type { Jobs } from '../jobs/service';
import { COPY_BACK_JOB } from './copyingBack';
import { readFixityPlan, writeFixityPlan } from './plan';
import { FIXITY_JOB, type FixityParameters } from './reading';
import * as store from './store';

export type Fixity = ReturnType<typeof fixityService>;

export function fixityService(database: Database, drives: Drives, reader: FileReader, jobs: Jobs) {
  return {
    async show(viewer: Viewer): Promise<{ plan: FixityPlan; drives: DriveFixity[] }> {
      const [plan, byDrive] = await Promise.all([readFixityPlan(database), store.fixityByDrive(database, viewer)]);
      return { plan, drives: byDrive };
    },

    listDamaged: (viewer: Viewer): Promise<DamagedFile[]> => store.damagedFiles(database, viewer),

    async settlePlan(plan: FixityPlan): Promise<void> {
      await writeFixityPlan(database, plan);
      await database.notify(['fixity']);
    },

    /** Starts reading a drive: all of it, at once and as fast as it goes. */
    async readDrive(driveId: string, accountId: number): Promise<Job> {
      const { label } = await drives.requireAttached(driveId);
      const parameters: FixityParameters = { driveId, since: new Date().toISOString() };
      return jobs.start(FIXITY_JOB, `Read the files of ${label} again`, parameters, accountId, { driveId });
    },

    /** Takes the file of a photo as it is now for the right one. */
    async accept(photoId: number): Promise<void> {
      await holdingFiles(database, 'together', async () => {
        const photo = await store.fileOfPhoto(database, photoId);
        if (!photo) throw new StellinError('notFound', { what: 'such photo' });
        const { mountPoint } = await drives.requireAttached(photo.driveId);
        const path = await resolveInside(mountPoint, joinPath(photo.folder, photo.name));
        const [read] = await reader.hashes([path]);
        if (!read?.ok)
          throw new StellinError('fileUnreadable', { file: photo.name, why: read?.message ?? 'it was not read' });
        await database.transaction(async (tx) => {
          await store.forgetKnown(database, photoId, tx);
          await noteFindings(database, [{ photoId, found: read, expected: null }], tx);
          await database.notify(['fixity', 'photos'], tx);
        });
      });
    },

    /** Sets the job to work that puts files back for an entry of the ledger. */
    async start({ id, title }: Pick<LedgerEntry, 'id' | 'title'>, accountId: number | null): Promise<void> {
      if (await store.hasCopiesBack(database, id)) await jobs.start(COPY_BACK_JOB, title, { entryId: id }, accountId);
    },

    /** Goes on with what a server that died had not set to work. */
    async recover(): Promise<void> {
      for (const { id, title, accountId } of await store.strandedCopies(database, COPY_BACK_JOB))
        await jobs.start(COPY_BACK_JOB, title, { entryId: id }, accountId);
    },
  };
}
