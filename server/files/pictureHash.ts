// The hash by which a picture is known wherever its file goes and whatever is written into its metadata.

import { createHash } from 'node:crypto';
import type { ByteSource } from '@stellin/core/metadata/bytes';
import { pictureRanges } from '@stellin/core/metadata/write';
import { withSource } from './source';

const CHUNK_BYTES = 1024 * 1024;
/** BLAKE2b (RFC 7693), shortened. */
const HASH_BYTES = 32;

/** The hash of a file's coded picture; of kinds whose metadata we don't know to tell from it, of the whole file. */
export function pictureHash(path: string): Buffer {
  return withSource(path, (source) => {
    const ranges = pictureRanges(source);
    return hashOf(source, ranges.length > 0 ? ranges : [{ start: 0, end: source.size }]);
  });
}

function hashOf(source: ByteSource, ranges: readonly { start: number; end: number }[]): Buffer {
  const hash = createHash('blake2b512');
  for (const { start, end } of ranges)
    for (let at = start; at < end;) {
      const bytes = source.read(at, Math.min(CHUNK_BYTES, end - at));
      if (bytes.length === 0) throw new Error('the file became shorter while it was read');
      hash.update(bytes);
      at += bytes.length;
    }
  return hash.digest().subarray(0, HASH_BYTES);
}
