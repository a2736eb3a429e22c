// PNG (ISO/IEC 15948, third edition): EXIF in `eXIf`, XMP in an `iTXt` chunk named XML:com.adobe.xmp; the text chunks in
// which older programs kept whole blocks are read too.

import {
  asciiBytes,
  asciiText,
  concatBytes,
  hasAscii,
  memorySource,
  NO_BYTES,
  uint32,
  viewOf,
  type ByteSource,
} from '../bytes';
import { iimOfResources } from '../blocks/iimResources';
import { parseResources } from '../blocks/resources';
import { readTiff } from '../blocks/tiff';
import { editedExif } from '../blocks/tiffEdit';
import { packetBody, PADDING_BYTES, wrapBody, WRAPPER_BYTES } from '../blocks/xmp/packet';
import { crc32 } from '../crc32';
import { inflate } from '../inflate';
import { joinPieces, type Piece } from '../pieces';
import type { Container, ContainerWriter, RawBlocks, Colour } from './container';

interface Chunk {
  name: string;
  /** Where the chunk starts, its length and name included, and where it ends, its CRC included. */
  start: number;
  end: number;
}

const SIGNATURE = '\x89PNG\r\n\x1a\n';
const XMP_KEYWORD = 'XML:com.adobe.xmp\0';
const MAX_CHUNKS = 10_000;
const MAX_BLOCK_BYTES = 32 * 1024 * 1024;
/** What a compressed text may become; inflating more would take a second and more. */
const MAX_INFLATED = 8 * 1024 * 1024;

/** By the colour type (PNG, third edition, 11.2.1). */
const COLOURS: Readonly<Record<number, Colour>> = { 0: 'grey', 2: 'rgb', 3: 'indexed', 4: 'grey', 6: 'rgb' };

/** Takes what it needs from one chunk. Adding a chunk means adding an entry. */
const CHUNKS: Readonly<Record<string, (data: Uint8Array, blocks: RawBlocks) => void>> = {
  IHDR(data, blocks) {
    if (data.length < 8) return;
    blocks.width = viewOf(data).getUint32(0);
    blocks.height = viewOf(data).getUint32(4);
    blocks.bitDepth = data[8];
    blocks.colour = COLOURS[data[9] ?? -1];
  },
  eXIf(data, blocks) {
    blocks.exif.push(readTiff(memorySource(data)));
  },
  iTXt(data, blocks) {
    if (!isXmp(data)) return;
    const compressed = data[XMP_KEYWORD.length] === 1;
    const language = data.indexOf(0, XMP_KEYWORD.length + 2);
    const text = data.indexOf(0, language + 1) + 1;
    if (language >= 0 && text > 0)
      blocks.xmp = compressed ? inflated(data.subarray(text), blocks) : data.subarray(text);
  },
  zTXt(data, blocks) {
    const end = data.indexOf(0);
    if (end < 0) return;
    const keyword = asciiText(data.subarray(0, end + 1));
    const text = () => inflated(data.subarray(end + 2), blocks) ?? NO_BYTES;
    // No place of the standard for XMP, but some writers put it there.
    if (keyword === XMP_KEYWORD) blocks.xmp = text();
    else if (keyword.startsWith(PROFILE)) takeProfile(keyword, text, blocks);
  },
  tEXt(data, blocks) {
    const end = data.indexOf(0);
    if (end > 0 && hasAscii(data, 0, PROFILE))
      takeProfile(asciiText(data.subarray(0, end + 1)), () => data.subarray(end + 1), blocks);
  },
};

const PROFILE = 'Raw profile type ';
/** What a raw profile may hold: a name of it, its length in bytes, and the bytes as hexadecimal digits. */
const PROFILES: Readonly<Record<string, (bytes: Uint8Array, blocks: RawBlocks) => void>> = {
  iptc(bytes, blocks) {
    const { iim, iimDigest, issues } = iimOfResources(parseResources(bytes).resources);
    blocks.iim ??= bytes[0] === 0x1c ? bytes : iim;
    blocks.iimDigest ??= iimDigest;
    blocks.issues.push(...issues);
  },
  exif(bytes, blocks) {
    const start = hasAscii(bytes, 0, 'Exif\0\0') ? 6 : 0;
    if (blocks.exif.length === 0) blocks.exif.push(readTiff(memorySource(bytes.subarray(start))));
  },
  xmp(bytes, blocks) {
    blocks.xmp ??= bytes;
  },
};

function takeProfile(keyword: string, text: () => Uint8Array, blocks: RawBlocks): void {
  const take = PROFILES[keyword.slice(PROFILE.length, -1).toLowerCase()];
  if (!take) return;
  const [, , length = '', ...lines] = asciiText(text()).split('\n');
  const digits = lines.join('').replace(/[^0-9a-fA-F]/g, '');
  const bytes = Uint8Array.from({ length: digits.length >> 1 }, (_, i) =>
    Number.parseInt(digits.slice(i * 2, i * 2 + 2), 16),
  );
  if (bytes.length < Number(length.trim())) blocks.issues.push('an old text chunk with metadata is cut off');
  else take(bytes.subarray(0, Number(length.trim())), blocks);
}

