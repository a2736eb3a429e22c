// JPEG (ISO/IEC 10918-1 annex B): the segments before the picture data, and the blocks in them.

import {
  asciiBytes,
  asciiText,
  concatBytes,
  hasAscii,
  hexText,
  memorySource,
  uint32,
  viewOf,
  type ByteSource,
} from '../bytes';
import { isMpf, shiftedMpf } from '../blocks/mpf';
import { APP13_PREFIX, isApp13, parseResources, RESOURCE, serializeResources, setResource } from '../blocks/resources';
import { iimOfResources } from '../blocks/iimResources';
import { readTiff } from '../blocks/tiff';
import { editedExif } from '../blocks/tiffEdit';
import { extensionId, splitPacket } from '../blocks/xmp/extended';
import { packetBody, PADDING_BYTES, parseXmp, wrapBody, WRAPPER_BYTES, type XmpPacket } from '../blocks/xmp/packet';
import { md5 } from '@noble/hashes/legacy.js';
import { joinPieces, type Piece } from '../pieces';
import type { Container, ContainerWriter, NewBlocks, Range, RawBlocks, Colour } from './container';

export interface JpegSegment {
  /** The second marker byte: 0xE1 for APP1. */
  marker: number;
  /** Where the segment starts in the file, fill bytes and marker included. */
  start: number;
  end: number;
  /** What follows the length. */
  payload: Uint8Array;
}

export interface JpegHead {
  segments: JpegSegment[];
  /** Offset of the first scan: from here on the file is coded picture data (and whatever trails it). */
  scanStart: number;
  width?: number;
  height?: number;
  /** ITU-T T.81, B.2.2: sample precision and number of components. */
  bitDepth?: number;
  components?: number;
  /** Why there is no picture data behind the segments. */
  problem?: string;
}

export const MARKER = {
  app0: 0xe0,
  app1: 0xe1,
  app2: 0xe2,
  app13: 0xed,
  comment: 0xfe,
  startOfScan: 0xda,
  end: 0xd9,
} as const;
export const XMP_PREFIX = 'http://ns.adobe.com/xap/1.0/\0';
export const EXIF_PREFIX = 'Exif\0\0';
const EXTENSION_PREFIX = 'http://ns.adobe.com/xmp/extension/\0';
/** The largest payload of a segment: 65,535 less the two bytes of the length. */
const MAX_PAYLOAD = 65533;
/** ISO 16684-3, 4.5.2: the largest packet, and the largest part of an extension, that go into a segment. */
const MAX_PACKET = 65502;
const MAX_CHUNK = 65400;
const MAX_EXTENSION = 64 * 1024 * 1024;
const MAX_SEGMENTS = 4096;

/** The segments up to the first scan; those before a break in the file when it is broken. */
export function parseJpegHead(source: ByteSource): JpegHead {
  const head: JpegHead = { segments: [], scanStart: source.size };
  const broken = (problem: string): JpegHead => ({ ...head, problem });
  const opening = source.read(0, 2);
  if (opening[0] !== 0xff || opening[1] !== 0xd8) return broken('the file does not begin as a JPEG');
  let at = 2;
  while (head.segments.length < MAX_SEGMENTS) {
    const start = at;
    let bytes = source.read(at, 4);
    if (bytes.length < 2) return broken('the JPEG ends before its picture data');
    if (bytes[0] !== 0xff) return broken(`no JPEG marker at byte ${at}`);
    while (bytes[1] === 0xff) bytes = source.read(++at, 4);
    const marker = bytes[1] ?? 0;
    if (marker === MARKER.startOfScan) return { ...head, scanStart: start };
    if (marker === MARKER.end) return broken('the JPEG ends before its picture data');
    if (isStandalone(marker)) {
      at += 2;
      head.segments.push({ marker, start, end: at, payload: bytes.subarray(0, 0) });
      continue;
    }
    const length = bytes.length < 4 ? 0 : (bytes[2] ?? 0) * 256 + (bytes[3] ?? 0);
    const payload = source.read(at + 4, length - 2);
    if (length < 2 || payload.length < length - 2) return broken('a JPEG segment runs past the end of the file');
    at += 2 + length;
    head.segments.push({ marker, start, end: at, payload });
    if (isFrame(marker) && payload.length >= 5) {
      head.height = viewOf(payload).getUint16(1);
      head.width = viewOf(payload).getUint16(3);
      head.bitDepth = payload[0];
      head.components = payload[5];
    }
  }
  return broken('the JPEG has too many segments');
}

