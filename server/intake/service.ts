// Intake: looking into a drive, and taking it in.

import { stat } from 'node:fs/promises';
import { join } from 'node:path';
import { kindByName } from '@stellin/core/metadata/containers/index';
import type { Accession } from '@stellin/contract/intake';
import type { Job } from '@stellin/contract/jobs';
import type { Database } from '../database/database';
import type { Drives } from '../drives/service';
import { StellinError, systemCode } from '../errors';
import { resolveInside } from '../files/drivePath';
import { walkFolders } from '../files/walk';
import type { Jobs } from '../jobs/service';
import { INDEX_JOB } from './indexing';
import * as store from './store';

export type Intake = ReturnType<typeof intakeService>;

const MAX_SURVEYED = 20_000;

export function intakeService(database: Database, drives: Drives, jobs: Jobs) {
  return {
    /** Starts the job that indexes a drive, or a folder of it. */
    async takeIn(request: { driveKey: string; folder: string; subFolders: boolean }, accountId: number): Promise<Job> {
      const drive = await drives.catalogue(request.driveKey);
      const { mountPoint } = await drives.requireAttached(drive.id);
      const folder = request.folder.replace(/^\/+|\/+$/g, '');
      await requireFolder(mountPoint, drive.label, folder);
      const title = `Take in ${folder === '' ? drive.label : `${drive.label}, ${folder}`}`;
      const job = await jobs.start(
        INDEX_JOB,
        title,
        { driveId: drive.id, folder, subFolders: request.subFolders },
        accountId,
        { driveId: drive.id },
      );
      await database.notify(['drives']);
      return job;
    },

    /** Counts what a drive holds without reading any of it. */
    async survey(driveKey: string) {
      const { mountPoint } = await drives.mountPointOf(driveKey);
      const kinds: Record<string, number> = {};
      const folders: { path: string; photos: number }[] = [];
      let [files, bytes] = [0, 0];
      for await (const { path, photos } of walkFolders(mountPoint, '', true)) {
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
