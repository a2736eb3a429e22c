// Proving that a file may be deleted because another one holds all of it: read now, from both ends, never from what was
// noted before.

import { closeSync, fstatSync, openSync, readSync, statSync } from 'node:fs';
import { missingProperties } from '@stellin/core/metadata/containment';
import { openFile } from '@stellin/core/metadata/open';
import { pictureHash } from './pictureHash';
import type { RecordRequest } from './readRecord';
import { problemOf } from './problem';
import { readSidecar, withSource } from './source';

export interface ProofRequest {
  source: RecordRequest;
  other: RecordRequest;
}

/** Null when it is proven, else why not. */
export type Proof = string | null;

const CHUNK_BYTES = 1024 * 1024;
const MAX_NAMED = 3;

/**
 * Proves that another file than the source (another inode or device) equals it to the byte, with its sidecar; or holds the
 * same picture and, with its sidecar, every property that the source and its sidecar say.
 */
export function proveCopy({ source, other }: ProofRequest): Proof {
  try {
    if (isSameFile(source.path, other.path)) return 'what counts as its copy is the very same file';
    if (equalBytes(source.path, other.path) && equalSidecars(source, other)) return null;
    if (!pictureHash(source.path).equals(pictureHash(other.path))) return 'its copy holds another picture';
    const missing = missingIn(source, other);
    return missing.length === 0 ? null : `its copy lacks ${namesOf(missing)}`;
  } catch (error) {
    return `it could not be compared with its copy: ${problemOf(error)}`;
  }
}

function isSameFile(path: string, other: string): boolean {
  const [a, b] = [statSync(path, { bigint: true }), statSync(other, { bigint: true })];
  return a.dev === b.dev && a.ino === b.ino;
}

/** Whether the source's sidecar is there beside the other file as well; true when it has none. */
function equalSidecars({ sidecarPath: source }: RecordRequest, { sidecarPath: other }: RecordRequest): boolean {
  if (source === undefined) return true;
  return other !== undefined && !isSameFile(source, other) && equalBytes(source, other);
}

function missingIn(source: RecordRequest, other: RecordRequest): string[] {
  // A sidecar that both share would go with the source.
  if (
    source.sidecarPath !== undefined &&
    other.sidecarPath !== undefined &&
    isSameFile(source.sidecarPath, other.sidecarPath)
  )
    return ['a sidecar of its own'];
  const sidecarOf = ({ sidecarPath }: RecordRequest) =>
    sidecarPath === undefined ? undefined : readSidecar(sidecarPath);
  return withSource(source.path, (bytes) =>
    withSource(other.path, (otherBytes) =>
      missingProperties(
        { file: openFile(bytes), sidecar: sidecarOf(source) },
        { file: openFile(otherBytes), sidecar: sidecarOf(other) },
      ),
    ),
  );
}

function namesOf(missing: readonly string[]): string {
  const named = missing.slice(0, MAX_NAMED).join(', ');
  return missing.length > MAX_NAMED ? `${named} and ${missing.length - MAX_NAMED} more` : named;
}

function equalBytes(path: string, other: string): boolean {
  const [a, b] = [openSync(path, 'r'), openSync(other, 'r')];
  try {
    const { size } = fstatSync(a);
    if (fstatSync(b).size !== size) return false;
    const [one, two] = [Buffer.allocUnsafe(CHUNK_BYTES), Buffer.allocUnsafe(CHUNK_BYTES)];
    for (let at = 0; at < size;) {
      const read = fill(a, one, at);
      if (read === 0 || fill(b, two, at) !== read || Buffer.compare(one.subarray(0, read), two.subarray(0, read)) !== 0)
        return false;
      at += read;
    }
    return true;
  } finally {
    closeSync(a);
    closeSync(b);
  }
}

/** Reads a whole chunk, or what is left of the file. */
function fill(file: number, chunk: Buffer, at: number): number {
  let filled = 0;
  while (filled < chunk.length) {
    const read = readSync(file, chunk, filled, chunk.length - filled, at + filled);
    if (read === 0) break;
    filled += read;
  }
  return filled;
}
