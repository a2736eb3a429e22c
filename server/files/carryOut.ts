// Carrying planned writes out. A file that keeps its size is written to where it stands, once the old bytes are in a
// journal; any other is written anew beside the old one, flushed, verified and renamed over it. Whatever happens in
// between, the old file or the new one is there whole, or can be made whole from the journal.

import {
  closeSync,
  existsSync,
  fsync,
  fstatSync,
  ftruncateSync,
  futimesSync,
  openSync,
  readSync,
  renameSync,
  statSync,
  unlinkSync,
  writeSync,
  type BigIntStats,
} from 'node:fs';
import { dirname } from 'node:path';
import { promisify } from 'node:util';
import { lengthOf, type Patch, type Piece } from '@stellin/core/metadata/pieces';
import { readMetadata } from '@stellin/core/metadata/read';
import { pictureRanges } from '@stellin/core/metadata/write';
import type { Range } from '@stellin/core/metadata/containers/index';
import type { ByteSource } from '@stellin/core/metadata/bytes';
import { systemCode } from '../errors';
import { copyAttributesOf } from './attributes';
import { faultPoint } from './fault';
import { ChangedFileError, fingerprintOf, requireSame, requireUnchanged, type Fingerprint } from './fingerprint';
import { flushFolderNow } from './flush';
import { hasHoles, isZero } from './holes';
import { patchesStand } from './pastCache';
import { requireFields, type PlannedFile, type PlannedWrite } from './planWrite';
import { problemOf } from './problem';
import { readSidecar, withSource } from './source';

/** Of a photo whose files were written, what they look like now, in the order of the plan. */
export type WriteResult = { ok: true; now: (Fingerprint | undefined)[] } | { ok: false; error: Error };

/** A write failed, and the old bytes could not be put back: the file is neither the old nor the new one, and its journal has to stay. */
export class UnsettledError extends Error {}

/** Used over and over: making new ones costs more than reading into them. */
const CHUNK = Buffer.allocUnsafeSlow(1024 * 1024);
const OTHER_CHUNK = Buffer.allocUnsafeSlow(1024 * 1024);
/** When the temporary file of a write has the attributes of the old one. */
type Attributes = ReadonlyMap<PlannedFile, Promise<void>>;

/** While one file is flushed to the drive, the next is made ready. */
const FILES_IN_FLIGHT = 4;
const flush = (descriptor: number) => promisify(fsync)(descriptor);

/** Carries the writes out; one result for each, in the same order. Journals must be on the drive before. A file that could not be written is as it was, unless its error is an UnsettledError. */
export async function carryOut(writes: readonly PlannedWrite[]): Promise<WriteResult[]> {
  const attributes = copyAttributes(writes.flatMap(({ files }) => files));
  const results: WriteResult[] = [];
  const folders = new Set<string>();
  const queue = writes.entries();
  const hands = Array.from({ length: FILES_IN_FLIGHT }, async () => {
    for (const [i, write] of queue) {
      try {
        for (const file of write.files) {
          if (file.patches) await patchFile(file, file.patches);
          else if (file.pieces) await rewriteFile(file, file.pieces, attributes);
          else unlinkSync(file.path);
          if (!file.patches) folders.add(dirname(file.path));
        }
        results[i] = { ok: true, now: write.files.map(({ path }) => fingerprintOf(path)) };
      } catch (error) {
        results[i] = { ok: false, error: withReason(error) };
        await removeTemporaries(write, attributes);
      }
    }
  });
  await Promise.all(hands);
  for (const folder of folders) flushFolderNow(folder);
  return results;
}

/** Removes a temporary file that a killed process left. */
export function removeLeftover(path: string): void {
  try {
    unlinkSync(path);
  } catch (error) {
    if (systemCode(error) !== 'ENOENT' && systemCode(error) !== 'ENOTDIR')
      throw new Error(`${path} could not be removed: ${problemOf(error)}`, { cause: error });
  }
}

