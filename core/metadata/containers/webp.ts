// WebP (RFC 9649): RIFF chunks; EXIF and XMP need the extended format, whose header says that they are there.

import {
  asciiBytes,
  asciiText,
  concatBytes,
  hasAscii,
  memorySource,
  uint32le,
  viewOf,
  type ByteSource,
} from '../bytes';
import { readTiff } from '../blocks/tiff';
import { editedExif } from '../blocks/tiffEdit';
import { packetBody, PADDING_BYTES, wrapBody, WRAPPER_BYTES } from '../blocks/xmp/packet';
import { joinPieces, sizeOf, type Piece } from '../pieces';
import type { Container, ContainerWriter, RawBlocks } from './container';

interface Chunk {
  name: string;
  start: number;
  /** Behind the padding to an even length. */
  end: number;
  length: number;
}

const HEADER_BYTES = 12;
const MAX_CHUNKS = 10_000;
const MAX_BLOCK_BYTES = 32 * 1024 * 1024;
const FLAG = { xmp: 0x04, exif: 0x08, alpha: 0x10 } as const;
const EXIF_PREFIX = 'Exif\0\0';

function chunksOf(source: ByteSource): { chunks: Chunk[]; end: number; problem?: string } {
  const claimed = 8 + viewOf(source.read(0, 8)).getUint32(4, true);
  const end = Math.min(claimed, source.size);
  const chunks: Chunk[] = [];
  const found = (problem?: string) => ({ chunks, end, problem });
  if (claimed > source.size) return found('the WebP is shorter than it says');
  for (let at = HEADER_BYTES; at + 8 <= end;) {
    const head = source.read(at, 8);
    const length = viewOf(head).getUint32(4, true);
    const next = at + 8 + length + (length & 1);
    if (at + 8 + length > end || chunks.length >= MAX_CHUNKS) return found('a chunk of the WebP runs past its end');
    chunks.push({ name: asciiText(head.subarray(0, 4)), start: at, end: Math.min(next, end), length });
    at = next;
  }
  return found();
}

function dataOf(source: ByteSource, { start, length }: Chunk, most = MAX_BLOCK_BYTES): Uint8Array {
  return source.read(start + 8, Math.min(length, most));
}

interface Canvas {
  width: number;
  height: number;
  alpha: boolean;
}

/** What a chunk says of the canvas: VP8X, else the frame header of the picture itself. */
const CANVAS: Readonly<Record<string, (data: Uint8Array) => Canvas | undefined>> = {
  VP8X(data) {
    if (data.length < 10) return undefined;
    const [flags = 0] = data;
    const size = (at: number) => 1 + viewOf(data).getUint16(at, true) + 65536 * (data[at + 2] ?? 0);
    return { width: size(4), height: size(7), alpha: (flags & FLAG.alpha) !== 0 };
  },
  'VP8 '(data) {
    if (data.length < 10) return undefined;
    const view = viewOf(data);
    return { width: view.getUint16(6, true) & 0x3fff, height: view.getUint16(8, true) & 0x3fff, alpha: false };
  },
  VP8L(data) {
    if (data.length < 5) return undefined;
    const bits = viewOf(data).getUint32(1, true);
    return { width: 1 + (bits & 0x3fff), height: 1 + ((bits >>> 14) & 0x3fff), alpha: ((bits >>> 28) & 1) === 1 };
  },
};

function canvasOf(source: ByteSource, chunks: readonly Chunk[]): Canvas | undefined {
  for (const chunk of chunks) {
    const canvas = CANVAS[chunk.name]?.(dataOf(source, chunk, 16));
    if (canvas) return canvas;
  }
  return undefined;
}

function exifOf(source: ByteSource, chunk: Chunk | undefined) {
  if (!chunk) return undefined;
  const data = dataOf(source, chunk);
  // Some writers put the prefix of JPEG there too.
  return readTiff(memorySource(hasAscii(data, 0, EXIF_PREFIX) ? data.subarray(EXIF_PREFIX.length) : data));
}

function readBlocks(source: ByteSource): RawBlocks {
  const { chunks, problem } = chunksOf(source);
  const canvas = canvasOf(source, chunks);
  const exif = exifOf(
    source,
    chunks.find(({ name }) => name === 'EXIF'),
  );
  const xmp = chunks.find(({ name }) => name === 'XMP ');
  return {
    width: canvas?.width,
    height: canvas?.height,
    ...(canvas ? { bitDepth: 8, colour: 'rgb' as const } : {}),
    exif: exif ? [exif] : [],
    xmp: xmp && dataOf(source, xmp),
    issues: problem ? [problem] : [],
    damaged: problem !== undefined,
  };
}

function chunkBytes(name: string, data: Uint8Array): Uint8Array {
  return concatBytes([asciiBytes(name), uint32le(data.length), data, new Uint8Array(data.length & 1)]);
}

function extendedHeader(canvas: Canvas, old: Uint8Array | undefined, flags: number): Uint8Array {
  const data = old?.slice() ?? new Uint8Array(10);
  if (!old) {
    const view = viewOf(data);
    if (canvas.alpha) data[0] = FLAG.alpha;
    for (const [at, size] of [
      [4, canvas.width],
      [7, canvas.height],
    ] as const) {
      view.setUint16(at, (size - 1) & 0xffff, true);
      data[at + 2] = (size - 1) >>> 16;
    }
  }
  data[0] = (data[0] ?? 0) | flags;
  return chunkBytes('VP8X', data);
}

const writer: ContainerWriter = {
  holdsIim: false,
  holdsExif: true,
  write(source, blocks) {
    const { chunks, end, problem } = chunksOf(source);
    if (problem) throw new Error(problem);
    const canvas = canvasOf(source, chunks);
    if (!canvas) throw new Error('the WebP does not say how large its picture is');
    const oldExif = chunks.find(({ name }) => name === 'EXIF');
    const oldXmp = chunks.find(({ name }) => name === 'XMP ');
    const oldHeader = chunks.find(({ name }) => name === 'VP8X');
    const body = packetBody(blocks.xmp);
    const room = (oldXmp?.length ?? 0) - WRAPPER_BYTES - body.length;
    const xmp = chunkBytes('XMP ', wrapBody(body, oldXmp && room >= 0 ? room : PADDING_BYTES));
    const block = blocks.exif.length > 0 ? editedExif(exifOf(source, oldExif), blocks.exif) : undefined;
    const exif = block && chunkBytes('EXIF', block);

    const flags = FLAG.xmp | (exif || oldExif ? FLAG.exif : 0);
    const header = extendedHeader(canvas, oldHeader && dataOf(source, oldHeader), flags);
    const content: Piece[] = oldHeader ? [] : [header];
    for (const chunk of chunks) {
      if (chunk === oldHeader) content.push(header);
      else if (chunk === oldXmp) content.push(xmp);
      else if (chunk === oldExif && exif) content.push(exif);
      else content.push(chunk);
    }
    if (!oldExif && exif) content.push(exif);
    if (!oldXmp) content.push(xmp);
    const head = concatBytes([asciiBytes('RIFF'), uint32le(4 + sizeOf(content)), asciiBytes('WEBP')]);
    return joinPieces([head, ...content, { start: end, end: source.size }]);
  },
  pictureRanges: (source) => chunksOf(source).chunks.filter(({ name }) => !['EXIF', 'XMP ', 'VP8X'].includes(name)),
};

export const webp: Container = {
  kinds: [{ kind: 'webp', extensions: ['webp'] }],
  canHandle: (head) => hasAscii(head, 0, 'RIFF') && hasAscii(head, 8, 'WEBP'),
  readBlocks,
  writer,
};
