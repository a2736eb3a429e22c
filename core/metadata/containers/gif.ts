// GIF89a: XMP in an application extension (ISO 16684-3, 1.1.2).

import { asciiText, hasAscii, viewOf, type ByteSource } from '../bytes';
import type { Container, RawBlocks } from './container';

const XMP_APPLICATION = 'XMP DataXMP';
const MAX_BLOCKS = 100_000;
const MAX_PACKET = 16 * 1024 * 1024;
/** A packet stands as it is, not in sub-blocks; behind it a trailer of 258 bytes leads readers of sub-blocks to the end. */
const TRAILER_BYTES = 258;

function readBlocks(source: ByteSource): RawBlocks {
  const head = source.read(0, 13);
  const view = viewOf(head);
  const blocks: RawBlocks = { exif: [], issues: [] };
  if (head.length < 13) return { ...blocks, issues: ['the GIF ends before its first block'], damaged: true };
  blocks.width = view.getUint16(6, true);
  blocks.height = view.getUint16(8, true);
  blocks.bitDepth = 8;
  blocks.colour = 'indexed';
  let pictures = 0;
  let at = 13 + tableBytes(head[10] ?? 0);
  for (let i = 0; i < MAX_BLOCKS; i++) {
    const [kind, label] = source.read(at, 2);
    if (kind === 0x3b) return pictures > 1 ? { ...blocks, pages: pictures } : blocks;
    if (kind === 0x2c) {
      pictures++;
      const flags = source.read(at + 9, 1)[0] ?? 0;
      at = skipSubBlocks(source, at + 10 + tableBytes(flags) + 1);
    } else if (kind === 0x21 && label !== undefined) {
      const isXmp = label === 0xff && asciiText(source.read(at + 3, 11)) === XMP_APPLICATION;
      const end = skipSubBlocks(source, at + 2);
      if (isXmp && end - at - 14 > TRAILER_BYTES && end - at < MAX_PACKET)
        blocks.xmp ??= source.read(at + 14, end - at - 14 - TRAILER_BYTES);
      at = end;
    } else break;
    if (at >= source.size) break;
  }
  return { ...blocks, issues: ['the GIF ends before its last block'], damaged: true };
}

function tableBytes(flags: number): number {
  return flags & 0x80 ? 3 << ((flags & 7) + 1) : 0;
}

function skipSubBlocks(source: ByteSource, start: number): number {
  let at = start;
  for (;;) {
    const [length] = source.read(at, 1);
    if (length === undefined) return source.size;
    at += 1 + length;
    if (length === 0) return at;
  }
}

export const gif: Container = {
  kinds: [{ kind: 'gif', extensions: ['gif'] }],
  canHandle: (head) => hasAscii(head, 0, 'GIF8'),
  readBlocks,
};
