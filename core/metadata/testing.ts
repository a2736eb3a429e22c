// Small JPEGs made by hand for tests: real structure, no real picture.

import { asciiBytes, concatBytes, viewOf } from './bytes';

/** A segment with its marker and length. */
export function jpegSegment(marker: number, payload: Uint8Array): Uint8Array {
  const head = Uint8Array.of(0xff, marker, 0, 0);
  viewOf(head).setUint16(2, payload.length + 2);
  return concatBytes([head, payload]);
}

/** A JPEG of 16 × 8 pixels with the given segments after SOI. Its coded data is not decodable, and need not be. */
export function tinyJpeg(segments: readonly Uint8Array[] = []): Uint8Array {
  const frame = jpegSegment(0xc0, Uint8Array.of(8, 0, 8, 0, 16, 1, 1, 0x11, 0));
  const tables = jpegSegment(0xdb, new Uint8Array(65).fill(7));
  const scan = concatBytes([
    jpegSegment(0xda, Uint8Array.of(1, 1, 0, 0, 63, 0)),
    Uint8Array.of(0x12, 0x34, 0xff, 0x00, 0x56),
    Uint8Array.of(0xff, 0xd9),
  ]);
  return concatBytes([Uint8Array.of(0xff, 0xd8), ...segments, tables, frame, scan, asciiBytes('trailing bytes')]);
}
