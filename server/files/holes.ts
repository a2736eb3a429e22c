// Holes: parts of a file that hold nothing but zeros and take no room on the drive. A copy of it is not to take more.

import type { Stats } from 'node:fs';

/** The unit in which the system counts blocks (stat(2)). */
const COUNTED_BYTES = 512;
const ZEROS = Buffer.alloc(64 * 1024);

/** Whether a file takes less room than it is long. Compressed files do as well: then zeros are left out, which harms nothing. */
export function hasHoles({ size, blocks }: Pick<Stats, 'size' | 'blocks'>): boolean {
  return blocks * COUNTED_BYTES < size;
}

export function isZero(bytes: Uint8Array): boolean {
  for (let at = 0; at < bytes.length; at += ZEROS.length) {
    const part = bytes.subarray(at, at + ZEROS.length);
    if (ZEROS.compare(part, 0, part.length, 0, part.length) !== 0) return false;
  }
  return true;
}
