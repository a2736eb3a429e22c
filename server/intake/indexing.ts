// The indexing job: first records of all files, so that a new drive can be searched soon, then their previews. Each step
// can be repeated, so a job that was cut off goes on by running again: files that are known and unchanged are passed over.

import { join } from 'node:path';
import { stat } from 'node:fs/promises';
import { z } from 'zod';
import { countText } from '@stellin/contract/wording';
import type { Database, Transaction } from '../database/database';
import type { Drives } from '../drives/service';
import { messageOf, StellinError, systemCode } from '../errors';
import { faultPoint } from '../files/fault';
import { sameTime } from '../files/fingerprint';
import { joinPath, resolveInside } from '../files/drivePath';
import type { RecordRequest } from '../files/readRecords.worker';
import type { RecordReader } from '../files/reader';
import { baseName, walkFolders, type FolderListing } from '../files/walk';
import { DriveGone, type JobKind, type JobRun } from '../jobs/service';
import type { WriteBack } from '../writeback/service';
import type { Previews } from './previews';
import { recordOf, type PhotoRecord } from './record';
import * as store from './store';

export const INDEX_JOB = 'index';
export const indexParameters = z.object({ driveId: z.uuid(), folder: z.string(), subFolders: z.boolean() });
type Parameters = z.infer<typeof indexParameters>;

interface Services {
  database: Database;
  drives: Drives;
  previews: Previews;
  reader: RecordReader;
  writeBack: Pick<WriteBack, 'afterReading'>;
}

const BATCH = 32;
const PREVIEW_BATCH = 8;
/** What the file system says when a drive has gone. */
const GONE_CODES = new Set(['ENOENT', 'ENOTDIR', 'EIO', 'ENODEV', 'ENXIO', 'ESTALE']);

export function indexingJob(services: Services): JobKind {
  return {
    kind: INDEX_JOB,
    async run(run) {
      const parameters = indexParameters.parse(run.parameters);
      const drive = await services.drives.requireAttached(parameters.driveId).catch((error: unknown) => {
        if (error instanceof StellinError && error.code === 'driveAway')
          throw new DriveGone(parameters.driveId, 'of this accession');
        throw error;
      });
      const accessionId = await store.ensureAccession(services.database, {
        jobId: run.id,
        driveId: drive.id,
        folder: parameters.folder,
        accountId: run.accountId,
      });
      try {
        await indexRecords(services, run, parameters, drive.mountPoint, accessionId);
        await indexPreviews(services, run, drive);
      } catch (error) {
        if (await wentAway(services.drives, drive.id, error)) throw new DriveGone(drive.id, drive.label);
        throw error;
      }
      const accession = await store.finishAccession(services.database, accessionId);
      await services.database.notify(['accessions', 'photos', 'drives']);
      return {
        accession: accessionId,
        new: accession?.photosNew ?? 0,
        changed: accession?.photosChanged ?? 0,
        damaged: accession?.damaged ?? 0,
      };
    },
  };
}

async function indexRecords(
  services: Services,
  run: JobRun,
  parameters: Parameters,
  mountPoint: string,
  accessionId: number,
): Promise<void> {
  const listings: FolderListing[] = [];
  let files = 0;
  for await (const listing of walkFolders(mountPoint, parameters.folder, parameters.subFolders)) {
    if (listing.problem) await run.failure(listing.path, listing.problem);
    if (listing.photos.length === 0) continue;
    listings.push(listing);
    files += listing.photos.length;
    await run.progress({ current: `Looking through ${listing.path || 'the drive'}: ${countText(files, 'photo')}` });
  }
  // Records count once and previews once.
  let done = 0;
  await run.progress({ done, total: files * 2, current: 'Reading' });
  for (const listing of listings) {
    const folderId = await store.ensureFolder(services.database, parameters.driveId, listing.path);
    const changed = await changedFiles(services, mountPoint, listing, folderId, run);
    done += listing.photos.length - changed.length;
    for (let at = 0; at < changed.length; at += BATCH) {
      const batch = changed.slice(at, at + BATCH);
      await indexBatch(services, run, parameters.driveId, accessionId, folderId, batch);
      faultPoint('index:batch');
      done += batch.length;
      await run.progress({ done, current: `Reading ${listing.path || 'the drive'}` });
    }
  }
}

interface FileToRead extends RecordRequest {
  name: string;
  /** Below the drive, for messages. */
  shown: string;
}

