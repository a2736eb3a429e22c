// A file as a source of byte ranges.

import type { FileHandle } from 'node:fs/promises';
import type { ByteSource } from '@stellin/core/metadata/bytes';

/** Ranges of an open file; the caller closes it. */
export function fileSource(handle: FileHandle, size: number): ByteSource {
  return {
    size,
    async read(offset, length) {
      const wanted = Math.max(0, Math.min(length, size - offset));
      const buffer = Buffer.allocUnsafe(wanted);
      let filled = 0;
      while (filled < wanted) {
        const { bytesRead } = await handle.read(buffer, filled, wanted - filled, offset + filled);
        if (bytesRead === 0) break;
        filled += bytesRead;
      }
      return buffer.subarray(0, filled);
    },
  };
}
