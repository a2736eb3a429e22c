// Worker thread: plans writes and carries them out, so that parsing and copying do not hold up the server.

import { systemCode } from '../errors';
import { carryOut } from './carryOut';
import { ChangedFileError, type Fingerprint } from './fingerprint';
import { planFiles, type PlannedWrite, type WriteRequest } from './planWrite';
import { problemOf } from './problem';
import { planTakeBack, type KeptVersion } from './takeBack';
import { writeBatch, type BatchResult } from './writeBatch';

/** Errors as they can pass between threads. */
export interface Problem {
  ok: false;
  /** Of the file system. */
  code: string | undefined;
  message: string;
  /** Another program has changed the file. */
  changed: boolean;
}

export type PlanResult = { ok: true; plan: PlannedWrite } | Problem;
export type CarriedOut = { ok: true; now: (Fingerprint | undefined)[] } | Problem;

/** One plan for each request, in the same order. */
export function plan(requests: WriteRequest[]): PlanResult[] {
  return requests.map((request) => planned(() => planFiles(request)));
}

/** One plan for each photo whose last write is to be taken back. */
export function planBack(photos: { path: string; versions: KeptVersion[] }[]): PlanResult[] {
  return photos.map(({ path, versions }) => planned(() => planTakeBack(path, versions)));
}

/** One result for each plan, in the same order. */
export async function write(writes: PlannedWrite[]): Promise<CarriedOut[]> {
  const results = await carryOut(writes);
  return results.map((result) => (result.ok ? result : problem(result.error)));
}

/** Writes files that no catalogue knows of. */
export function batch({ journals, requests }: { journals: string; requests: WriteRequest[] }): Promise<BatchResult[]> {
  return writeBatch(journals, requests);
}

function planned(make: () => PlannedWrite): PlanResult {
  try {
    return { ok: true, plan: make() };
  } catch (error) {
    return problem(error);
  }
}

function problem(error: unknown): Problem {
  return { ok: false, code: systemCode(error), message: problemOf(error), changed: error instanceof ChangedFileError };
}
