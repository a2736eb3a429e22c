// Worker thread: plans writes and carries them out, so that parsing and copying do not hold up the server.

import type { IimCut } from '@stellin/core/metadata/blocks/iim';
import type { FileHashes } from '@stellin/core/fixity/states';
import { piecesSource } from '@stellin/core/metadata/pieces';
import { readMetadata } from '@stellin/core/metadata/read';
import type { BlockValues } from '@stellin/core/metadata/reconcile';
import { systemCode } from '../errors';
import { carryOut, UnsettledError } from './carryOut';
import { fileHashes, hashOfSidecar } from './fileHashes';
import { ChangedFileError, fingerprintOf, type Fingerprint } from './fingerprint';
import { planFiles, type PlannedWrite, type WriteRequest } from './planWrite';
import { sidecarPath } from './sidecars';
import { readSidecar, withSource } from './source';
import { problemOf } from './problem';
import { planTakeBack, type KeptVersion } from './takeBack';
import { wayOf, writeBatch, type BatchResult, type Way } from './writeBatch';

/** Errors as they can pass between threads. */
export interface Problem {
  ok: false;
  /** Of the file system. */
  code: string | undefined;
  message: string;
  /** Another program has changed the file. */
  changed: boolean;
  /** The file is neither the old nor the new one: its journal has to stay. */
  unsettled?: boolean;
}

export type PreviewResult =
  | { ok: true; way: Way | 'nothing'; before: BlockValues; after: BlockValues; cuts: IimCut[] }
  | Problem;

export type PlanResult = { ok: true; plan: PlannedWrite } | Problem;
/** What a write made of a photo's files: hashes of the file itself if it was touched, and of the sidecar that is there now. */
export interface MadeHashes {
  file: Pick<FileHashes, 'sha256' | 'picture'> | null;
  sidecar: string | null;
}

export type CarriedOut = { ok: true; now: (Fingerprint | undefined)[]; hashes: MadeHashes | null } | Problem;

/** One plan for each request, in the same order. */
export function plan(requests: WriteRequest[]): PlanResult[] {
  return requests.map((request) => planned(() => planFiles(request)));
}

/** One plan for each photo whose last write is to be taken back. */
export function planBack(photos: { path: string; versions: KeptVersion[] }[]): PlanResult[] {
  return photos.map(({ path, versions }) => planned(() => planTakeBack(path, versions)));
}

/** What a write would make of a photo's files, block by block; nothing is written. */
export function preview(request: WriteRequest): PreviewResult {
  try {
    const plan = planFiles(request);
    const beside = sidecarPath(request.path);
    const now = beside === request.path || !fingerprintOf(beside) ? undefined : readSidecar(beside);
    const [own] = plan.files.filter(({ check }) => check.isSidecarOf === undefined);
    const [sidecar] = plan.files.filter(({ check }) => check.isSidecarOf !== undefined);
    const made = sidecar?.pieces?.[0];
    const [before, after] = withSource(request.path, (source) => {
      const then = own?.pieces ? piecesSource(source, own.pieces) : source;
      return [readMetadata(source, now), readMetadata(then, made instanceof Uint8Array ? made : now)];
    });
    const file = own ?? sidecar;
    return {
      ok: true,
      way: file ? wayOf(file) : 'nothing',
      before: before.blocks,
      after: after.blocks,
      cuts: plan.cuts,
    };
  } catch (error) {
    return problem(error);
  }
}

/** One result for each plan, in the same order. */
export async function write(writes: PlannedWrite[]): Promise<CarriedOut[]> {
  const results = await carryOut(writes);
  return results.map((result, i) => (result.ok ? { ...result, hashes: hashesMade(writes[i]) } : problem(result.error)));
}

/** Null when they can’t be had: the next reading finds out. */
function hashesMade(write: PlannedWrite | undefined): MadeHashes | null {
  const [first] = write?.files ?? [];
  if (!write || !first) return null;
  try {
    const path = first.check.isSidecarOf ?? first.path;
    const isTouched = write.files.some(({ check }) => check.isSidecarOf === undefined);
    if (!isTouched) return { file: null, sidecar: hashOfSidecar(path) };
    const { sidecar, ...file } = fileHashes(path);
    return { file, sidecar };
  } catch {
    return null;
  }
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
  return {
    ok: false,
    code: systemCode(error),
    message: problemOf(error),
    changed: error instanceof ChangedFileError,
    unsettled: error instanceof UnsettledError,
  };
}
