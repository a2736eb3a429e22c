// Files made of boxes (ISO/IEC 14496-12): HEIC and AVIF (ISO/IEC 23008-12), MP4, MOV and raw files built alike, JPEG 2000 (ISO/IEC
// 15444-1, annex I) and JPEG XL (ISO/IEC 18181-2). EXIF and XMP are items or boxes; XMP is written into films and sounds.

import { asciiText, hasAscii, hexText, partOf, viewOf, type ByteSource } from '../bytes';
import { looksLikeTiff, readTiff } from '../blocks/tiff';
import { boxWriter, XMP_UUID } from './boxWriter';
import type { Container, RawBlocks } from './container';
import { kindFacts, type FileKind } from './kinds';
import { parseJpegHead } from './jpeg';

interface Box {
  type: string;
  /** Behind length, type and, for `uuid`, the identifier. */
  start: number;
  end: number;
}

interface Item {
  type: string;
  contentType: string;
}

const MAX_BOXES = 20_000;
const MAX_DEPTH = 12;
const MAX_BLOCK_BYTES = 32 * 1024 * 1024;
/** Boxes that hold boxes, with the bytes in front of those. */
const HOLDERS: Readonly<Record<string, number>> = {
  moov: 0,
  trak: 0,
  mdia: 0,
  minf: 0,
  stbl: 0,
  udta: 0,
  meta: 4,
  iprp: 0,
  ipco: 0,
  jp2h: 0,
};
const UUID = {
  xmp: XMP_UUID,
  rawMetadata: '85c0b687820f11e08111f4ce462b6a48',
  rawPreview: 'eaf42b5e1c984b88b9fbb7dc406e4d16',
} as const;
/** 1904-01-01, from which films count their seconds. */
const EPOCH = Date.UTC(1904, 0, 1);
/** Major brands (ISO/IEC 23008-12 annex B; AVIF 1.1; QuickTime), and the kinds they stand for. */
const BRANDS: Readonly<Record<string, FileKind>> = { avif: 'avif', avis: 'avif', 'qt  ': 'mov', 'crx ': 'raw' };
/** Brands of sound alone, and of 3GPP (TS 26.244), by how they begin. */
const BRAND_BEGINNINGS: readonly (readonly [string, FileKind])[] = [
  ['M4A', 'm4a'],
  ['M4B', 'm4a'],
  ['3gp', '3gp'],
  ['3g2', '3gp'],
];
const HEIC_BRANDS = new Set(['heic', 'heix', 'heim', 'heis', 'hevc', 'hevx', 'mif1', 'msf1']);

class Walk {
  readonly items = new Map<number, Item>();
  readonly places = new Map<number, { start: number; end: number }[]>();
  readonly blocks: RawBlocks = { exif: [], issues: [] };
  idat: Box | undefined;
  sizes: { width: number; height: number }[] = [];
  private count = 0;

  constructor(readonly source: ByteSource) {}

  /** Calls the handler of every box in a range, and goes into those that hold others. */
  visit(start: number, end: number, depth: number): void {
    if (depth > MAX_DEPTH) return;
    for (let at = start; at + 8 <= end;) {
      if (++this.count > MAX_BOXES) return void this.blocks.issues.push('the file has too many boxes');
      const box = this.boxAt(at, end);
      if (!box) return void this.blocks.issues.push('a box runs past the end of the file');
      HANDLERS[box.type]?.(this, box, depth);
      const skip = HOLDERS[box.type];
      // In MOV files `meta` is no full box: its first inner box follows at once.
      const bare = box.type === 'meta' && hasAscii(this.source.read(box.start + 4, 4), 0, 'hdlr');
      if (skip !== undefined) this.visit(box.start + (bare ? 0 : skip), box.end, depth + 1);
      at = box.end;
    }
  }

  bytes(box: { start: number; end: number }): Uint8Array {
    return this.source.read(box.start, Math.min(box.end - box.start, MAX_BLOCK_BYTES));
  }

  private boxAt(at: number, end: number): Box | undefined {
    const head = this.source.read(at, 16);
    if (head.length < 8) return undefined;
    const view = viewOf(head);
    let size = view.getUint32(0);
    let start = at + 8;
    if (size === 1) {
      if (head.length < 16) return undefined;
      size = Number(view.getBigUint64(8));
      start = at + 16;
    }
    const boxEnd = size === 0 ? end : at + size;
    return boxEnd < start || boxEnd > end ? undefined : { type: asciiText(head.subarray(4, 8)), start, end: boxEnd };
  }
}

