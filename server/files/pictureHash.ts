// The hash by which a picture is known wherever its file goes and whatever is written into its metadata.

import { createHash } from 'node:crypto';
import type { ByteSource } from '@stellin/core/metadata/bytes';
import type { Range } from '@stellin/core/metadata/containers/index';
import { pictureRanges } from '@stellin/core/metadata/write';
import { withSource } from './source';

const CHUNK_BYTES = 1024 * 1024;
/** BLAKE2b (RFC 7693), shortened. */
const ALGORITHM = 'blake2b512';
const HASH_BYTES = 32;

/** The hash of a file's coded picture; of kinds whose metadata we don't know to tell from it, of the whole file. */
export function pictureHash(path: string): Buffer {
  return withSource(path, (source) => hashOf(source, rangesOf(source)));
}

/** Where the coded picture stands in a file, in the order in which it is hashed. Throws an Error for a file that can’t be read as what it is. */
export function rangesOf(source: ByteSource): readonly Range[] {
  const ranges = pictureRanges(source);
  return ranges.length > 0 ? ranges : [{ start: 0, end: source.size }];
}

function hashOf(source: ByteSource, ranges: readonly Range[]): Buffer {
  const hash = createHash(ALGORITHM);
  for (const { start, end } of ranges)
    for (let at = start; at < end;) {
      const bytes = source.read(at, Math.min(CHUNK_BYTES, end - at));
      if (bytes.length === 0) throw new Error('the file became shorter while it was read');
      hash.update(bytes);
      at += bytes.length;
    }
  return hash.digest().subarray(0, HASH_BYTES);
}

/** The hash of a picture whose file is read from the beginning to the end; undefined where its ranges are not in that order. */
export function hashingInOrder(
  ranges: readonly Range[],
): { take(chunk: Uint8Array): void; digest(): Buffer } | undefined {
  if (ranges.some(({ start }, i) => start < (ranges[i - 1]?.end ?? 0))) return undefined;
  const hash = createHash(ALGORITHM);
  let at = 0;
  let next = 0;
  return {
    take(chunk) {
      const until = at + chunk.length;
      for (let range = ranges[next]; range && range.start < until; range = ranges[next]) {
        hash.update(chunk.subarray(Math.max(0, range.start - at), Math.max(0, range.end - at)));
        if (range.end > until) break;
        next++;
      }
      at = until;
    },
    digest: () => hash.digest().subarray(0, HASH_BYTES),
  };
}
