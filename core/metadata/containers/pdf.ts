// PDF (ISO 32000-2, 14.3.2): the XMP of the document is a stream that its catalogue points to, left uncompressed so that
// it can be found without reading the whole structure.

import { asciiText, concatBytes, hasAscii, indexOfAscii, NO_BYTES, type ByteSource } from '../bytes';
import type { Container, RawBlocks } from './container';

const CHUNK_BYTES = 1024 * 1024;
/** A file is looked through only so far from either end. */
const MAX_SEARCHED_BYTES = 32 * CHUNK_BYTES;
const MAX_PACKET = 8 * 1024 * 1024;
const OPENING = '<?xpacket begin=';
const CLOSING = '<?xpacket end=';
const OBJECT_BYTES = 512;
/** So many beginnings of packets are followed up; a hostile file could hold millions. */
const MAX_PACKETS = 32;

function readBlocks(source: ByteSource): RawBlocks {
  const packets: { start: number; end: number }[] = [];
  let root: string | undefined;
  let followed = 0;
  let openUntil = 0;
  for (const { start, end } of parts(source.size)) {
    let carried = NO_BYTES;
    for (let at = start; at < end; at += CHUNK_BYTES) {
      const bytes = concatBytes([carried, source.read(at, Math.min(CHUNK_BYTES, end - at))]);
      const base = at - carried.length;
      for (let found = indexOfAscii(bytes, OPENING); found >= 0; found = indexOfAscii(bytes, OPENING, found + 1)) {
        if (base + found < openUntil) continue;
        if (++followed > MAX_PACKETS) break;
        const close = closingOf(source, base + found);
        // What has no end here has none for any beginning in between.
        if (!close) openUntil = base + found + MAX_PACKET;
        if (close && packets.at(-1)?.start !== base + found) packets.push({ start: base + found, end: close });
      }
      for (
        let found = indexOfAscii(bytes, '/Metadata ');
        found >= 0;
        found = indexOfAscii(bytes, '/Metadata ', found + 1)
      )
        root = rootReference(asciiText(bytes.subarray(Math.max(0, found - OBJECT_BYTES), found + 40))) ?? root;
      carried = bytes.slice(-64);
    }
  }
  const chosen =
    packets.findLast(({ start }) => root !== undefined && belongsTo(source, start, root)) ?? packets.at(-1);
  return { exif: [], issues: [], xmp: chosen && source.read(chosen.start, chosen.end - chosen.start).slice() };
}

function parts(size: number): { start: number; end: number }[] {
  return size <= 2 * MAX_SEARCHED_BYTES
    ? [{ start: 0, end: size }]
    : [
        { start: 0, end: MAX_SEARCHED_BYTES },
        { start: size - MAX_SEARCHED_BYTES, end: size },
      ];
}

function closingOf(source: ByteSource, start: number): number | undefined {
  const bytes = source.read(start, MAX_PACKET);
  const at = indexOfAscii(bytes, CLOSING);
  return at < 0 ? undefined : start + Math.min(bytes.length, bytes.indexOf(0x3e, at) + 1);
}

/** The object that a catalogue names as its metadata: `12 0`. */
function rootReference(text: string): string | undefined {
  if (!/\/Type\s*\/Catalog/.test(text)) return undefined;
  return /\/Metadata (\d+ \d+) R/.exec(text)?.[1];
}

function belongsTo(source: ByteSource, start: number, reference: string): boolean {
  const before = asciiText(source.read(Math.max(0, start - OBJECT_BYTES), Math.min(start, OBJECT_BYTES)));
  return before.slice(before.lastIndexOf('endobj') + 1).includes(`${reference} obj`);
}

export const pdf: Container = {
  kinds: [{ kind: 'pdf', extensions: ['pdf'] }],
  canHandle: (head) => hasAscii(head, 0, '%PDF-'),
  readBlocks,
};