/** What is taken from a box. Adding one means adding an entry. */
const HANDLERS: Readonly<Record<string, (walk: Walk, box: Box, depth: number) => void>> = {
  infe(walk, box) {
    const data = walk.bytes(box);
    const version = data[0] ?? 0;
    if (version < 2 || data.length < 12) return;
    const at = version === 2 ? 6 : 8;
    const id = version === 2 ? viewOf(data).getUint16(4) : viewOf(data).getUint32(4);
    const [, contentType = ''] = asciiText(data.subarray(at + 6)).split('\0');
    walk.items.set(id, { type: asciiText(data.subarray(at + 2, at + 6)), contentType });
  },
  iinf(walk, box, depth) {
    const version = walk.source.read(box.start, 1)[0] ?? 0;
    walk.visit(box.start + 4 + (version === 0 ? 2 : 4), box.end, depth + 1);
  },
  iloc: readLocations,
  idat(walk, box) {
    walk.idat = box;
  },
  ispe(walk, box) {
    const data = walk.bytes(box);
    if (data.length >= 12) walk.sizes.push({ width: viewOf(data).getUint32(4), height: viewOf(data).getUint32(8) });
  },
  mvhd(walk, box) {
    const view = viewOf(walk.bytes(box));
    const wide = view.byteLength > 0 && view.getUint8(0) === 1;
    if (view.byteLength < (wide ? 32 : 20)) return;
    const created = wide ? Number(view.getBigUint64(4)) : view.getUint32(4);
    const scale = view.getUint32(wide ? 20 : 12);
    const length = wide ? Number(view.getBigUint64(24)) : view.getUint32(16);
    if (scale > 0) walk.blocks.duration = length / scale;
    const time = EPOCH + created * 1000;
    if (created > 0 && time < 8.64e15) walk.blocks.createdAt = new Date(time).toISOString().slice(0, 19) + 'Z';
  },
  tkhd(walk, box) {
    const data = walk.bytes(box);
    const at = data[0] === 1 ? 88 : 76;
    if (data.length < at + 8) return;
    // Fixed-point numbers with sixteen bits behind the point.
    const size = { width: viewOf(data).getUint32(at) >>> 16, height: viewOf(data).getUint32(at + 4) >>> 16 };
    if (size.width && size.height) walk.sizes.push(size);
  },
  stsd(walk, box) {
    const data = walk.bytes(box);
    const codec = asciiText(data.subarray(12, 16)).trim();
    const isPicture = data.length >= 44 && viewOf(data).getUint16(40) > 0;
    if (isPicture && codec) walk.blocks.codec ??= codec;
  },
  ihdr(walk, box) {
    const data = walk.bytes(box);
    if (data.length < 14) return;
    walk.sizes.push({ width: viewOf(data).getUint32(4), height: viewOf(data).getUint32(0) });
    walk.blocks.bitDepth = ((data[10] ?? 0) & 0x7f) + 1;
  },
  'xml '(walk, box) {
    walk.blocks.xmp ??= walk.bytes(box);
  },
  Exif(walk, box) {
    const data = walk.bytes(box);
    if (data.length > 8) takeExif(walk, data);
  },
  XMP_(walk, box) {
    walk.blocks.xmp ??= walk.bytes(box);
  },
  uuid(walk, box, depth) {
    const id = hexText(walk.source.read(box.start, 16));
    const inner = { start: box.start + 16, end: box.end };
    // The place that is written to; a film may hold an older one within.
    if (id === UUID.xmp) walk.blocks.xmp = walk.bytes(inner);
    else if (id === UUID.rawMetadata) walk.visit(inner.start, inner.end, depth + 1);
    else if (id === UUID.rawPreview) walk.visit(inner.start + 8, inner.end, depth + 1);
  },
  CMT1: takeTiff,
  CMT2: takeTiff,
  CMT4: takeTiff,
  THMB: takePreview,
  PRVW: takePreview,
};

/** A maker's TIFF structure: the second holds what is elsewhere an EXIF directory, the fourth the GPS directory. */
function takeTiff(walk: Walk, box: Box): void {
  const tiff = readTiff(partOf(walk.source, box.start, box.end - box.start));
  if (box.type === 'CMT2') tiff.exif = tiff.pages[0];
  if (box.type === 'CMT4') tiff.gps = tiff.pages[0];
  walk.blocks.exif.push(tiff);
}

/** A JPEG somewhere in the first bytes of a box; the largest is kept. */
function takePreview(walk: Walk, box: Box): void {
  const head = walk.source.read(box.start, 64);
  const at = head.findIndex((byte, i) => byte === 0xff && head[i + 1] === 0xd8 && head[i + 2] === 0xff);
  if (at < 0) return;
  const { preview } = walk.blocks;
  const found = { start: box.start + at, end: box.end };
  if (!preview || found.end - found.start > preview.end - preview.start) walk.blocks.preview = found;
}

