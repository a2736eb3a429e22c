// The job that puts good copies in the place of damaged files, or, when that is taken back, the damaged ones in theirs. What the
// catalogue says stands: the file is written anew where it says otherwise.

import { z } from 'zod';
import type { FileReader } from '../catalogue/reader';
import type { Reread } from '../catalogue/rereading';
import { noteWritten } from '../catalogue/fixity';
import type { Database } from '../database/database';
import { holdingFiles } from '../database/filesLock';
import type { Drives } from '../drives/service';
import { messageOf, systemCode } from '../errors';
import { ensureFolderInside, joinPath, resolveInside } from '../files/drivePath';
import { exchange, keepGoodCopy } from '../files/exchange';
import { faultPoint } from '../files/fault';
import { sidecarBeside } from '../files/sidecars';
import { problemOf } from '../files/problem';
import { removeFile } from '../files/relocate';
import { DriveGone, type JobKind, type JobRun } from '../jobs/service';
import * as store from './store';

export const COPY_BACK_JOB = 'copyBack';
export const copyBackParameters = z.object({ entryId: z.number() });

interface Services {
  database: Database;
  drives: Drives;
  reader: FileReader;
  reread: Reread;
}

export function copyBackJob(services: Services): JobKind {
  const { database } = services;
  return {
    kind: COPY_BACK_JOB,
    async run(run) {
      const { entryId } = copyBackParameters.parse(run.parameters);
      const files = await store.copiesBack(database, entryId);
      await run.progress({ done: 0, total: files.length });
      const counts = { putBack: 0, failed: 0 };
      for (const file of files) {
        const isDone = await holdingFiles(database, 'alone', () => putOneBack(services, run, entryId, file));
        counts[isDone ? 'putBack' : 'failed'] += 1;
        await run.progress({ done: counts.putBack + counts.failed, current: joinPath(file.folder, file.name) });
      }
      return counts;
    },
  };
}

async function putOneBack(
  { database, drives, reader, reread }: Services,
  run: JobRun,
  entryId: number,
  file: store.CopyBack,
): Promise<boolean> {
  const { photoId, driveId, label, mountPoint, keptDriveId, keptLabel, keptMountPoint } = file;
  if (mountPoint === null) throw new DriveGone(driveId, label);
  if (keptMountPoint === null) throw new DriveGone(keptDriveId, keptLabel);
  let path: string;
  try {
    const folder = await resolveInside(mountPoint, file.folder);
    path = `${folder}/${file.name}`;
    const kept = await ensureFolderInside(keptMountPoint, file.kept);
    if (file.copies) await bringGood(reader, file, kept);
    faultPoint('back:copied');
    await exchange({ path, kept, comes: file.copies ? 'good' : 'damaged' });
  } catch (error) {
    if (error instanceof DriveGone) throw error;
    for (const [id, name] of [
      [driveId, label],
      [keptDriveId, keptLabel],
    ] as const)
      if (!(await drives.isAttached(id))) throw new DriveGone(id, name);
    await run.failure(
      `${label}: ${joinPath(file.folder, file.name)}`,
      systemCode(error) === undefined ? messageOf(error) : problemOf(error),
    );
    await database.transaction((tx) => store.endCopyBack(database, entryId, [photoId], true, tx));
    await database.notify(['fixity', 'ledger']);
    return false;
  }
  faultPoint('back:exchanged');
  const [hashes] = await reader.hashes([path]);
  const problems = await database.transaction(async (tx) => {
    const unread = await reread([{ ...file, path, sidecarPath: sidecarBeside(path) }], tx, 'catalogue');
    if (hashes?.ok) await noteWritten(database, [{ photoId, file: hashes, sidecar: hashes.sidecar }], tx);
    await store.lookAgain(database, [photoId], tx);
    await store.endCopyBack(database, entryId, [photoId], false, tx);
    await database.notify(['fixity', 'photos', 'ledger', 'writeBack'], tx);
    return unread;
  });
  for (const { name, message } of problems)
    await run.failure(`${name}: ${message}`, 'It was put in place, but could not be read.');
  return true;
}

/** Brings a copy to the drive and proves that it holds what the damaged file should. */
async function bringGood(reader: FileReader, file: store.CopyBack, kept: string): Promise<void> {
  if (file.copy === null) throw new Error('the copy is gone');
  const { driveId, label, mountPoint, folder, name } = file.copy;
  if (mountPoint === null) throw new DriveGone(driveId, label);
  const good = await keepGoodCopy(await resolveInside(mountPoint, joinPath(folder, name)), kept);
  const [read] = await reader.hashes([good]);
  // It was put in place before, by a job that was cut off.
  if (read && !read.ok && read.code === 'ENOENT') return;
  if (!read?.ok) throw new Error(`the copy can’t be read: ${read?.message ?? ''}`);
  if (read.sha256 === file.sha256 || (read.picture !== null && read.picture === file.picture)) return;
  await removeFile(good);
  throw new Error('the copy does not hold the picture that it should');
}
