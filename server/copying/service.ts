// Copying in: what it would do, and setting the job to work.

import { join } from 'node:path';
import type { CopyPlan, CopyRequest } from '@stellin/contract/copying';
import type { Job } from '@stellin/contract/jobs';
import { countText } from '@stellin/contract/wording';
import type { Database } from '../database/database';
import type { Drives } from '../drives/service';
import { StellinError } from '../errors';
import { resolveInside } from '../files/drivePath';
import { fingerprintOf } from '../files/fingerprint';
import { walkFolders } from '../files/walk';
import type { FileReader } from '../intake/reader';
import type { Jobs } from '../jobs/service';
import { EMPTY_SOURCE_JOB } from './emptying';
import { COPY_JOB, copyParameters, exampleNames } from './job';
import * as store from './store';

export type CopyingIn = ReturnType<typeof copyingService>;

const EXAMPLES = 5;

export function copyingService(database: Database, drives: Drives, reader: FileReader, jobs: Jobs) {
  return {
    async plan(request: CopyRequest): Promise<CopyPlan> {
      const { mountPoint } = await drives.mountPointOf(request.driveKey);
      const first: { folder: string; name: string; path: string }[] = [];
      let [files, bytes] = [0, 0];
      for await (const { path, photos } of walkFolders(mountPoint, request.folder, request)) {
        const inside = await resolveInside(mountPoint, path);
        for (const name of photos) {
          const file = join(inside, name);
          bytes += fingerprintOf(file)?.sizeBytes ?? 0;
          if (first.length < EXAMPLES) first.push({ folder: path, name, path: file });
        }
        files += photos.length;
      }
      const read = await reader.read(first.map(({ path }) => ({ path, sidecarPath: undefined })));
      try {
        await requireRoom(request, bytes);
        const metadata = read.map((result) => (result.ok ? result.metadata : undefined));
        return { files, bytes, examples: exampleNames(request, first, metadata), problem: null };
      } catch (error) {
        if (!(error instanceof StellinError)) throw error;
        return { files, bytes, examples: [], problem: error.message };
      }
    },

    /** Starts the job that copies. */
    async start(request: CopyRequest, accountId: number): Promise<Job> {
      const { mountPoint, label } = await drives.mountPointOf(request.driveKey);
      const plan = await this.plan(request);
      if (plan.problem !== null) throw new StellinError('badRequest', { problem: plan.problem });
      if (plan.files === 0) throw new StellinError('nothingToDo', { why: `There are no photos in “${label}”.` });
      const { label: target } = await drives.requireWritable(request.toDriveId);
      return jobs.start(COPY_JOB, `Copy in ${label} to ${target}`, { ...request, mountPoint, label }, accountId, {
        mountPoint,
      });
    },

    /** Starts the job that empties the source of a copy job. */
    async empty(jobId: string, accountId: number): Promise<Job> {
      const copy = copyParameters.safeParse(await jobs.parametersOf(jobId));
      const job = await jobs.find(jobId);
      if (!copy.success || job.kind !== COPY_JOB)
        throw new StellinError('notFound', { what: 'such job of copying in' });
      const { failed, found, going } = await store.countSteps(database, jobId);
      if (job.state !== 'done' || failed + found + going > 0 || job.result['unlisted'] !== 0)
        throw new StellinError('notProven', {
          drive: copy.data.label,
          why: failed > 0 ? `${countText(failed, 'file')} could not be copied` : 'not all of it was copied',
        });
      const { mountPoint } = await drives.mountPointOf(copy.data.driveKey);
      return jobs.start(
        EMPTY_SOURCE_JOB,
        `Empty ${copy.data.label}`,
        { copyJobId: jobId, copy: { ...copy.data, mountPoint } },
        accountId,
      );
    },
  };

  async function requireRoom({ toDriveId, secondDriveId }: CopyRequest, bytes: number): Promise<void> {
    for (const id of [toDriveId, secondDriveId]) {
      if (id === null) continue;
      await drives.requireWritable(id);
      const drive = (await drives.list()).find((candidate) => candidate.id === id);
      if (drive?.freeBytes !== null && drive && drive.freeBytes < bytes)
        throw new StellinError('noRoom', { drive: drive.label });
    }
    if (toDriveId === secondDriveId)
      throw new StellinError('badRequest', { problem: 'the second copy has to go to another drive' });
  }
}
