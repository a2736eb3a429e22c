// Emptying a card. First it is proven what of it is elsewhere, and told; then each file is proven once more and deleted at
// once. What has no proof stays.

import { join } from 'node:path';
import { z } from 'zod';
import { holdingFiles } from '../database/filesLock';
import { joinPath, resolveInside } from '../files/drivePath';
import { faultPoint } from '../files/fault';
import { fingerprintOf, sameTime } from '../files/fingerprint';
import { removeFile } from '../files/relocate';
import { baseName, isOwnSidecar } from '../files/sidecars';
import type { JobKind, JobRun } from '../jobs/service';
import { copyParameters, type CopyParameters } from './job';
import { proveStep, requireOwnSource, type ProvingServices } from './proving';
import * as store from './store';

export const PROVE_SOURCE_JOB = 'proveSource';
export const EMPTY_SOURCE_JOB = 'emptySource';
export const emptyParameters = z.object({ copyJobId: z.uuid(), copy: copyParameters });
const STEPS_PER_READ = 100;
const ALL_STATES = ['found', 'known', 'going', 'copied', 'failed'] as const;

/** Looks what of a source could go. */
export function provingSourceJob(services: ProvingServices): JobKind {
  return {
    kind: PROVE_SOURCE_JOB,
    run: async (run) => {
      const counts = await eachFile(services, run, { verb: 'Proving', how: 'together' }, () => Promise.resolve());
      return { proven: counts.proven, unproven: counts.unproven };
    },
  };
}

/** Deletes from a source what is proven to be elsewhere. */
export function emptyingSourceJob(services: ProvingServices): JobKind {
  return {
    kind: EMPTY_SOURCE_JOB,
    async run(run) {
      // A sidecar goes with the last of the files that share it.
      const staying = new Set<string>();
      const sidecars = new Map<string, { path: string; print: ReturnType<typeof fingerprintOf> }>();
      // Nobody reads or writes a file between its proof and its end.
      const doing = { verb: 'Emptying', how: 'alone' } as const;
      const counts = await eachFile(services, run, doing, async (step, folder, goes) => {
        const isOwn = step.sidecar !== null && isOwnSidecar(step.sidecar, step.name);
        const shared = join(folder, isOwn ? step.name : baseName(step.name));
        if (!goes) return void staying.add(shared);
        if (step.sidecar !== null) {
          const path = join(folder, step.sidecar);
          sidecars.set(shared, { path, print: fingerprintOf(path) });
        }
        await removeFile(join(folder, step.name));
      });
      for (const [shared, { path, print }] of sidecars) {
        const now = fingerprintOf(path);
        // One that was changed since its proof stays.
        const isProven = print && now && now.sizeBytes === print.sizeBytes && sameTime(now.mtimeMs, print.mtimeMs);
        if (isProven && !staying.has(shared)) await removeFile(path);
      }
      return { deleted: counts.proven, kept: counts.unproven };
    },
  };
}

/** Proves each file of a source; what has no proof is told. `take` is given each, its folder in the system, and whether it may go. */
async function eachFile(
  services: ProvingServices,
  run: JobRun,
  { verb, how }: { verb: string; how: 'together' | 'alone' },
  take: (step: store.CopyStep, folder: string, goes: boolean) => Promise<void>,
): Promise<{ proven: number; unproven: number }> {
  const { database, drives } = services;
  const { copyJobId, copy } = emptyParameters.parse(run.parameters);
  await requireOwnSource(drives, copy);
  const counts = await store.countSteps(database, copyJobId);
  await run.progress({ done: 0, total: Object.values(counts).reduce((sum, count) => sum + count, 0) });
  const result = { proven: 0, unproven: 0 };
  for (let after = '0', done = 0; ;) {
    const steps = await store.stepsOf(database, copyJobId, ALL_STATES, after, STEPS_PER_READ);
    if (steps.length === 0) return result;
    for (const step of steps) {
      await holdingFiles(database, how, async () => {
        const problem = await proveStep(services, step, copy);
        faultPoint('source:proven');
        if (problem === undefined) return;
        if (problem !== null) await run.failure(joinPath(step.folder, step.name), problem);
        result[problem === null ? 'proven' : 'unproven'] += 1;
        await take(step, await folderOf(copy, step), problem === null);
      });
      await run.progress({ done: ++done, current: `${verb} ${joinPath(step.folder, step.name)}` });
    }
    after = steps.at(-1)?.id ?? after;
  }
}

function folderOf({ mountPoint }: CopyParameters, { folder }: store.CopyStep): Promise<string> {
  return resolveInside(mountPoint, folder);
}