/** By the number of components: YCbCr stands for RGB. */
const COLOURS: Readonly<Record<number, Colour>> = { 1: 'grey', 3: 'rgb', 4: 'cmyk' };

function readBlocks(source: ByteSource): RawBlocks {
  const head = parseJpegHead(source);
  const issues = head.problem ? [head.problem] : [];
  const exif = head.segments.find(isExif);
  const xmp = head.segments.filter(isXmp);
  if (xmp.length > 1) issues.push('the file holds more than one XMP packet; the first is read');
  const iim = iimOfResources(parseResources(app13Bytes(head.segments)).resources);
  const blocks: RawBlocks = {
    width: head.width,
    height: head.height,
    bitDepth: head.bitDepth,
    colour: COLOURS[head.components ?? 0],
    exif: exif ? [readTiff(memorySource(exif.payload.subarray(EXIF_PREFIX.length)))] : [],
    xmp: xmp[0]?.payload.subarray(XMP_PREFIX.length),
    iim: iim.iim,
    iimDigest: iim.iimDigest,
    issues: [...issues, ...iim.issues],
    damaged: head.problem !== undefined,
  };
  if (head.segments.some(isExtension)) takeExtension(head, blocks);
  return blocks;
}

/** Puts the chunks together that belong to the packet (ISO 16684-3, 4.5.2). Chunks of other extensions are left aside. */
function takeExtension(head: JpegHead, blocks: RawBlocks): void {
  const id = extensionOf(blocks.xmp);
  if (!id) return;
  const chunks = chunksOf(head.segments, id);
  const length = chunks[0]?.length ?? 0;
  if (length > MAX_EXTENSION) return void blocks.issues.push('the Extended XMP claims to be too large');
  const whole = new Uint8Array(length);
  let filled = 0;
  for (const { offset, data } of chunks) {
    if (offset !== filled || offset + data.length > length) continue;
    whole.set(data, offset);
    filled += data.length;
  }
  if (filled < length || length === 0) blocks.issues.push('a part of the Extended XMP is missing');
  else if (hexText(md5(whole)).toUpperCase() !== id)
    blocks.issues.push('the Extended XMP is not the one that belongs to the packet');
  else blocks.extendedXmp = whole;
}

function extensionOf(xmp: Uint8Array | undefined): string | undefined {
  try {
    return xmp && extensionId(parseXmp(xmp));
  } catch {
    return undefined;
  }
}

function chunksOf(segments: readonly JpegSegment[], id: string) {
  const start = EXTENSION_PREFIX.length;
  return segments
    .filter(
      (segment) => isExtension(segment) && asciiText(segment.payload.subarray(start, start + 32)).toUpperCase() === id,
    )
    .filter(({ payload }) => payload.length >= start + 40)
    .map(({ payload }) => ({
      length: viewOf(payload).getUint32(start + 32),
      offset: viewOf(payload).getUint32(start + 36),
      data: payload.subarray(start + 40),
    }))
    .sort((a, b) => a.offset - b.offset);
}

/** A part of the new head: a segment as it was, or a new one. */
type Part = { kept: JpegSegment } | { made: Uint8Array };

