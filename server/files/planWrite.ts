// Planning a write: what becomes of a photo's file and its sidecar, proven right before a byte is written.

import { randomBytes } from 'node:crypto';
import { constants, accessSync, realpathSync, statSync } from 'node:fs';
import { basename, dirname, join } from 'node:path';
import { memorySource } from '@stellin/core/metadata/bytes';
import { fieldOf, type FieldId } from '@stellin/core/metadata/fields';
import { openFile } from '@stellin/core/metadata/open';
import { patchesOf, piecesSource, reversed, type Patch, type Piece } from '@stellin/core/metadata/pieces';
import { metadataOf, readMetadata, type FileMetadata } from '@stellin/core/metadata/read';
import {
  isEmbeddable,
  planOpenFile,
  planSidecar,
  wrongFields,
  type FieldChanges,
  type WriteOptions,
} from '@stellin/core/metadata/write';
import type { IimCut } from '@stellin/core/metadata/blocks/iim';
import {
  ChangedFileError,
  fingerprintOf,
  requireUnchanged,
  sameTime,
  type Fingerprint,
  identityOf,
  type FileIdentity,
} from './fingerprint';
import { sidecarPath } from './sidecars';
import { readSidecar, withSource } from './source';

export interface WriteRequest {
  path: string;
  changes: FieldChanges;
  options: WriteOptions;
  /** Write into a sidecar even where the file could hold it. */
  sidecarOnly?: boolean;
  /** The file's time of change stays as it was; it does unless said otherwise. */
  keepTimes?: boolean;
  /** The same where it is written in place; it does not unless said otherwise: other programs would not see that it changed. */
  keepTimesInPlace?: boolean;
  /** The file and the sidecar as last read; without it they are taken as they are. A time of null expects no sidecar. */
  expected?: { file: Fingerprint; sidecarMtimeMs: number | null };
}

/** One file that is to be written: the photo's own or its sidecar. */
export interface PlannedFile {
  /** The file itself, links followed. */
  path: string;
  temporary: string;
  /** Undefined when it is made anew. */
  before: Fingerprint | undefined;
  /** Of the file as it was planned for. */
  identity: FileIdentity | undefined;
  /** The new file; undefined removes it. */
  pieces: Piece[] | undefined;
  /** When nothing has to move: what is put where. */
  patches: Patch[] | undefined;
  /** The way back; none when it is made anew. */
  back: Piece[] | undefined;
  keepTimes: boolean;
  /** What it has to say afterwards, and what it said before. */
  check: { changes: FieldChanges; before: FileMetadata; isSidecarOf: string | undefined };
}

export interface PlannedWrite {
  path: string;
  /** None when everything is said already. The sidecar comes first: should the process die between the two, the file is still as it was and the write is repeated. */
  files: PlannedFile[];
  cuts: IimCut[];
}

const MAX_NAME_BYTES = 255;

/** The new file's name until it replaces the old one: another each time, so that no two processes share one. */
export function temporaryPath(path: string): string {
  const end = `.${randomBytes(6).toString('hex')}.stellin-part`;
  const name = Buffer.from(basename(path)).subarray(0, MAX_NAME_BYTES - end.length - 1);
  // A character that was cut is left out.
  return join(dirname(path), `.${name.toString('utf8').replace(/\ufffd+$/, '')}${end}`);
}

/** The plan. Throws ChangedFileError when a file is not as expected, and an Error that says why when it can't be written safely. */
export function planFiles({
  path,
  changes,
  options,
  sidecarOnly,
  expected,
  keepTimes = true,
  keepTimesInPlace = false,
}: WriteRequest): PlannedWrite {
  const beside = sidecarPath(path);
  const sidecarNow = beside === path ? undefined : fingerprintOf(beside);
  if (expected) {
    requireUnchanged(path, expected.file);
    if (!sameTime(sidecarNow?.mtimeMs ?? null, expected.sidecarMtimeMs)) throw new ChangedFileError(beside);
  }
  // Taken before anything is read: what is done to the file from here on shows.
  const identity = identityOf(path);
  return withSource(path, (source) => {
    const file = openFile(source);
    const embeds = beside === path || (!sidecarOnly && isEmbeddable(file));
    const before = metadataOf(file);
    const files: PlannedFile[] = [];
    if (!embeds || sidecarNow) files.push(...planBeside(path, beside, sidecarNow, changes, options, keepTimes));
    if (!embeds) return { path, files, cuts: [] };
    const plan = planOpenFile(file, changes, options, before);
    if (!plan.nothing) {
      const target = realpathSync.native(path);
      requireWritable(target);
      requireFields(before, readMetadata(piecesSource(source, plan.pieces)), changes);
      const patches = patchesOf(source, plan.pieces);
      if (!patches) requireOneName(target);
      files.push({
        path: target,
        temporary: temporaryPath(target),
        before: fingerprintOf(target),
        identity,
        pieces: plan.pieces.map((piece) => (piece instanceof Uint8Array ? piece.slice() : piece)),
        patches,
        back: reversed(source, plan.pieces),
        keepTimes: patches ? keepTimesInPlace : keepTimes,
        check: { changes, before, isSidecarOf: undefined },
      });
    }
    return { path, files, cuts: plan.cuts };
  });
}

/** Throws an Error that names the fields which would not read as they should. */
export function requireFields(before: FileMetadata, after: FileMetadata, changes: FieldChanges): void {
  const wrong = wrongFields(before, after, changes);
  if (wrong.length)
    throw new Error(
      `the new file would not say what it should (${wrong.map(labelOf).join(', ')}); nothing was written`,
    );
}

function planBeside(
  path: string,
  beside: string,
  now: Fingerprint | undefined,
  changes: FieldChanges,
  options: WriteOptions,
  keepTimes: boolean,
): PlannedFile[] {
  // Taken before anything is read.
  const identity = identityOf(beside);
  const old = now && readSidecar(beside);
  const made = planSidecar(old, changes, options);
  if (made === old) return [];
  const target = now ? realpathSync.native(beside) : beside;
  if (now) requireWritable(target);
  const before = withSource(path, (source) => readMetadata(source, old));
  const after = withSource(path, (source) => readMetadata(source, made));
  requireFields(before, after, changes);
  return [
    {
      path: target,
      temporary: temporaryPath(target),
      before: now,
      identity,
      pieces: [made],
      patches: undefined,
      back: old && reversed(memorySource(old), [made]),
      keepTimes,
      check: { changes, before, isSidecarOf: path },
    },
  ];
}

/** A file that nobody may write to is left alone, even where the system would let us replace it. */
function requireWritable(path: string): void {
  if ((statSync(path).mode & 0o222) === 0) throw new Error('the file is read-only');
  accessSync(path, constants.W_OK);
}

/** A file that is written anew parts from its other names, which would go on saying what it said. */
function requireOneName(path: string): void {
  const { nlink } = statSync(path);
  if (nlink > 1)
    throw new Error(
      `the file has ${nlink} names (hard links), and the others would keep what it said; a sidecar can say it instead (How files are written)`,
    );
}

function labelOf(id: FieldId): string {
  return fieldOf(id).label;
}
