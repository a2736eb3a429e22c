// Looking at files and reading their metadata: one file or folder at a time, for worker threads.

import { lstatSync, statSync } from 'node:fs';
import { join } from 'node:path';
import type { FileHashes } from '@stellin/core/fixity/states';
import type { ByteSource } from '@stellin/core/metadata/bytes';
import { isTimed, kindFacts, kindOfBytes, type FileKind } from '@stellin/core/metadata/containers/index';
import { officeOf } from '@stellin/core/metadata/office';
import type { LookedMedia } from '@stellin/core/metadata/probed';
import { readMetadata, type FileMetadata } from '@stellin/core/metadata/read';
import { systemCode } from '../errors';
import { fileHashes, fileHashesOnDrive } from './fileHashes';
import { probeDocument } from './probeDocument';
import { probeMedia } from './probeMedia';
import { problemOf } from './problem';
import { readSidecar, withSource } from './source';

export interface RecordRequest {
  path: string;
  sidecarPath: string | undefined;
}

export interface FileProblem {
  ok: false;
  code: string | undefined;
  message: string;
}

export type RecordResult =
  | { ok: true; sizeBytes: number; mtimeMs: number; sidecarMtimeMs: number | null; metadata: FileMetadata }
  | FileProblem;

export interface StatRequest {
  /** The folder in the system. */
  folder: string;
  names: readonly string[];
  /** Of each file its sidecar's name. */
  sidecars: readonly (string | undefined)[];
}

/** What files look like, in the order asked for; not a number where there is nothing, or the file could not be looked at. */
export interface StatResult {
  sizes: Float64Array;
  mtimes: Float64Array;
  sidecarMtimes: Float64Array;
  problems: { index: number; code: string | undefined; message: string }[];
}

export type HashResult = ({ ok: true } & FileHashes) | FileProblem;

/** What a file and its sidecar say, or why they can't be read. */
export function readRecord({ path, sidecarPath }: RecordRequest): RecordResult {
  return orProblem(() => {
    const sidecar =
      sidecarPath === undefined ? undefined : { bytes: readSidecar(sidecarPath), ...statSync(sidecarPath) };
    const { size, mtimeMs } = statSync(path);
    const metadata = withSource(path, (source) => {
      const kind = kindOfBytes(source);
      return readMetadata(source, sidecar?.bytes, lookedAt(path, source, kind));
    });
    return { ok: true, sizeBytes: size, mtimeMs, sidecarMtimeMs: sidecar?.mtimeMs ?? null, metadata };
  });
}

/** What is found in films, sounds and documents besides their metadata. */
function lookedAt(path: string, source: ByteSource, kind: FileKind | undefined): LookedMedia | undefined {
  if (kind === undefined) return undefined;
  if (isTimed(kind)) return probeMedia(path);
  if (kind === 'pdf') return probeDocument(path);
  return kindFacts(kind).media === 'document' ? officeOf(source, kind) : undefined;
}

/** What a file holds, or why it can’t be read. */
export function readHashes(path: string): HashResult {
  return orProblem(() => ({ ok: true, ...fileHashes(path) }));
}

/** The same as the drive holds it now, compared with the SHA-256 that is known. */
export async function readHashesOnDrive(path: string, known: string | null): Promise<HashResult> {
  try {
    if (!lstatSync(path).isFile()) return { ok: false, code: undefined, message: 'it is no file any more' };
    return { ok: true, ...(await fileHashesOnDrive(path, known)) };
  } catch (error) {
    return { ok: false, code: systemCode(error), message: problemOf(error) };
  }
}

/** Sizes and times of the files of a folder. */
export function statFolder({ folder, names, sidecars }: StatRequest): StatResult {
  const blank = () => new Float64Array(names.length).fill(Number.NaN);
  const result: StatResult = { sizes: blank(), mtimes: blank(), sidecarMtimes: blank(), problems: [] };
  for (let i = 0; i < names.length; i++) {
    try {
      const { size, mtimeMs } = statSync(join(folder, names[i] ?? ''));
      const sidecar = sidecars[i];
      if (sidecar !== undefined) result.sidecarMtimes[i] = statSync(join(folder, sidecar)).mtimeMs;
      result.sizes[i] = size;
      result.mtimes[i] = mtimeMs;
    } catch (error) {
      result.problems.push({ index: i, code: systemCode(error), message: problemOf(error) });
    }
  }
  return result;
}

function orProblem<Result>(work: () => Result): Result | FileProblem {
  try {
    return work();
  } catch (error) {
    return { ok: false, code: systemCode(error), message: problemOf(error) };
  }
}
