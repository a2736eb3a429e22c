// Taking writes back: files become what they were before their last write, byte for byte, and are read again. What the
// catalogue says stays, so such a photo waits to be written anew.

import { z } from 'zod';
import { selection } from '@stellin/contract/photos';
import type { Database } from '../database/database';
import type { Reread } from '../catalogue/rereading';
import { noteWritten } from '../catalogue/fixity';
import { holdingFiles } from '../database/filesLock';
import type { Drives } from '../drives/service';
import { joinPath } from '../files/drivePath';
import { faultPoint } from '../files/fault';
import type { PlannedWrite } from '../files/planWrite';
import { sidecarBeside } from '../files/sidecars';
import type { FileWriter } from '../files/writer';
import type { CarriedOut } from '../files/writeFiles.worker';
import { DriveGone, type JobKind, type JobRun } from '../jobs/service';
import { selectionSql } from '../catalogue/selection';
import * as store from './store';
import { journalOf, pathOf, recoverWrites } from './writing';

export const TAKE_BACK_JOB = 'takeBack';
const parameters = z.object({ selection });
const FILES_PER_BATCH = 50;

interface Services {
  database: Database;
  drives: Drives;
  writer: FileWriter;
  reread: Reread;
}

interface Doing {
  photo: store.VersionedPhoto;
  path?: string;
  plan?: PlannedWrite;
  result?: CarriedOut;
}

export function takingBackJob(services: Services): JobKind {
  const { database } = services;
  return {
    kind: TAKE_BACK_JOB,
    async run(run) {
      const photos = selectionSql(parameters.parse(run.parameters).selection);
      await recoverWrites(database);
      await run.progress({ done: 0, total: await store.countVersions(database, photos) });
      const counts = { takenBack: 0, failed: 0 };
      let after = 0;
      for (;;) {
        const { batch, takenBack } = await holdingFiles(database, 'together', async () => {
          const next = await store.nextVersions(database, photos, after, FILES_PER_BATCH);
          return { batch: next, takenBack: next.length > 0 ? await takeBatchBack(services, run, next) : 0 };
        });
        if (batch.length === 0) break;
        counts.takenBack += takenBack;
        counts.failed += batch.length - takenBack;
        after = batch.at(-1)?.id ?? after;
        await run.progress({ done: counts.takenBack + counts.failed, current: `Taking back ${batch.at(-1)?.name}` });
      }
      return counts;
    },
  };
}

async function takeBatchBack(
  services: Services,
  run: JobRun,
  photos: readonly store.VersionedPhoto[],
): Promise<number> {
  const { database, drives, writer } = services;
  const doings: Doing[] = await Promise.all(
    photos.map(async (photo) => {
      const path = await pathOf(photo);
      return typeof path === 'string' ? { photo, path } : { photo, result: path };
    }),
  );
  const inside = doings.filter((doing): doing is Doing & { path: string } => doing.path !== undefined);
  const plans = await writer.planBack(inside.map(({ path, photo }) => ({ path, versions: photo.versions })));
  inside.forEach((doing, i) => {
    const planned = plans[i];
    if (planned?.ok) doing.plan = planned.plan;
    else doing.result = planned;
  });
  const ready = inside.filter(
    (doing): doing is Doing & { path: string; plan: PlannedWrite } => doing.plan !== undefined,
  );
  // Should the process die, the files are sorted out like those of any write; the catalogue reads them again.
  const nothing = { keywords: [], termKeywords: [], rating: 0, mark: '', fields: {}, references: {} };
  await store.openJournals(
    database,
    await Promise.all(ready.map(({ photo, plan }) => journalOf(photo, nothing, plan))),
  );
  faultPoint('takeBack:journaled');
  const results = await writer.write(ready.map(({ plan }) => plan));
  ready.forEach((doing, i) => (doing.result = results[i]));

  const made = ready.filter(({ result }) => result?.ok);
  const problems = await database.transaction(async (tx) => {
    await store.removeVersions(
      database,
      made.flatMap(({ photo }) => photo.versionIds),
      tx,
    );
    await store.closeJournals(
      database,
      ready.flatMap(({ photo, result }) => (result && !result.ok && result.unsettled ? [] : [photo.id])),
      tx,
    );
    await noteWritten(
      database,
      made.flatMap(({ photo, result }) =>
        result?.ok && result.hashes ? [{ photoId: photo.id, ...result.hashes }] : [],
      ),
      tx,
    );
    return services.reread(made.map(fileOf), tx, 'catalogue');
  });
  for (const { name, message } of problems)
    await run.failure(`${name}: ${message}`, 'It was taken back, but could not be read again.');
  for (const { photo, result } of doings) {
    if (result?.ok) continue;
    if (result?.code !== undefined && !(await drives.isAttached(photo.driveId)))
      throw new DriveGone(photo.driveId, photo.driveLabel);
    await run.failure(
      `${photo.driveLabel}: ${joinPath(photo.folderPath, photo.name)}`,
      result?.message ?? 'was not taken back',
    );
  }
  return made.length;
}

function fileOf({ photo, path }: Doing & { path: string }) {
  return { ...photo, path, sidecarPath: sidecarBeside(path) };
}
