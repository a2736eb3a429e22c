// What a drive allows: the same files written by nothing but calls of the system.

import { closeSync, copyFileSync, fsyncSync, openSync, readSync, renameSync, writeSync } from 'node:fs';

const PATCH_BYTES = 8 * 1024;

/** 8 KB of each file are written where they stand, and flushed. */
export function patchRaw(files: readonly string[]): void {
  const bytes = Buffer.alloc(PATCH_BYTES);
  for (const file of files) {
    const descriptor = openSync(file, 'r+');
    // What stands there is put back: the bytes of the file are the same afterwards.
    readSync(descriptor, bytes, 0, PATCH_BYTES, 4096);
    writeSync(descriptor, bytes, 0, PATCH_BYTES, 4096);
    fsyncSync(descriptor);
    closeSync(descriptor);
  }
}

/** Each file is copied, flushed, and put in its own place. */
export function copyRaw(files: readonly string[]): void {
  for (const file of files) {
    const copy = `${file}.copy`;
    copyFileSync(file, copy);
    const descriptor = openSync(copy, 'r+');
    fsyncSync(descriptor);
    closeSync(descriptor);
    renameSync(copy, file);
  }
}
