// Telling whether a file is still the one that was read.

import { fstatSync, statSync, type BigIntStats } from 'node:fs';

/** What a file looked like when it was read: another size or time means that somebody changed it. */
export interface Fingerprint {
  sizeBytes: number;
  mtimeMs: number;
}

/** The file is not the one that was read. Nothing was written. */
export class ChangedFileError extends Error {
  constructor(path: string) {
    super(`${path} was changed by another program since it was read`);
  }
}

/** The size and time of a file, undefined when there is none. */
export function fingerprintOf(path: string): Fingerprint | undefined {
  const found = statSync(path, { throwIfNoEntry: false });
  return found && { sizeBytes: found.size, mtimeMs: found.mtimeMs };
}

/** Throws ChangedFileError unless the file is as expected, and, where that is given, the very one; undefined expects that there is none. */
export function requireUnchanged(path: string, expected: Fingerprint | undefined, identity?: FileIdentity): void {
  const now = fingerprintOf(path);
  if (now?.sizeBytes !== expected?.sizeBytes || !sameTime(now?.mtimeMs, expected?.mtimeMs))
    throw new ChangedFileError(path);
  if (identity) requireIdentity(path, identityOf(path), identity);
}

/** What tells a file from any other, and from what it was before anything was done to it: no program can set the time of its last change of state. */
export interface FileIdentity {
  inode: bigint;
  changedNs: bigint;
}

const identityOfStats = ({ dev, ino, ctimeNs }: BigIntStats): FileIdentity => ({
  inode: (dev << 64n) | ino,
  changedNs: ctimeNs,
});

/** The identity of a file; undefined when there is none. */
export function identityOf(path: string): FileIdentity | undefined {
  const found = statSync(path, { bigint: true, throwIfNoEntry: false });
  return found && identityOfStats(found);
}

/** Throws ChangedFileError unless an open file is the one that was planned for, and nothing was done to it since. */
export function requireSame(path: string, descriptor: number, planned: FileIdentity | undefined): void {
  if (planned) requireIdentity(path, identityOfStats(fstatSync(descriptor, { bigint: true })), planned);
}

/** Throws ChangedFileError unless the file at a path is the very one that it was, and nothing was done to it since. */
export function requireUntouched(path: string, before: FileIdentity): void {
  requireIdentity(path, identityOf(path), before);
}

function requireIdentity(path: string, now: FileIdentity | undefined, planned: FileIdentity): void {
  if (now?.inode !== planned.inode || now.changedNs !== planned.changedNs) throw new ChangedFileError(path);
}

/** Whether two times of a file are the same to the millisecond: times that are put back lose what is finer. */
export function sameTime(a: number | null | undefined, b: number | null | undefined): boolean {
  return a === b || (typeof a === 'number' && typeof b === 'number' && Math.abs(a - b) < 1);
}
