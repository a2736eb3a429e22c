// Emptying a card: its files go only when each of them is proven, now and by reading it, to be elsewhere.

import { join } from 'node:path';
import { z } from 'zod';
import type { Database } from '../database/database';
import { holdingFiles } from '../database/filesLock';
import type { Drives } from '../drives/service';
import { joinPath, resolveInside } from '../files/drivePath';
import { fingerprintOf, sameTime } from '../files/fingerprint';
import { hashOfFile, isTaken, removeFile } from '../files/relocate';
import type { FileReader } from '../intake/reader';
import type { JobKind, JobRun } from '../jobs/service';
import { copyParameters, type CopyParameters } from './job';
import * as store from './store';

export const EMPTY_SOURCE_JOB = 'emptySource';
export const emptyParameters = z.object({ copyJobId: z.uuid(), copy: copyParameters });
const BATCH = 100;

interface Services {
  database: Database;
  drives: Drives;
  reader: FileReader;
}

export function emptyingSourceJob(services: Services): JobKind {
  return {
    kind: EMPTY_SOURCE_JOB,
    async run(run) {
      const { copyJobId, copy } = emptyParameters.parse(run.parameters);
      // First all is proven, then all is deleted: a card is either emptied or left as it is.
      const proven = await provenFiles(services, run, copyJobId, copy);
      if (proven === undefined) return { deleted: 0 };
      let deleted = 0;
      for (const { folder, names } of proven) {
        const inside = await resolveInside(copy.mountPoint, folder);
        for (const name of names) await removeFile(join(inside, name));
        deleted += names.length;
        await run.progress({ current: `Emptying ${folder || copy.label}` });
      }
      return { deleted };
    },
  };
}

/** The files that can go, with their sidecars; undefined as soon as one is not proven, which is told. */
async function provenFiles(services: Services, run: JobRun, copyJobId: string, copy: CopyParameters) {
  const { database } = services;
  const folders = new Map<string, Set<string>>();
  const counts = await store.countSteps(database, copyJobId);
  const total = Object.values(counts).reduce((sum, count) => sum + count, 0);
  await run.progress({ done: 0, total });
  let [after, done, problems] = ['0', 0, 0];
  for (;;) {
    const steps = await store.stepsOf(
      database,
      copyJobId,
      ['found', 'known', 'going', 'copied', 'failed'],
      after,
      BATCH,
    );
    if (steps.length === 0) break;
    const doubts = await holdingFiles(database, 'together', () => doubtsOf(services, steps, copy));
    for (const step of steps) {
      const problem = doubts.get(step.id);
      if (problem !== undefined) {
        problems += 1;
        await run.failure(joinPath(step.folder, step.name), problem);
      }
      const names = folders.get(step.folder) ?? new Set();
      folders.set(step.folder, names.add(step.name));
      if (step.sidecar !== null && step.state === 'copied') names.add(step.sidecar);
    }
    after = steps.at(-1)?.id ?? after;
    done += steps.length;
    await run.progress({ done, current: `Proving ${steps.at(-1)?.name ?? ''}` });
  }
  return problems > 0 ? undefined : [...folders].map(([folder, names]) => ({ folder, names: [...names] }));
}

async function doubtsOf(
  services: Services,
  steps: readonly store.CopyStep[],
  copy: CopyParameters,
): Promise<Map<string, string>> {
  const doubts = new Map<string, string>();
  for (const step of steps) {
    const doubt = await doubtOf(services, step, copy);
    if (doubt !== undefined) doubts.set(step.id, doubt);
  }
  return doubts;
}

/** Why a file is not to be deleted from the source; undefined when it is proven to be elsewhere. */
async function doubtOf(services: Services, step: store.CopyStep, copy: CopyParameters): Promise<string | undefined> {
  const path = join(copy.mountPoint, step.folder, step.name);
  const print = fingerprintOf(path);
  if (!print) return undefined;
  if (print.sizeBytes !== step.sizeBytes || !sameTime(print.mtimeMs, step.mtimeMs))
    return 'it has changed since it was copied';
  if (step.state === 'known')
    return (await isElsewhere(services, step)) ? undefined : 'its other copy can’t be reached to prove it';
  if (step.state !== 'copied') return 'it was not copied';
  const places = [
    { id: copy.toDriveId, name: step.toName },
    ...(copy.secondDriveId === null ? [] : [{ id: copy.secondDriveId, name: step.secondName }]),
  ];
  for (const { id, name } of places) {
    const { mountPoint } = await services.drives.requireAttached(id);
    const made = join(mountPoint, step.toFolder ?? '', name ?? '');
    if (!(await isTaken(made)) || (await hashOfFile(made)) !== step.hash) return 'its copy is not the same any more';
  }
  return undefined;
}

/** Whether the catalogue's file of a picture is there and still that picture. */
async function isElsewhere({ database, reader }: Services, { pictureHash }: store.CopyStep): Promise<boolean> {
  if (pictureHash === null) return false;
  const files = await store.filesOfPicture(database, pictureHash);
  const hashes = await reader.hashes(files.map(({ mountPoint, path }) => join(mountPoint, path)));
  return hashes.some((hash) => hash.ok && Buffer.compare(hash.hash, pictureHash) === 0);
}