async function rewriteFile(file: PlannedFile, pieces: readonly Piece[], attributes: Attributes): Promise<void> {
  const { path, temporary, before, identity } = file;
  await attributes.get(file);
  requireUnchanged(path, before, identity);
  const times = before && statSync(path, { bigint: true });
  const descriptor = openTemporary(temporary, before !== undefined);
  try {
    writePieces(path, before !== undefined, pieces, descriptor);
    if (times && file.keepTimes) keepTimes(descriptor, times);
    await flush(descriptor);
  } finally {
    closeSync(descriptor);
  }
  faultPoint('write:copied');
  verify(file);
  faultPoint('write:verified');
  requireUnchanged(path, before, identity);
  renameSync(temporary, path);
  faultPoint('write:renamed');
}

/** The temporary file of a write: it has been made with the attributes of the old one where that is there; nobody else may have made it. */
function openTemporary(temporary: string, isMade: boolean): number {
  return openSync(temporary, isMade && existsSync(temporary) ? 'r+' : 'wx');
}

/** Removes what a write that failed has left: new files that replaced nothing, or were only prepared. */
async function removeTemporaries({ files }: PlannedWrite, attributes: Attributes): Promise<void> {
  for (const file of files) {
    await attributes.get(file);
    try {
      if (!file.patches) removeLeftover(file.temporary);
    } catch {
      // The write has its reason already, which is the one that matters; what is left is hidden, and no photo.
    }
  }
}

/** Puts the patches where they belong, and the old bytes back should that fail. */
async function patchFile(file: PlannedFile, patches: readonly Patch[]): Promise<void> {
  const { path, before } = file;
  requireUnchanged(path, before);
  withSource(path, (source) => requireOutsidePicture(source, patches));
  const descriptor = openSync(path, 'r+');
  try {
    const times = fstatSync(descriptor, { bigint: true });
    requireSame(path, descriptor, file.identity);
    for (const { offset, before: old } of patches)
      if (!hasBytes(descriptor, offset, old)) throw new ChangedFileError(path);
    try {
      for (const { offset, after } of patches) {
        const half = after.length >> 1;
        writeAll(descriptor, after.subarray(0, half), offset);
        faultPoint('write:halfPatched');
        writeAll(descriptor, after.subarray(half), offset + half);
      }
      if (file.keepTimes) keepTimes(descriptor, times);
      await flush(descriptor);
      faultPoint('write:patched');
      if (!patchesStand(path, descriptor, patches, 'after'))
        throw new Error('the drive did not keep what was written; the old file was restored');
    } catch (error) {
      await restore(file, patches, descriptor, times, error);
      throw error;
    }
  } finally {
    closeSync(descriptor);
  }
}

/** Puts the old bytes back. Throws UnsettledError when they don’t stand there afterwards. */
async function restore(
  { path }: PlannedFile,
  patches: readonly Patch[],
  descriptor: number,
  times: BigIntStats,
  reason: unknown,
): Promise<void> {
  let problem = 'the drive did not keep them';
  try {
    faultPoint('write:restoring');
    for (const { offset, before } of patches) writeAll(descriptor, before, offset);
    keepTimes(descriptor, times);
    await flush(descriptor);
    if (patchesStand(path, descriptor, patches, 'before')) return;
  } catch (error) {
    problem = problemOf(error);
  }
  throw new UnsettledError(
    `it could not be written (${problemOf(reason)}), nor could the old bytes be put back (${problem}). They are kept in the journal and put back as soon as the file can be written again`,
    { cause: reason },
  );
}

/** Reads the new file again: every field as meant, and the coded picture the same bytes. */
function verify({ path, temporary, check }: PlannedFile): void {
  const { changes, before, isSidecarOf } = check;
  if (isSidecarOf !== undefined) {
    const made = readSidecar(temporary);
    return requireFields(
      before,
      withSource(isSidecarOf, (source) => readMetadata(source, made)),
      changes,
    );
  }
  const made = withSource(temporary, (source) => {
    requireFields(before, readMetadata(source), changes);
    return pictureRanges(source);
  });
  requireSamePicture(path, withSource(path, pictureRanges), temporary, made);
}

