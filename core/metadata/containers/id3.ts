// ID3 tags version 2.3 and 2.4 (id3.org): only the frame that holds XMP (XMP specification part 3, MP3). The rest is told by a program that
// knows them.

import { asciiText, hasAscii, viewOf, type ByteSource } from '../bytes';

const HEAD_BYTES = 10;
const MAX_TAG_BYTES = 16_000_000;
const MAX_FRAMES = 2000;
const OWNER = 'XMP\0';
/** A header of its own stands before the frames. */
const EXTENDED = 0x40;

/** The XMP in the tag at the beginning of a file; undefined for none. */
export function xmpOfId3(source: ByteSource): Uint8Array | undefined {
  const head = source.read(0, HEAD_BYTES);
  const version = head[3] ?? 0;
  if (!hasAscii(head, 0, 'ID3') || (version !== 3 && version !== 4)) return undefined;
  const tag = source.read(HEAD_BYTES, Math.min(MAX_TAG_BYTES, sevenBits(head, 6)));
  const sizeAt = version === 4 ? sevenBits : (bytes: Uint8Array, at: number) => viewOf(bytes).getUint32(at);
  // The extended header counts its own length in version 4 only.
  let at = ((head[5] ?? 0) & EXTENDED) === 0 || tag.length < 4 ? 0 : sizeAt(tag, 0) + (version === 4 ? 0 : 4);
  for (let frames = 0; at + HEAD_BYTES <= tag.length && frames < MAX_FRAMES; frames++) {
    const length = sizeAt(tag, at + 4);
    const body = tag.subarray(at + HEAD_BYTES, at + HEAD_BYTES + length);
    if (asciiText(tag.subarray(at, at + 4)) === 'PRIV' && hasAscii(body, 0, OWNER)) return body.subarray(OWNER.length);
    at += HEAD_BYTES + length;
  }
  return undefined;
}

/** A number of four bytes with seven bits each. */
function sevenBits(bytes: Uint8Array, at: number): number {
  return [0, 1, 2, 3].reduce((value, i) => value * 128 + ((bytes[at + i] ?? 0) & 0x7f), 0);
}
