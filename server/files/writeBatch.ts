// Writing files that no catalogue knows of: planned, journaled in a file, carried out.

import type { IimCut } from '@stellin/core/metadata/blocks/iim';
import { systemCode } from '../errors';
import { carryOut, UnsettledError } from './carryOut';
import { faultPoint } from './fault';
import { journalEntryOf, openFileJournal } from './journal';
import { planFiles, type PlannedFile, type PlannedWrite, type WriteRequest } from './planWrite';
import { problemOf } from './problem';

/** How a file is written: where it stands, anew beside it, or as a sidecar. */
export type Way = 'in place' | 'anew' | 'sidecar' | 'new sidecar';

/** What was done for a request, or would be; no files when everything is said already. */
export type BatchResult =
  | { ok: true; files: { path: string; way: Way }[]; cuts: IimCut[] }
  | { ok: false; code: string | undefined; message: string };

/** Plans the requests and tells what would be done. */
export function tryBatch(requests: readonly WriteRequest[]): BatchResult[] {
  return planAll(requests).map((planned) => ('plan' in planned ? done(planned.plan) : planned));
}

/** Writes the requests as one batch; one result for each, in the same order. */
export async function writeBatch(journals: string, requests: readonly WriteRequest[]): Promise<BatchResult[]> {
  const planned = planAll(requests);
  faultPoint('write:planned');
  const ready = planned.filter((entry) => 'plan' in entry);
  const files = ready.flatMap(({ plan }) => plan.files);
  const journal = files.length > 0 ? openFileJournal(journals, files.map(journalEntryOf)) : undefined;
  faultPoint('write:journaled');
  const results = await carryOut(ready.map(({ plan }) => plan));
  // Of a file that is neither the old nor the new one the journal is all there is.
  if (!results.some((result) => !result.ok && result.error instanceof UnsettledError)) journal?.close();
  let next = 0;
  return planned.map((entry) => {
    if (!('plan' in entry)) return entry;
    const result = results[next++];
    return result?.ok ? done(entry.plan) : problem(result?.error);
  });
}

type Planned = { plan: PlannedWrite } | Extract<BatchResult, { ok: false }>;

function planAll(requests: readonly WriteRequest[]): Planned[] {
  return requests.map((request) => {
    try {
      return { plan: planFiles(request) };
    } catch (error) {
      return problem(error);
    }
  });
}

function done({ files, cuts }: PlannedWrite): BatchResult {
  return { ok: true, files: files.map((file) => ({ path: file.path, way: wayOf(file) })), cuts };
}

/** How a planned file is written. */
export function wayOf({ check, before, patches }: PlannedFile): Way {
  if (check.isSidecarOf !== undefined) return before ? 'sidecar' : 'new sidecar';
  return patches ? 'in place' : 'anew';
}

function problem(error: unknown): Extract<BatchResult, { ok: false }> {
  return { ok: false, code: systemCode(error), message: problemOf(error) };
}
