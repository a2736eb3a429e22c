// Files made of chunks: a name of four letters, a length, and as many bytes, each beginning at an even place (RIFF; IFF, EA IFF 85). Shared by
// the kinds of sound and film that are built so.

import { asciiText, viewOf, type ByteSource } from '../bytes';

const FILE_HEAD_BYTES = 12;
export const CHUNK_HEAD_BYTES = 8;
/** A length that stands elsewhere: in the chunk ds64 (EBU Tech 3306). */
export const ELSEWHERE = 0xffffffff;
const MAX_CHUNKS = 2000;
/** Larger blocks of XMP are not read. */
const MAX_XMP_BYTES = 4_000_000;

export interface Chunk {
  id: string;
  /** Behind name and length. */
  start: number;
  /** Without the byte that fills it up to an even length; never beyond the file. */
  end: number;
  /** How long it says to be. */
  said: number;
}

/** The chunks in their order, those within lists left to who asks. What reaches beyond the file ends with it. */
export function chunksOf(source: ByteSource, { littleEndian }: { littleEndian: boolean }): Chunk[] {
  const chunks: Chunk[] = [];
  let dataBytes: number | undefined;
  for (let at = FILE_HEAD_BYTES; at + CHUNK_HEAD_BYTES <= source.size && chunks.length < MAX_CHUNKS;) {
    const head = source.read(at, CHUNK_HEAD_BYTES);
    const id = asciiText(head.subarray(0, 4));
    const said = viewOf(head).getUint32(4, littleEndian);
    const start = at + CHUNK_HEAD_BYTES;
    if (id === 'ds64' && start + 16 <= source.size)
      dataBytes = Number(viewOf(source.read(start, 16)).getBigUint64(8, true));
    const length = said === ELSEWHERE && id === 'data' ? (dataBytes ?? source.size - start) : said;
    const end = Math.min(source.size, start + length);
    chunks.push({ id, start, end, said: length });
    at = start + length + (length % 2);
  }
  return chunks;
}

/** The bytes of a chunk that holds XMP, behind what stands in front of it there; undefined for none. */
export function xmpIn(source: ByteSource, chunk: Chunk | undefined, skip = 0): Uint8Array | undefined {
  if (!chunk || chunk.end - chunk.start > MAX_XMP_BYTES) return undefined;
  return source.read(chunk.start + skip, Math.max(0, chunk.end - chunk.start - skip));
}
