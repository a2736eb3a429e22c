// Reading what a drive holds, not what memory still remembers of what was written: with O_DIRECT, where the file system takes
// it (open(2)). It reads whole blocks into memory at whole blocks only.

import type { Patch } from '@stellin/core/metadata/pieces';
import { closeSync, constants, openSync, readSync } from 'node:fs';

const BLOCK = 4096;
/** Memory of Node.js begins anywhere; of the places 16 bytes apart one is at a whole block. */
const STEP = 16;

/** Bytes of the file from an offset on, fewer at its end. */
type Read = (offset: number, length: number) => Buffer;

/** Whether patches stand in a file as they were (`before`) or as they are to be (`after`), as the drive says. */
export function patchesStand(
  path: string,
  descriptor: number,
  patches: readonly Patch[],
  which: 'before' | 'after',
): boolean {
  return readingPastCache(path, descriptor, (read) =>
    patches.every((patch) => Buffer.compare(read(patch.offset, patch[which].length), patch[which]) === 0),
  );
}

/** Works with reads of a file past the cache; where that can’t be had, with plain reads of the descriptor. */
function readingPastCache<Result>(path: string, descriptor: number, work: (read: Read) => Result): Result {
  const plain: Read = (offset, length) => {
    const bytes = Buffer.allocUnsafe(length);
    return bytes.subarray(0, readSync(descriptor, bytes, 0, length, offset));
  };
  let direct: number;
  try {
    direct = openSync(path, constants.O_RDONLY | constants.O_DIRECT);
  } catch {
    return work(plain);
  }
  try {
    return work((offset, length) => readBlocks(direct, offset, length) ?? plain(offset, length));
  } finally {
    closeSync(direct);
  }
}

/** Undefined where the system refuses it. */
function readBlocks(direct: number, offset: number, length: number): Buffer | undefined {
  const start = Math.floor(offset / BLOCK) * BLOCK;
  const size = Math.ceil((offset + length - start) / BLOCK) * BLOCK;
  const memory = Buffer.allocUnsafeSlow(size + BLOCK);
  for (let at = 0; at < BLOCK; at += STEP) {
    try {
      const read = readSync(direct, memory, at, size, start);
      const from = at + offset - start;
      return memory.subarray(from, Math.max(from, Math.min(from + length, at + read)));
    } catch {
      // Not at a whole block: the next place may be.
    }
  }
  return undefined;
}