/** Item locations (ISO/IEC 14496-12, 8.11.3), versions 0 to 2; only extents in the file or in `idat`. */
function readLocations(walk: Walk, box: Box): void {
  const data = walk.bytes(box);
  const view = viewOf(data);
  if (data.length < 8) return;
  const version = view.getUint8(0);
  const widths = [view.getUint8(4) >> 4, view.getUint8(4) & 15, view.getUint8(5) >> 4, view.getUint8(5) & 15] as const;
  const [offsetSize, lengthSize, baseSize, indexSize] = widths;
  let at = 6;
  const number = (size: number): number => {
    at += size;
    if (at > data.length || size > 8) throw new RangeError('cut off');
    let value = 0;
    for (let i = at - size; i < at; i++) value = value * 256 + (data[i] ?? 0);
    return value;
  };
  try {
    const count = number(version < 2 ? 2 : 4);
    for (let i = 0; i < count; i++) {
      const id = number(version < 2 ? 2 : 4);
      const method = version > 0 ? number(2) & 15 : 0;
      number(2);
      const base = number(baseSize);
      const extents = number(2);
      const ranges: { start: number; end: number }[] = [];
      for (let extent = 0; extent < extents; extent++) {
        if (version > 0) number(indexSize);
        const offset = base + number(offsetSize);
        const length = number(lengthSize);
        // Method 1 counts from `idat`, whose place may be known only later; it is marked by a negative start.
        ranges.push(method === 1 ? { start: -offset - 1, end: length } : { start: offset, end: offset + length });
      }
      if (method < 2) walk.places.set(id, ranges);
    }
  } catch (error) {
    if (!(error instanceof RangeError)) throw error;
    walk.blocks.issues.push('the list of items is cut off');
  }
}

function itemBytes(walk: Walk, id: number): Uint8Array | undefined {
  const [range] = walk.places.get(id) ?? [];
  if (!range) return undefined;
  if (range.start >= 0) return walk.bytes(range);
  if (!walk.idat) return undefined;
  const start = walk.idat.start - range.start - 1;
  return walk.bytes({ start, end: Math.min(start + range.end, walk.idat.end) });
}

function takeItems(walk: Walk): void {
  for (const [id, { type, contentType }] of walk.items) {
    const isXmp = type === 'mime' && contentType === 'application/rdf+xml';
    if (type !== 'Exif' && !isXmp) continue;
    const data = itemBytes(walk, id);
    if (!data || data.length < 8)
      walk.blocks.issues.push(`the item with ${isXmp ? 'XMP' : 'EXIF'} lies outside the file`);
    else if (isXmp) walk.blocks.xmp ??= data;
    else takeExif(walk, data);
  }
}

/** EXIF of an item or box: the offset of the TIFF header stands in front (ISO/IEC 23008-12, annex A). */
function takeExif(walk: Walk, data: Uint8Array): void {
  const header = 4 + viewOf(data).getUint32(0);
  const bytes = data.subarray(looksLikeTiff(data.subarray(header)) ? header : 4);
  walk.blocks.exif.push(
    readTiff({ size: bytes.length, read: (offset, length) => bytes.subarray(offset, offset + length) }),
  );
}

/** Signature boxes, and the kinds they stand for. */
const SIGNATURES: Readonly<Record<string, FileKind>> = { 'jP  ': 'jp2', 'JXL ': 'jxl' };

function kindOf(source: ByteSource): FileKind {
  const head = source.read(0, 64);
  const signed = SIGNATURES[asciiText(head.subarray(4, 8))];
  if (signed) return signed;
  const major = asciiText(head.subarray(8, 12));
  const brands: string[] = asciiText(head.subarray(8, Math.min(64, viewOf(head).getUint32(0)))).match(/.{4}/gs) ?? [];
  if (BRANDS[major]) return BRANDS[major];
  if (brands.includes('avif')) return 'avif';
  const found = BRAND_BEGINNINGS.find(([beginning]) => major.startsWith(beginning));
  if (found) return found[1];
  return HEIC_BRANDS.has(major) ? 'heic' : 'mp4';
}

function readBlocks(source: ByteSource): RawBlocks {
  const walk = new Walk(source);
  walk.visit(0, source.size, 0);
  takeItems(walk);
  const { blocks } = walk;
  const [largest] = walk.sizes.sort((a, b) => b.width * b.height - a.width * a.height);
  const preview = blocks.preview && parseJpegHead(partOf(source, blocks.preview.start));
  const { width, height } = largest ?? preview ?? {};
  return { ...blocks, kind: kindOf(source), width, height, damaged: blocks.issues.length > 0 };
}

export const bmff: Container = {
  kinds: [
    { kind: 'heic', extensions: ['heic', 'heif', 'hif'] },
    { kind: 'avif', extensions: ['avif'] },
    { kind: 'mp4', extensions: ['mp4', 'm4v'] },
    { kind: 'mov', extensions: ['mov', 'qt'] },
    { kind: '3gp', extensions: ['3gp', '3g2'] },
    { kind: 'm4a', extensions: ['m4a', 'm4b'] },
    { kind: 'raw', extensions: ['cr3'] },
    { kind: 'jp2', extensions: ['jp2', 'jpx', 'jpf'] },
    { kind: 'jxl', extensions: ['jxl'] },
  ],
  canHandle: (head) => ['ftyp', ...Object.keys(SIGNATURES)].some((type) => hasAscii(head, 4, type)),
  readBlocks,
  writer: boxWriter((source) => kindFacts(kindOf(source)).embeds),
};