function requireSamePicture(path: string, was: readonly Range[], made: string, is: readonly Range[]): void {
  const [old, other] = [openSync(path, 'r'), openSync(made, 'r')];
  try {
    const same = was.length === is.length && was.every((range, i) => sameRange(old, range, other, is[i]));
    if (!same) throw new Error('the picture data would not be the same; nothing was written');
  } finally {
    closeSync(old);
    closeSync(other);
  }
}

function sameRange(old: number, { start, end }: Range, made: number, other: Range | undefined): boolean {
  if (!other || other.end - other.start !== end - start) return false;
  for (let done = 0; done < end - start;) {
    const length = Math.min(CHUNK.length, end - start - done);
    const read = readSync(old, CHUNK, 0, length, start + done);
    if (read === 0 || readSync(made, OTHER_CHUNK, 0, read, other.start + done) !== read) return false;
    if (CHUNK.compare(OTHER_CHUNK, 0, read, 0, read) !== 0) return false;
    done += read;
  }
  return true;
}

function requireOutsidePicture(source: ByteSource, patches: readonly Patch[]): void {
  const ranges = pictureRanges(source);
  const touches = ({ offset, after }: Patch) =>
    ranges.some(({ start, end }) => start < offset + after.length && end > offset);
  if (patches.some(touches)) throw new Error('the picture data would not be the same; nothing was written');
}

function hasBytes(descriptor: number, offset: number, bytes: Uint8Array): boolean {
  const read = Buffer.allocUnsafe(bytes.length);
  return readSync(descriptor, read, 0, bytes.length, offset) === bytes.length && Buffer.compare(read, bytes) === 0;
}

function writePieces(path: string, exists: boolean, pieces: readonly Piece[], target: number): void {
  const source = exists ? openSync(path, 'r') : undefined;
  const isSparse = source !== undefined && hasHoles(fstatSync(source));
  try {
    let at = 0;
    for (const piece of pieces) {
      if (piece instanceof Uint8Array) writeAll(target, piece, at);
      else if (source !== undefined) copyRange(source, piece, target, at, isSparse);
      at += lengthOf(piece);
    }
    // What ends in a hole has its length nevertheless.
    if (isSparse) ftruncateSync(target, at);
  } finally {
    if (source !== undefined) closeSync(source);
  }
}

function copyRange(source: number, { start, end }: Range, target: number, at: number, isSparse: boolean): void {
  for (let offset = start; offset < end;) {
    const read = readSync(source, CHUNK, 0, Math.min(CHUNK.length, end - offset), offset);
    if (read === 0) throw new Error('the file became shorter while it was copied');
    const bytes = CHUNK.subarray(0, read);
    if (!isSparse || !isZero(bytes)) writeAll(target, bytes, at + offset - start);
    offset += read;
  }
}

function writeAll(descriptor: number, bytes: Uint8Array, position: number): void {
  let written = 0;
  while (written < bytes.length)
    written += writeSync(descriptor, bytes, written, bytes.length - written, position + written);
}

/** Makes the temporary files with owner, mode, times and extended attributes of the old ones, ahead of the writing. */
function copyAttributes(files: readonly PlannedFile[]): Attributes {
  const anew = files.filter(({ patches, before, pieces }) => !patches && before && pieces);
  return new Map(anew.map((file) => [file, copyAttributesOf(file.path, file.temporary)]));
}

function keepTimes(descriptor: number, { atimeNs, mtimeNs }: BigIntStats): void {
  futimesSync(descriptor, Number(atimeNs) / 1e9, Number(mtimeNs) / 1e9);
}

/** The error with a sentence for people; its code stays. */
function withReason(error: unknown): Error {
  const code = systemCode(error);
  if (code === undefined) return error as Error;
  return Object.assign(new Error(problemOf(error), { cause: error }), { code });
}
