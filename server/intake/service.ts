// Intake: looking into a drive, and taking it in.

import { stat } from 'node:fs/promises';
import { join } from 'node:path';
import { FILE_KINDS, kindByName } from '@stellin/core/metadata/containers/index';
import { z } from 'zod';
import type { Accession, intakeRoutes } from '@stellin/contract/intake';
import type { Job } from '@stellin/contract/jobs';
import type { Database } from '../database/database';
import type { Drives } from '../drives/service';
import { StellinError, systemCode } from '../errors';
import { resolveInside } from '../files/drivePath';
import { walkFolders } from '../files/walk';
import type { Jobs } from '../jobs/service';
import * as store from './store';

type TakeInRequest = z.input<typeof intakeRoutes.takeIn.body>;
export const INDEX_JOB = 'index';
export const indexParameters = z.object({
  driveId: z.uuid(),
  folder: z.string(),
  subFolders: z.boolean(),
  leaveOut: z.array(z.enum(FILE_KINDS)).default([]),
  ignore: z.array(z.string()).default([]),
  /** Only files of photos that are missing are looked for; no others are taken in. */
  missingOnly: z.boolean().default(false),
  /** Only these folders, each by itself, are looked at. */
  only: z.array(z.string()).optional(),
  /** Only folders that hold photos of the catalogue are looked at, and every file in them is read, whether it looks changed or not. */
  known: z.boolean().default(false),
  /** Where the files were copied from. */
  source: z.string().default(''),
  /** Begun by itself: an accession in which nothing happened is not kept. */
  quiet: z.boolean().default(false),
  /** A job whose failures are to be tried again. */
  again: z.uuid().optional(),
  /** The template that new photos get. */
  templateId: z.number().nullable().default(null),
  /** The dossier into which they are put. */
  dossierId: z.number().nullable().default(null),
});

export type Intake = ReturnType<typeof intakeService>;

const MAX_SURVEYED = 20_000;

export function intakeService(database: Database, drives: Drives, jobs: Jobs) {
  return {
    /** Starts the job that indexes a drive, or a folder of it. */
    async takeIn(request: TakeInRequest, accountId: number): Promise<Job> {
      const drive = await drives.catalogue(request.driveKey);
      const { mountPoint } = await drives.requireAttached(drive.id);
      const folder = (request.folder ?? '').replace(/^\/+|\/+$/g, '');
      await requireFolder(mountPoint, drive.label, folder);
      const { subFolders = true, leaveOut = [], ignore = [], missingOnly = false, templateId = null } = request;
      const place = folder === '' ? drive.label : `${drive.label}, ${folder}`;
      const job = await jobs.start(
        INDEX_JOB,
        missingOnly ? `Look for missing photos on ${place}` : `Take in ${place}`,
        { driveId: drive.id, folder, subFolders, leaveOut, ignore, missingOnly, templateId },
        accountId,
        { driveId: drive.id },
      );
      await database.notify(['drives']);
      return job;
    },

    /** Takes in again what a job could not, with what has changed since. */
    async tryAgain(jobId: string, accountId: number): Promise<Job> {
      const parameters = indexParameters.safeParse(await jobs.parametersOf(jobId));
      if (!parameters.success) throw new StellinError('notFound', { what: 'accession of this job' });
      const { driveId, folder } = parameters.data;
      const { label } = await drives.requireAttached(driveId);
      return jobs.start(
        INDEX_JOB,
        `Try again ${folder === '' ? label : `${label}, ${folder}`}`,
        { ...parameters.data, again: jobId },
        accountId,
        { driveId },
      );
    },

    /** Counts what a drive holds without reading any of it. */
    async survey(driveKey: string) {
      const { mountPoint } = await drives.mountPointOf(driveKey);
      const kinds: Record<string, number> = {};
      const folders: { path: string; photos: number }[] = [];
      let [files, bytes] = [0, 0];
      for await (const { path, photos } of walkFolders(mountPoint, '', { subFolders: true })) {
        if (photos.length) folders.push({ path, photos: photos.length });
        for (const name of photos) {
          const kind = kindByName(name) ?? 'other';
          kinds[kind] = (kinds[kind] ?? 0) + 1;
          bytes += (await stat(join(mountPoint, path, name))).size;
          files += 1;
        }
        if (files > MAX_SURVEYED) return { files, bytes, kinds, folders, complete: false };
      }
      return { files, bytes, kinds, folders, complete: true };
    },

    accessions: (): Promise<Accession[]> => store.listAccessions(database),
  };
}

async function requireFolder(mountPoint: string, drive: string, folder: string): Promise<void> {
  try {
    if ((await stat(await resolveInside(mountPoint, folder))).isDirectory()) return;
  } catch (error) {
    if (systemCode(error) !== 'ENOENT' && systemCode(error) !== 'ENOTDIR') throw error;
  }
  throw new StellinError('folderMissing', { drive, folder });
}
