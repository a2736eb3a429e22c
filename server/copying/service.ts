// Copying in: what it would do, and setting the job to work.

import { join } from 'node:path';
import { PROGRAM } from '../catalogue/viewer';
import type { CopyPlan, CopyRequest } from '@stellin/contract/copying';
import type { Job } from '@stellin/contract/jobs';
import type { Drives } from '../drives/service';
import { StellinError } from '../errors';
import { resolveInside } from '../files/drivePath';
import { fingerprintOf } from '../files/fingerprint';
import { walkFolders } from '../files/walk';
import type { FileReader } from '../catalogue/reader';
import type { Jobs } from '../jobs/service';
import { EMPTY_SOURCE_JOB, PROVE_SOURCE_JOB } from './emptying';
import { COPY_JOB, copyParameters, exampleNames, type CopyParameters } from './job';
import { requireOwnSource } from './proving';

export type CopyingIn = ReturnType<typeof copyingService>;

const EXAMPLES_SHOWN = 5;

export function copyingService(drives: Drives, reader: FileReader, jobs: Jobs) {
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
          if (first.length < EXAMPLES_SHOWN) first.push({ folder: path, name, path: file });
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

    /** Starts the job that proves what of the source of a copy job is elsewhere. */
    async prove(jobId: string, accountId: number): Promise<Job> {
      const copy = await sourceOf(jobId);
      return jobs.start(PROVE_SOURCE_JOB, `Prove what is on ${copy.label}`, { copyJobId: jobId, copy }, accountId);
    },

    /** Starts the job that deletes from the source of a copy job what is proven to be elsewhere. */
    async empty(jobId: string, accountId: number): Promise<Job> {
      const copy = await sourceOf(jobId);
      return jobs.start(EMPTY_SOURCE_JOB, `Empty ${copy.label}`, { copyJobId: jobId, copy }, accountId);
    },
  };

  /** The source of a copy job that has ended, where it is mounted now. Refuses one that belongs to a catalogued drive. */
  async function sourceOf(jobId: string): Promise<CopyParameters> {
    const copy = copyParameters.safeParse(await jobs.parametersOf(jobId));
    const job = await jobs.find(jobId);
    if (!copy.success || job.kind !== COPY_JOB) throw new StellinError('notFound', { what: 'such job of copying in' });
    if (job.state !== 'done')
      throw new StellinError('notProven', { drive: copy.data.label, why: 'not all of it was copied' });
    const { mountPoint } = await drives.mountPointOf(copy.data.driveKey);
    const source = { ...copy.data, mountPoint };
    await requireOwnSource(drives, source);
    return source;
  }

  async function requireRoom({ toDriveId, secondDriveId }: CopyRequest, bytes: number): Promise<void> {
    for (const id of [toDriveId, secondDriveId]) {
      if (id === null) continue;
      await drives.requireWritable(id);
      const drive = (await drives.list(PROGRAM)).find((candidate) => candidate.id === id);
      if (drive?.freeBytes !== null && drive && drive.freeBytes < bytes)
        throw new StellinError('noRoom', { drive: drive.label });
    }
    if (toDriveId === secondDriveId)
      throw new StellinError('badRequest', { problem: 'the second copy has to go to another drive' });
  }
}