const writer: ContainerWriter = {
  holdsIim: true,
  holdsExif: true,
  write(source, blocks) {
    const head = parseJpegHead(source);
    if (head.problem) throw new Error(head.problem);
    const extension = extensionToReplace(source, head);
    const body = packetBody(blocks.xmp);
    const made = {
      exif: exifSegments(head.segments.find(isExif), blocks),
      app13: app13Segments(head.segments, blocks.iim),
    };
    const place = (padding: number) =>
      headParts(head.segments, { ...made, xmp: xmpSegments(blocks.xmp, body, padding) }, extension);
    const oldLength = head.scanStart - 2;
    // The padding takes up what the other blocks gain or lose, so that the file can be rewritten where it stands.
    const tight = place(0);
    const room = oldLength - partsLength(tight);
    const fits = room >= 0 && room <= MAX_PACKET - WRAPPER_BYTES - body.length;
    const parts = room === 0 ? tight : place(fits ? room : PADDING_BYTES);
    return joinPieces([
      { start: 0, end: 2 },
      ...piecesOf(parts, oldLength),
      { start: head.scanStart, end: source.size },
    ]);
  },
  pictureRanges(source) {
    const head = parseJpegHead(source);
    const tables = head.segments.filter(
      ({ marker }) => !(marker >= 0xe0 && marker <= 0xef) && marker !== MARKER.comment,
    );
    return [
      ...tables.map(({ start, end }) => ({ start, end })),
      { start: head.scanStart, end: source.size },
    ] satisfies Range[];
  },
};

/** The packet's extension, whose segments the new ones replace. Throws an Error when it can't be read whole. */
function extensionToReplace(source: ByteSource, head: JpegHead): string | undefined {
  if (!head.segments.some(isExtension)) return undefined;
  const { xmp, extendedXmp } = readBlocks(source);
  const id = extensionOf(xmp);
  if (id && !extendedXmp) throw new Error('a part of its Extended XMP can’t be read, so it is left as it is');
  return id;
}

/** All segments at their places; EXIF, XMP and APP13 where they stood, or put in after JFIF in this order. */
function headParts(
  segments: readonly JpegSegment[],
  made: Readonly<Record<'exif' | 'xmp' | 'app13', Part[]>>,
  extension: string | undefined,
): Part[] {
  const first = { exif: segments.find(isExif), xmp: segments.find(isXmp), app13: segments.find(isApp13Segment) };
  const parts: Part[] = [];
  const names = ['exif', 'xmp', 'app13'] as const;
  const missing = () => names.filter((name) => !first[name]).flatMap((name) => made[name]);
  const opening = segments.filter((segment) => segment.marker === MARKER.app0 || segment === first.exif).at(-1);
  if (!opening) parts.push(...missing());
  for (const segment of segments) {
    const name = names.find((candidate) => first[candidate] === segment);
    if (name) parts.push(...made[name]);
    else if (!isReplaced(segment, extension)) parts.push({ kept: segment });
    if (segment === opening) parts.push(...missing());
  }
  return parts;
}

/** Whether a segment goes into one of the new ones: further APP13, and the chunks of the packet's extension. */
function isReplaced(segment: JpegSegment, extension: string | undefined): boolean {
  if (isApp13Segment(segment)) return true;
  return isExtension(segment) && extension !== undefined && chunksOf([segment], extension).length > 0;
}

function exifSegments(old: JpegSegment | undefined, blocks: NewBlocks): Part[] {
  if (blocks.exif.length === 0) return old ? [{ kept: old }] : [];
  const block = editedExif(old && readTiff(memorySource(old.payload.subarray(EXIF_PREFIX.length))), blocks.exif);
  if (!block) return [];
  const payload = concatBytes([asciiBytes(EXIF_PREFIX), block]);
  // Full to the brim with thumbnails and maker notes: EXIF stays as it is, and XMP says what it can't.
  if (payload.length > MAX_PAYLOAD) return old ? [{ kept: old }] : [];
  return [{ made: segmentBytes(MARKER.app1, payload) }];
}

function xmpSegments(packet: XmpPacket, body: Uint8Array, padding: number): Part[] {
  const limit = MAX_PACKET - WRAPPER_BYTES;
  const segment = (bytes: Uint8Array, spare: number): Part => ({
    made: segmentBytes(
      MARKER.app1,
      concatBytes([asciiBytes(XMP_PREFIX), wrapBody(bytes, Math.min(spare, limit - bytes.length))]),
    ),
  });
  if (body.length <= limit) return [segment(body, padding)];
  const { main, extension, id } = splitPacket(packet, limit - PADDING_BYTES);
  const chunks: Part[] = [];
  for (let at = 0; at < extension.length; at += MAX_CHUNK) {
    const place = concatBytes([asciiBytes(EXTENSION_PREFIX + id), uint32(extension.length), uint32(at)]);
    chunks.push({ made: segmentBytes(MARKER.app1, concatBytes([place, extension.subarray(at, at + MAX_CHUNK)])) });
  }
  return [segment(main, padding), ...chunks];
}