function inflated(bytes: Uint8Array, blocks: RawBlocks): Uint8Array | undefined {
  try {
    return inflate(bytes, MAX_INFLATED);
  } catch (error) {
    blocks.issues.push(`a text chunk could not be read: ${error instanceof Error ? error.message : String(error)}`);
    return undefined;
  }
}

/** The chunks up to IEND, and why there is no IEND if there is none. */
function chunksOf(source: ByteSource): { chunks: Chunk[]; problem?: string } {
  const chunks: Chunk[] = [];
  let at = SIGNATURE.length;
  while (chunks.length < MAX_CHUNKS) {
    const head = source.read(at, 8);
    if (head.length < 8) return { chunks, problem: 'the PNG ends before its last chunk' };
    const end = at + 12 + viewOf(head).getUint32(0);
    const name = asciiText(head.subarray(4, 8));
    if (end > source.size)
      return { chunks, problem: `the PNG’s chunk ${JSON.stringify(name)} runs past the end of the file` };
    chunks.push({ name, start: at, end });
    if (name === 'IEND') return { chunks };
    at = end;
  }
  return { chunks, problem: 'the PNG has too many chunks' };
}

function dataOf(source: ByteSource, { start, end }: Chunk): Uint8Array {
  return source.read(start + 8, end - start - 12);
}

function readBlocks(source: ByteSource): RawBlocks {
  const { chunks, problem } = chunksOf(source);
  const blocks: RawBlocks = { exif: [], issues: problem ? [problem] : [], damaged: problem !== undefined };
  for (const chunk of chunks) {
    const take = CHUNKS[chunk.name];
    if (!take) continue;
    if (chunk.end - chunk.start > MAX_BLOCK_BYTES)
      blocks.issues.push(`the PNG’s chunk ${chunk.name} is too large to be read`);
    else take(dataOf(source, chunk), blocks);
  }
  return blocks;
}

function isXmp(data: Uint8Array): boolean {
  return hasAscii(data, 0, XMP_KEYWORD);
}

function holdsXmp(source: ByteSource, chunk: Chunk): boolean {
  return (chunk.name === 'iTXt' || chunk.name === 'zTXt') && isXmp(source.read(chunk.start + 8, XMP_KEYWORD.length));
}

function chunkBytes(name: string, data: Uint8Array): Uint8Array {
  const body = concatBytes([asciiBytes(name), data]);
  return concatBytes([uint32(data.length), body, uint32(crc32(body))]);
}

/** Keyword, no compression, no language, no translated keyword. */
const XMP_OPENING = concatBytes([asciiBytes(XMP_KEYWORD), Uint8Array.of(0, 0, 0, 0)]);

const writer: ContainerWriter = {
  holdsIim: false,
  holdsExif: true,
  write(source, blocks) {
    const { chunks, problem } = chunksOf(source);
    if (problem) throw new Error(problem);
    const oldXmp = chunks.filter((chunk) => holdsXmp(source, chunk));
    const oldExif = chunks.find(({ name }) => name === 'eXIf');
    const body = packetBody(blocks.xmp);
    const oldRoom =
      (oldXmp[0] ? oldXmp[0].end - oldXmp[0].start : 0) - 12 - XMP_OPENING.length - WRAPPER_BYTES - body.length;
    const padding = oldXmp.length === 1 && oldRoom >= 0 ? oldRoom : PADDING_BYTES;
    const xmp = chunkBytes('iTXt', concatBytes([XMP_OPENING, wrapBody(body, padding)]));
    const tiff = oldExif && readTiff(memorySource(dataOf(source, oldExif)));
    const block = blocks.exif.length > 0 ? editedExif(tiff, blocks.exif) : undefined;
    const exif = block && chunkBytes('eXIf', block);

    const pieces: Piece[] = [{ start: 0, end: SIGNATURE.length }];
    for (const chunk of chunks) {
      if (chunk === oldXmp[0]) pieces.push(xmp);
      else if (chunk === oldExif && exif) pieces.push(exif);
      else if (!oldXmp.includes(chunk)) pieces.push(chunk);
      if (chunk.name !== 'IHDR') continue;
      if (oldXmp.length === 0) pieces.push(xmp);
      if (!oldExif && exif) pieces.push(exif);
    }
    pieces.push({ start: chunks.at(-1)?.end ?? source.size, end: source.size });
    return joinPieces(pieces);
  },
  pictureRanges: (source) =>
    chunksOf(source).chunks.filter((chunk) => chunk.name !== 'eXIf' && !holdsXmp(source, chunk)),
};

export const png: Container = {
  kinds: [{ kind: 'png', extensions: ['png'] }],
  canHandle: (head) => hasAscii(head, 0, SIGNATURE),
  readBlocks,
  writer,
};
