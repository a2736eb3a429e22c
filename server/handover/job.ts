// The job that takes in what came back: pictures are put beside their originals, each whole, and read; then one change says all of it.
// Where a file goes is written down before it is touched, so a run that was cut off goes on where it was.

import { basename, join } from 'node:path';
import { z } from 'zod';
import { nameParts } from '@stellin/core/filing/names';
import type { ChangeOf } from '@stellin/contract/ledger';
import { ensureFolder } from '../catalogue/folders';
import type { Reread } from '../catalogue/rereading';
import type { Database } from '../database/database';
import { holdingFiles } from '../database/filesLock';
import type { Drives } from '../drives/service';
import { messageOf, systemCode } from '../errors';
import { joinPath, resolveInside } from '../files/drivePath';
import { faultPoint } from '../files/fault';
import { problemOf } from '../files/problem';
import type { FilePlacer } from '../files/placing';
import { TakenError } from '../files/relocate';
import { DriveGone, orWaitFor, type JobKind, type JobRun } from '../jobs/service';
import { freeName, putBeside } from './files';
import * as store from './store';

export const TAKE_RETURNED_JOB = 'takeReturned';
export const takeReturnedParameters = z.object({
  deliveryId: z.uuid(),
  /** That of the originals. */
  driveId: z.uuid(),
  ids: z.array(z.number()).min(1),
});

interface Services {
  database: Database;
  drives: Drives;
  reread: Reread;
  placer: FilePlacer;
  /** The folder of a handover in the system. */
  rootOf: (handover: Pick<store.HandoverRow, 'folder'>) => string;
  apply: (change: ChangeOf<'takeReturned'>, accountId: number) => Promise<unknown>;
}

/** A picture that came back, and where it goes. */
type Placed = store.ReturnedFile & { toFolderId: number; toName: string };

export function takingReturnedJob(services: Services): JobKind {
  const { database, apply, rootOf } = services;
  return {
    kind: TAKE_RETURNED_JOB,
    async run(run) {
      const { deliveryId, driveId, ids } = takeReturnedParameters.parse(run.parameters);
      const handover = await store.findHandover(database, deliveryId);
      const files = (await store.takeable(database, deliveryId, ids)).filter((file) => file.driveId === driveId);
      // By a run that was cut off after all was said.
      if (!handover || files.length === 0) return { taken: 0, failed: 0 };
      await run.progress({ total: files.length });
      const pictures = files.filter(({ kind }) => kind === 'picture');
      const failed = new Set<number>();
      if (pictures.length > 0)
        for (const id of await placeAll(services, run, rootOf(handover), driveId, pictures)) failed.add(id);
      faultPoint('file:recorded');
      const taken = files.map(({ id }) => id).filter((id) => !failed.has(id));
      if (taken.length > 0 && run.accountId !== null)
        await apply({ kind: 'takeReturned', deliveryId, ids: taken }, run.accountId);
      return { taken: taken.length, failed: failed.size };
    },
  };
}

/** Puts pictures beside their originals and reads them; returns those that failed. */
async function placeAll(
  { database, drives, reread, placer }: Services,
  run: JobRun,
  root: string,
  driveId: string,
  pictures: readonly store.ReturnedFile[],
): Promise<number[]> {
  const label = pictures[0]?.drive ?? 'of the originals';
  const { mountPoint } = await orWaitFor(driveId, label, drives.requireWritable(driveId));
  const failed: number[] = [];
  const fail = async ({ id, path }: store.ReturnedFile, error: unknown) => {
    if (!(await drives.isAttached(driveId))) throw new DriveGone(driveId, label);
    failed.push(id);
    await run.failure(path, systemCode(error) === undefined ? messageOf(error) : problemOf(error));
  };
  for (const [i, picture] of pictures.entries())
    try {
      const placed = await holdingFiles(database, 'together', () =>
        place({ database, placer }, root, mountPoint, driveId, picture),
      );
      const { toFolderId: folderId, toName: name, folder, sidecar } = placed;
      const path = join(mountPoint, folder ?? '', name);
      const sidecarPath = sidecar === null ? undefined : join(mountPoint, folder ?? '', `${nameParts(name).base}.xmp`);
      faultPoint('file:moved');
      const [problem] = await database.transaction((tx) =>
        reread([{ driveId, folderId, name, path, sidecarPath }], tx),
      );
      if (problem) throw new Error(problem.message);
      await run.progress({ done: i + 1, current: `Taking in ${picture.path}` });
    } catch (error) {
      await fail(picture, error);
    }
  return failed;
}

/** Puts one beside its original, under a name that is free. */
async function place(
  { database, placer }: Pick<Services, 'database' | 'placer'>,
  root: string,
  mountPoint: string,
  driveId: string,
  picture: store.ReturnedFile,
): Promise<Placed> {
  const inside = picture.folder ?? '';
  const folder = { id: await ensureFolder(database, driveId, inside), path: await resolveInside(mountPoint, inside) };
  for (let settled = picture; ; settled = { ...picture, toName: null }) {
    const toName =
      settled.toName !== null && settled.toFolderId === folder.id
        ? settled.toName
        : await freeName(folder, basename(picture.path), await store.namesIn(database, [folder.id]));
    await store.settlePlaces(database, [{ id: picture.id, folderId: folder.id, name: toName }]);
    try {
      await putBeside(placer, root, picture, folder.path, toName);
      return { ...picture, toFolderId: folder.id, toName };
    } catch (error) {
      // Something else has come to stand there since.
      if (!(error instanceof TakenError) || settled.toName === null) throw error;
    }
  }
}

/** Drive and folder where pictures of an original go, in words. */
export function goesTo({ drive, folder }: Pick<store.ReturnedFile, 'drive' | 'folder'>): string | null {
  return drive === null ? null : joinPath(drive, folder ?? '').replace(/\/$/, '');
}