function app13Segments(segments: readonly JpegSegment[], iim: Uint8Array | undefined): Part[] {
  const old = segments.filter(isApp13Segment);
  if (!iim) return old.map((kept) => ({ kept }));
  const { resources, rest } = parseResources(app13Bytes(segments));
  const changed = setResource(setResource(resources, RESOURCE.iim, iim), RESOURCE.iimDigest, md5(iim));
  const bytes = concatBytes([serializeResources(changed), rest]);
  const prefix = asciiBytes(APP13_PREFIX);
  const room = MAX_PAYLOAD - prefix.length;
  return Array.from({ length: Math.ceil(bytes.length / room) }, (_, i) => ({
    made: segmentBytes(MARKER.app13, concatBytes([prefix, bytes.subarray(i * room, (i + 1) * room)])),
  }));
}

function partLength(part: Part): number {
  return 'kept' in part ? part.kept.end - part.kept.start : part.made.length;
}

function partsLength(parts: readonly Part[]): number {
  return parts.reduce((sum, part) => sum + partLength(part), 0);
}

function piecesOf(parts: readonly Part[], oldLength: number): Piece[] {
  const grown = partsLength(parts) - oldLength;
  let at = 2;
  return parts.map((part): Piece => {
    const moved = 'kept' in part ? at - part.kept.start : 0;
    at += partLength(part);
    if (!('kept' in part)) return part.made;
    const { kept } = part;
    if (kept.marker !== MARKER.app2 || !isMpf(kept.payload) || (grown === 0 && moved === 0)) return kept;
    return segmentBytes(MARKER.app2, shiftedMpf(kept.payload, grown, grown - moved));
  });
}

function segmentBytes(marker: number, payload: Uint8Array): Uint8Array {
  const head = Uint8Array.of(0xff, marker, 0, 0);
  viewOf(head).setUint16(2, payload.length + 2);
  return concatBytes([head, payload]);
}

/** The image resources of all APP13 segments, which count as one run of bytes. */
function app13Bytes(segments: readonly JpegSegment[]): Uint8Array {
  const payloads = segments.filter(isApp13Segment).map((segment) => segment.payload.subarray(APP13_PREFIX.length));
  return payloads.length === 1 && payloads[0] ? payloads[0] : concatBytes(payloads);
}

function isApp13Segment(segment: JpegSegment): boolean {
  return segment.marker === MARKER.app13 && isApp13(segment.payload);
}

function isXmp(segment: JpegSegment): boolean {
  return segment.marker === MARKER.app1 && hasAscii(segment.payload, 0, XMP_PREFIX);
}

function isExtension(segment: JpegSegment): boolean {
  return segment.marker === MARKER.app1 && hasAscii(segment.payload, 0, EXTENSION_PREFIX);
}

function isExif(segment: JpegSegment): boolean {
  return segment.marker === MARKER.app1 && hasAscii(segment.payload, 0, EXIF_PREFIX);
}

/** TEM and RST0–RST7 have no length. */
function isStandalone(marker: number): boolean {
  return marker === 0x01 || (marker >= 0xd0 && marker <= 0xd7);
}

/** SOF0–SOF15 without DHT (C4), JPG (C8) and DAC (CC). */
function isFrame(marker: number): boolean {
  return marker >= 0xc0 && marker <= 0xcf && marker !== 0xc4 && marker !== 0xc8 && marker !== 0xcc;
}

export const jpeg: Container = {
  kinds: [{ kind: 'jpeg', extensions: ['jpg', 'jpeg', 'jpe'] }],
  canHandle: (head) => head[0] === 0xff && head[1] === 0xd8 && head[2] === 0xff,
  readBlocks,
  writer,
};
