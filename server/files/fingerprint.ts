// Telling whether a file is still the one that was read.

import { statSync } from 'node:fs';

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

/** Throws ChangedFileError unless the file is as expected; undefined expects that there is none. */
export function requireUnchanged(path: string, expected: Fingerprint | undefined): void {
  const now = fingerprintOf(path);
  if (now?.sizeBytes !== expected?.sizeBytes || !sameTime(now?.mtimeMs, expected?.mtimeMs))
    throw new ChangedFileError(path);
}

/** Whether two times of a file are the same to the millisecond: times that are put back lose what is finer. */
export function sameTime(a: number | null | undefined, b: number | null | undefined): boolean {
  return a === b || (typeof a === 'number' && typeof b === 'number' && Math.abs(a - b) < 1);
}
