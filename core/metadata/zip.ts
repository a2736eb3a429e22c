// Reading ZIP files (APPNOTE 6.3.10; ISO/IEC 21320-1): the list of what is in one, and single entries within a limit. As far as documents use it:
// stored and deflated, in one part, not encrypted.

import { looseText, NO_BYTES, viewOf, type ByteSource } from './bytes';
import { inflateRaw } from './inflate';

export interface ZipEntry {
  name: string;
  method: number;
  /** Bytes in the file, and unpacked as it says. */
  packed: number;
  size: number;
  /** Where its own header stands. */
  at: number;
}

const END = 0x06054b50;
const END_BYTES = 22;
const LISTED = 0x02014b50;
const LISTED_BYTES = 46;
const LOCAL = 0x04034b50;
const LOCAL_BYTES = 30;
const MAX_COMMENT_BYTES = 65_535;
const MAX_LIST_BYTES = 8_000_000;
const MAX_ENTRIES = 20_000;
const STORED = 0;
const DEFLATED = 8;

/** What is in a ZIP file, by name; of two of a name the first. Throws an Error that says why it can’t be read. */
export function zipEntries(source: ByteSource): ReadonlyMap<string, ZipEntry> {
  const tail = source.read(Math.max(0, source.size - END_BYTES - MAX_COMMENT_BYTES), END_BYTES + MAX_COMMENT_BYTES);
  const end = endOf(tail);
  if (!end) throw new Error('the list of what is in it is missing, so it breaks off');
  const { at, length } = end;
  if (length > MAX_LIST_BYTES || at + length > source.size)
    throw new Error('the list of what is in it lies outside the file');
  const list = source.read(at, length);
  const view = viewOf(list);
  const entries = new Map<string, ZipEntry>();
  for (let from = 0; from + LISTED_BYTES <= list.length && entries.size < MAX_ENTRIES;) {
    if (view.getUint32(from, true) !== LISTED) throw new Error('the list of what is in it is damaged');
    const nameBytes = view.getUint16(from + 28, true);
    const next = from + LISTED_BYTES + nameBytes + view.getUint16(from + 30, true) + view.getUint16(from + 32, true);
    const name = looseText(list.subarray(from + LISTED_BYTES, from + LISTED_BYTES + nameBytes));
    if (!entries.has(name))
      entries.set(name, {
        name,
        method: view.getUint16(from + 10, true),
        packed: view.getUint32(from + 20, true),
        size: view.getUint32(from + 24, true),
        at: view.getUint32(from + 42, true),
      });
    from = next;
  }
  return entries;
}

/** The bytes of an entry. Throws an Error when it is damaged, packed in another way, or becomes larger than `maxBytes`. */
export function zipBytes(
  source: ByteSource,
  { name, method, packed, size, at }: ZipEntry,
  maxBytes: number,
): Uint8Array {
  if (size > maxBytes || packed > maxBytes) throw new Error(`“${name}” in it is larger than ${maxBytes} bytes`);
  const head = source.read(at, LOCAL_BYTES);
  if (head.length < LOCAL_BYTES || viewOf(head).getUint32(0, true) !== LOCAL)
    throw new Error(`“${name}” in it is not where it should be`);
  const start = at + LOCAL_BYTES + viewOf(head).getUint16(26, true) + viewOf(head).getUint16(28, true);
  const bytes = source.read(start, packed);
  if (bytes.length < packed) throw new Error(`“${name}” in it breaks off`);
  if (method === STORED) return bytes;
  if (method !== DEFLATED) throw new Error(`“${name}” in it is packed in a way that is not known`);
  return packed === 0 ? NO_BYTES : inflateRaw(bytes, maxBytes);
}

/** Where the list stands, as the record at the end of the file says. */
function endOf(tail: Uint8Array): { at: number; length: number } | undefined {
  const view = viewOf(tail);
  for (let at = tail.length - END_BYTES; at >= 0; at--)
    if (view.getUint32(at, true) === END)
      return { at: view.getUint32(at + 16, true), length: view.getUint32(at + 12, true) };
  return undefined;
}
