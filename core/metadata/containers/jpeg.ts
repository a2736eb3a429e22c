// JPEG (ISO/IEC 10918-1 annex B): the segments before the picture data, and the blocks in them.

import { concatBytes, hasAscii, memorySource, viewOf, type ByteSource } from '../bytes';
import { APP13_PREFIX, isApp13, parseResources, RESOURCE, resourceData } from '../blocks/resources';
import type { Container, RawBlocks } from './container';

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
}

export const MARKER = { app1: 0xe1, app13: 0xed, startOfScan: 0xda } as const;
export const XMP_PREFIX = 'http://ns.adobe.com/xap/1.0/\0';
export const EXIF_PREFIX = 'Exif\0\0';
/** The largest payload of a segment: 65,535 less the two bytes of the length. */
export const MAX_PAYLOAD = 65533;

const MAX_SEGMENTS = 4096;

/** The segments up to the first scan. Throws an Error naming what is wrong when the file is no JPEG or ends before a scan. */
export async function parseJpegHead(source: ByteSource): Promise<JpegHead> {
  const segments: JpegSegment[] = [];
  const head: JpegHead = { segments, scanStart: 0 };
  const opening = await source.read(0, 2);
  if (opening[0] !== 0xff || opening[1] !== 0xd8) throw new Error('the file does not begin as a JPEG');
  let at = 2;
  while (segments.length < MAX_SEGMENTS) {
    const start = at;
    let bytes = await source.read(at, 4);
    if (bytes[0] !== 0xff)
      throw new Error(bytes.length < 4 ? 'the JPEG ends before its picture data' : `no JPEG marker at byte ${at}`);
    while (bytes[1] === 0xff) bytes = await source.read(++at, 4);
    const marker = bytes[1] ?? 0;
    if (marker === MARKER.startOfScan) return { ...head, scanStart: start };
    if (marker === 0xd9) throw new Error('the JPEG ends before its picture data');
    if (marker === 0x01 || (marker >= 0xd0 && marker <= 0xd7)) {
      at += 2;
      continue;
    }
    const length = bytes.length < 4 ? 0 : viewOf(bytes).getUint16(2);
    const payload = await source.read(at + 4, Math.max(0, length - 2));
    if (length < 2 || payload.length < length - 2) throw new Error('a JPEG segment runs past the end of the file');
    at += 2 + length;
    segments.push({ marker, start, end: at, payload });
    if (isFrame(marker) && payload.length >= 5) {
      head.height = viewOf(payload).getUint16(1);
      head.width = viewOf(payload).getUint16(3);
    }
  }
  throw new Error('the JPEG has too many segments');
}

/** The image resources of all APP13 segments, which count as one run of bytes. */
export function app13Resources(segments: readonly JpegSegment[]): Uint8Array {
  return concatBytes(segments.filter(isApp13Segment).map((segment) => segment.payload.subarray(APP13_PREFIX.length)));
}

export function isApp13Segment(segment: JpegSegment): boolean {
  return segment.marker === MARKER.app13 && isApp13(segment.payload);
}

export function isXmpSegment(segment: JpegSegment): boolean {
  return segment.marker === MARKER.app1 && hasAscii(segment.payload, 0, XMP_PREFIX);
}

export function isExifSegment(segment: JpegSegment): boolean {
  return segment.marker === MARKER.app1 && hasAscii(segment.payload, 0, EXIF_PREFIX);
}

async function readBlocks(source: ByteSource): Promise<RawBlocks> {
  const issues: string[] = [];
  const head = await parseJpegHead(source);
  const exif = head.segments.find(isExifSegment);
  const xmp = head.segments.filter(isXmpSegment);
  if (xmp.length > 1) issues.push('the file holds more than one XMP packet; the first is read');
  const { resources } = parseResources(app13Resources(head.segments));
  return {
    width: head.width,
    height: head.height,
    exif: exif && memorySource(exif.payload.subarray(EXIF_PREFIX.length)),
    xmp: xmp[0]?.payload.subarray(XMP_PREFIX.length),
    iim: resourceData(resources, RESOURCE.iim),
    iimDigest: resourceData(resources, RESOURCE.iimDigest),
    issues,
  };
}

/** SOF0–SOF15 without DHT (C4), JPG (C8) and DAC (CC). */
function isFrame(marker: number): boolean {
  return marker >= 0xc0 && marker <= 0xcf && marker !== 0xc4 && marker !== 0xc8 && marker !== 0xcc;
}

export const jpeg: Container = {
  kind: 'jpeg',
  label: 'JPEG',
  extensions: ['jpg', 'jpeg', 'jpe'],
  canHandle: (head) => head[0] === 0xff && head[1] === 0xd8 && head[2] === 0xff,
  readBlocks,
};
