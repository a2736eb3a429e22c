// Files as sources of byte ranges. Reading is synchronous: all of it happens in worker threads or on the command line.

import { closeSync, fstatSync, openSync, readFileSync, readSync, statSync } from 'node:fs';
import type { ByteSource } from '@stellin/core/metadata/bytes';

/** Reads up to this size take a buffer that was used before: making new ones costs more than reading. */
const SHARED_BYTES = 64 * 1024;
const free: Buffer[] = [];
const MAX_SIDECAR_BYTES = 16 * 1024 * 1024;

/** Opens a file for the time of some work. What was read is not to be kept beyond it. */
export function withSource<Result>(path: string, work: (source: ByteSource) => Result): Result {
  const descriptor = openSync(path, 'r');
  const taken: Buffer[] = [];
  try {
    return work(sourceOf(descriptor, fstatSync(descriptor).size, taken));
  } finally {
    free.push(...taken);
    closeSync(descriptor);
  }
}

/** A sidecar whole. Throws an Error when it is too large to be one. */
export function readSidecar(path: string): Uint8Array {
  if (statSync(path).size > MAX_SIDECAR_BYTES) throw new Error(`the sidecar is larger than ${MAX_SIDECAR_BYTES} bytes`);
  return readFileSync(path);
}

function sourceOf(descriptor: number, size: number, taken: Buffer[]): ByteSource {
  return {
    size,
    read(offset, length) {
      const wanted = Math.max(0, Math.min(length, size - offset));
      const buffer =
        wanted === SHARED_BYTES ? (free.pop() ?? Buffer.allocUnsafeSlow(SHARED_BYTES)) : Buffer.allocUnsafe(wanted);
      if (wanted === SHARED_BYTES) taken.push(buffer);
      let filled = 0;
      while (filled < wanted) {
        const read = readSync(descriptor, buffer, filled, wanted - filled, offset + filled);
        if (read === 0) break;
        filled += read;
      }
      return buffer.subarray(0, filled);
    },
  };
}