async function changedFiles(
  services: Services,
  mountPoint: string,
  listing: FolderListing,
  folderId: number,
  run: JobRun,
): Promise<FileToRead[]> {
  const known = new Map((await store.knownFiles(services.database, folderId)).map((file) => [file.name, file]));
  const folderPath = await resolveInside(mountPoint, listing.path);
  const changed: FileToRead[] = [];
  for (const name of listing.photos) {
    const sidecar = listing.sidecars.get(baseName(name));
    const file = {
      name,
      shown: joinPath(listing.path, name),
      path: join(folderPath, name),
      sidecarPath: sidecar && join(folderPath, sidecar),
    };
    const before = known.get(name);
    if (!before || !(await isUnchanged(file, before, run))) changed.push(file);
  }
  return changed;
}

async function isUnchanged(file: FileToRead, before: store.KnownFile, run: JobRun): Promise<boolean> {
  try {
    const [now, sidecar] = await Promise.all([stat(file.path), file.sidecarPath ? stat(file.sidecarPath) : null]);
    return (
      now.size === before.sizeBytes &&
      sameTime(now.mtimeMs, before.mtimeMs) &&
      sameTime(sidecar?.mtimeMs ?? null, before.sidecarMtimeMs)
    );
  } catch (error) {
    if (GONE_CODES.has(systemCode(error) ?? '')) throw error;
    await run.failure(file.shown, messageOf(error));
    return true;
  }
}

async function indexBatch(
  services: Services,
  run: JobRun,
  driveId: string,
  accessionId: number,
  folderId: number,
  files: readonly FileToRead[],
): Promise<void> {
  const { database, reader, writeBack } = services;
  const results = await reader.read(files.map(({ path, sidecarPath }) => ({ path, sidecarPath })));
  const records: PhotoRecord[] = [];
  for (const [i, file] of files.entries()) {
    const result = results[i];
    if (result?.ok) records.push(recordOf(folderId, file.name, result));
    else if (result && GONE_CODES.has(result.code ?? ''))
      throw Object.assign(new Error(result.message), { code: result.code });
    else await run.failure(file.shown, result?.message ?? 'was not read');
  }
  if (records.length === 0) return;
  await database.transaction(async (tx) => {
    const ids = await store.saveRecords(database, driveId, accessionId, records, tx);
    await writeBack.afterReading(ids, tx);
    await database.notify(['photos', 'drives'], tx);
  });
}

/** Reads files again whose metadata we have just written ourselves. Returns what could not be read. */
export async function rereadFiles(
  { database, reader, writeBack }: Pick<Services, 'database' | 'reader' | 'writeBack'>,
  files: readonly { driveId: string; folderId: number; name: string; path: string; sidecarPath: string | undefined }[],
  tx: Transaction,
): Promise<string[]> {
  const results = await reader.read(files.map(({ path, sidecarPath }) => ({ path, sidecarPath })));
  const problems: string[] = [];
  const byDrive = new Map<string, PhotoRecord[]>();
  for (const [i, file] of files.entries()) {
    const result = results[i];
    if (result?.ok)
      byDrive.set(file.driveId, [...(byDrive.get(file.driveId) ?? []), recordOf(file.folderId, file.name, result)]);
    else problems.push(`${file.name}: ${result?.message ?? 'was not read'}`);
  }
  for (const [driveId, records] of byDrive) {
    const ids = await store.saveRecords(database, driveId, null, records, tx);
    await writeBack.afterReading(ids, tx);
  }
  await database.notify(['photos', 'writeBack'], tx);
  return problems;
}

async function indexPreviews(
  { database, previews }: Services,
  run: JobRun,
  drive: { id: string; mountPoint: string },
): Promise<void> {
  const count = await store.countPreviewTasks(database, drive.id);
  let done = count;
  await run.progress({ done, total: count * 2, current: 'Making previews' });
  let after = 0;
  for (;;) {
    const tasks = await store.previewTasks(database, drive.id, after, PREVIEW_BATCH);
    if (tasks.length === 0) return;
    await previews.make(drive.mountPoint, tasks, run.failure);
    after = tasks.at(-1)?.id ?? after;
    done += tasks.length;
    await database.notify(['photos']);
    await run.progress({ done, current: `Making previews: ${tasks[0]?.path ?? ''}` });
  }
}

async function wentAway(drives: Drives, driveId: string, error: unknown): Promise<boolean> {
  return GONE_CODES.has(systemCode(error) ?? '') && !(await drives.isAttached(driveId));
}
