// Inflating zlib data (RFC 1950) and bare deflate (RFC 1951) with a limit, so that a small block can't become a huge one.

import { Inflate, Unzlib, type FlateStreamHandler } from 'fflate';
import { concatBytes } from './bytes';

/** Deflate makes at most 1,032 bytes of one, so a slice of this size becomes 4 MB at most before the limit is looked at. */
const SLICE = 4096;

/** The inflated bytes of zlib data. Throws an Error when the data is damaged, ends early, or becomes larger than `maxBytes`. */
export function inflate(bytes: Uint8Array, maxBytes: number): Uint8Array {
  return inflateBy((take) => new Unzlib(take), bytes, maxBytes);
}

/** The same of deflate data without a frame. */
export function inflateRaw(bytes: Uint8Array, maxBytes: number): Uint8Array {
  return inflateBy((take) => new Inflate(take), bytes, maxBytes);
}

function inflateBy(
  streamTo: (take: FlateStreamHandler) => Unzlib | Inflate,
  bytes: Uint8Array,
  maxBytes: number,
): Uint8Array {
  const parts: Uint8Array[] = [];
  let size = 0;
  let ended = false;
  const stream = streamTo((part, final) => {
    parts.push(part);
    size += part.length;
    ended ||= final;
  });
  for (let at = 0; at < bytes.length && !ended; at += SLICE) {
    stream.push(bytes.subarray(at, at + SLICE), at + SLICE >= bytes.length);
    if (size > maxBytes) throw new Error(`becomes larger than ${maxBytes} bytes when inflated`);
  }
  return concatBytes(parts);
}
