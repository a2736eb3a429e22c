// The TIFF 6.0 structure that EXIF, TIFF files and most raw files stand in: directories of tagged entries in either byte
// order, and BigTIFF. Values are read when they are asked for, so that a file is only sought through where it matters.

import { NO_BYTES, viewOf, type ByteSource } from '../bytes';

export interface IfdEntry {
  tag: number;
  type: number;
  count: number;
  /** Where the entry stands. */
  at: number;
  /** Where its value stands, and how many bytes it has. */
  dataAt: number;
  length: number;
}

export interface Ifd {
  offset: number;
  /** Where the offset of this directory is written. */
  pointerAt: number;
  entries: Map<number, IfdEntry>;
  /** All entries in order, those too that stand twice. */
  list: IfdEntry[];
  /** Offset of the directory behind this one; 0 when there is none. */
  next: number;
}

export interface TiffStructure {
  source: ByteSource;
  littleEndian: boolean;
  big: boolean;
  /** The chain of directories: pages; for EXIF the picture and its thumbnail. */
  pages: Ifd[];
  /** Directories that entries of the first page point to. */
  exif: Ifd | undefined;
  gps: Ifd | undefined;
  interop: Ifd | undefined;
  /** What SubIFDs entries (tag 330) of any page point to. */
  subIfds: Ifd[];
  /** Directories are missing, cut off or run in a circle: not to be written to. */
  broken: boolean;
  issues: string[];
}

export const TAG = {
  subfileType: 254,
  width: 256,
  height: 257,
  bitsPerSample: 258,
  compression: 259,
  photometric: 262,
  make: 271,
  stripOffsets: 273,
  stripByteCounts: 279,
  tileOffsets: 324,
  tileByteCounts: 325,
  subIfds: 330,
  jpegOffset: 513,
  jpegLength: 514,
  xmp: 700,
  iim: 33723,
  resources: 34377,
  exifIfd: 34665,
  gpsIfd: 34853,
  interopIfd: 40965,
  dngVersion: 50706,
} as const;

/** Bytes of one value by type: TIFF 6.0, section 2; 16–18 BigTIFF; 129 UTF-8 (EXIF 3.0, 4.6.2). */
export const TYPE_BYTES: Readonly<Record<number, number>> = {
  1: 1,
  2: 1,
  3: 2,
  4: 4,
  5: 8,
  6: 1,
  7: 1,
  8: 2,
  9: 4,
  10: 8,
  11: 4,
  12: 8,
  13: 4,
  16: 8,
  17: 8,
  18: 8,
  129: 1,
};

/** The number behind the byte order mark: 42, or what some makers' raw files have there instead. */
const MAGICS = new Set([42, 43, 0x55, 0x4f52, 0x5352]);
const BIG_MAGIC = 43;
const MAX_IFDS = 128;
const MAX_ENTRIES = 4096;
const MAX_VALUE_BYTES = 64 * 1024 * 1024;
const MAX_NUMBERS = 1 << 20;

/** Whether bytes begin like a TIFF structure. */
export function looksLikeTiff(head: Uint8Array): boolean {
  if (head.length < 8) return false;
  const order = String.fromCharCode(head[0] ?? 0, head[1] ?? 0);
  return (order === 'II' || order === 'MM') && MAGICS.has(viewOf(head).getUint16(2, order === 'II'));
}

/** Walks the directories. Cycles, absurd counts and values outside the source become issues, not errors. */
export function readTiff(source: ByteSource): TiffStructure {
  const head = source.read(0, 16);
  const littleEndian = head[0] === 0x49;
  const tiff: TiffStructure = {
    source,
    littleEndian,
    big: false,
    pages: [],
    exif: undefined,
    gps: undefined,
    interop: undefined,
    subIfds: [],
    broken: false,
    issues: [],
  };
  if (!looksLikeTiff(head)) {
    broken(tiff, 'EXIF has no TIFF header');
    return tiff;
  }
  const view = viewOf(head);
  tiff.big = view.getUint16(2, littleEndian) === BIG_MAGIC;
  if (tiff.big && head.length < 16) return tiff;
  const walk: Walk = { tiff, seen: new Set(), count: 0 };
  let pointerAt = tiff.big ? 8 : 4;
  let next = tiff.big ? uint64(view, 8, littleEndian) : view.getUint32(4, littleEndian);
  while (next) {
    const ifd = readIfd(walk, next, pointerAt);
    if (!ifd) break;
    tiff.pages.push(ifd);
    next = ifd.next;
    pointerAt = ifd.offset + countBytes(tiff) + ifd.list.length * entryBytes(tiff);
  }
  const [main] = tiff.pages;
  tiff.exif = pointedTo(walk, main, TAG.exifIfd)[0];
  tiff.gps = pointedTo(walk, main, TAG.gpsIfd)[0];
  tiff.interop = pointedTo(walk, tiff.exif, TAG.interopIfd)[0];
  for (const page of tiff.pages) tiff.subIfds.push(...pointedTo(walk, page, TAG.subIfds));
  for (let i = 0; i < tiff.subIfds.length; i++) tiff.subIfds.push(...pointedTo(walk, tiff.subIfds[i], TAG.subIfds));
  return tiff;
}

/** All directories there are. */
export function allIfds(tiff: TiffStructure): Ifd[] {
  return [...tiff.pages, tiff.exif, tiff.gps, tiff.interop, ...tiff.subIfds].filter((ifd) => ifd !== undefined);
}

/** The bytes of an entry's value, in the file's byte order; none when it lies outside the file or is absurdly long. */
export function dataOf({ source }: TiffStructure, entry: IfdEntry | undefined): Uint8Array | undefined {
  if (!entry || entry.length > MAX_VALUE_BYTES) return undefined;
  if (entry.length === 0) return NO_BYTES;
  if (entry.dataAt + entry.length > source.size) return undefined;
  const data = source.read(entry.dataAt, entry.length);
  return data.length === entry.length ? data : undefined;
}

/** The numbers of an entry (rationals divided), none when it is missing or of another type. */
export function numbersOf(tiff: TiffStructure, ifd: Ifd | undefined, tag: number): number[] {
  const entry = ifd?.entries.get(tag);
  const data = dataOf(tiff, entry);
  if (!entry || !data) return [];
  const view = viewOf(data);
  const size = TYPE_BYTES[entry.type] ?? 1;
  const numbers: number[] = [];
  for (let at = 0; at + size <= data.length && numbers.length < MAX_NUMBERS; at += size) {
    const number = numberAt(view, at, entry.type, tiff.littleEndian);
    if (number === undefined) return [];
    numbers.push(number);
  }
  return numbers;
}

export function numberOf(tiff: TiffStructure, ifd: Ifd | undefined, tag: number): number | undefined {
  const number = numbersOf(tiff, ifd, tag)[0];
  return number !== undefined && Number.isFinite(number) ? number : undefined;
}

/** Where the coded data of pictures lies: strips, tiles and JPEG streams of every directory, in the order of the file. */
export function codedRanges(tiff: TiffStructure): { start: number; end: number }[] {
  const pairs = [
    [TAG.stripOffsets, TAG.stripByteCounts],
    [TAG.tileOffsets, TAG.tileByteCounts],
    [TAG.jpegOffset, TAG.jpegLength],
  ] as const;
  const ranges = allIfds(tiff).flatMap((ifd) =>
    pairs.flatMap(([offsetTag, countTag]) => {
      const counts = numbersOf(tiff, ifd, countTag);
      return numbersOf(tiff, ifd, offsetTag).map((start, i) => ({
        start,
        end: start + (counts[i] ?? 0),
      }));
    }),
  );
  return ranges.filter(({ start, end }) => end > start).sort((a, b) => a.start - b.start);
}

interface Walk {
  tiff: TiffStructure;
  seen: Set<number>;
  count: number;
}

function readIfd(walk: Walk, offset: number, pointerAt: number): Ifd | undefined {
  const { tiff, seen } = walk;
  const { source, littleEndian } = tiff;
  if (seen.has(offset)) return broken(tiff, 'EXIF directories run in a circle');
  if (++walk.count > MAX_IFDS) return broken(tiff, 'there are too many EXIF directories');
  seen.add(offset);
  const head = source.read(offset, countBytes(tiff));
  if (head.length < countBytes(tiff)) return broken(tiff, 'an EXIF directory lies outside the file');
  const claimed = tiff.big ? uint64(viewOf(head), 0, littleEndian) : viewOf(head).getUint16(0, littleEndian);
  if (claimed > MAX_ENTRIES) return broken(tiff, 'an EXIF directory claims too many entries');
  const size = entryBytes(tiff);
  const body = source.read(offset + countBytes(tiff), claimed * size + pointerBytes(tiff));
  const view = viewOf(body);
  const ifd: Ifd = { offset, pointerAt, entries: new Map(), list: [], next: 0 };
  for (let at = 0; at + size <= body.length && ifd.list.length < claimed; at += size) {
    const entry = readEntry(tiff, view, at, offset + countBytes(tiff) + at);
    ifd.list.push(entry);
    if (entry.dataAt + entry.length > source.size) issue(tiff, 'an EXIF value lies outside the file');
    else if (!ifd.entries.has(entry.tag)) ifd.entries.set(entry.tag, entry);
  }
  if (body.length >= claimed * size + pointerBytes(tiff)) ifd.next = pointer(tiff, view, claimed * size);
  else broken(tiff, 'an EXIF directory is cut off');
  return ifd;
}

function readEntry(tiff: TiffStructure, view: DataView, at: number, entryAt: number): IfdEntry {
  const { littleEndian, big } = tiff;
  const tag = view.getUint16(at, littleEndian);
  const type = view.getUint16(at + 2, littleEndian);
  const count = big ? uint64(view, at + 4, littleEndian) : view.getUint32(at + 4, littleEndian);
  const length = (TYPE_BYTES[type] ?? 1) * count;
  const valueAt = big ? 12 : 8;
  const inline = length <= pointerBytes(tiff);
  return {
    tag,
    type,
    count,
    at: entryAt,
    length,
    dataAt: inline ? entryAt + valueAt : pointer(tiff, view, at + valueAt),
  };
}

function pointedTo(walk: Walk, ifd: Ifd | undefined, tag: number): Ifd[] {
  const entry = ifd?.entries.get(tag);
  if (!entry) return [];
  const width = TYPE_BYTES[entry.type] ?? 1;
  const offsets = numbersOf(walk.tiff, ifd, tag).slice(0, MAX_IFDS);
  return offsets.flatMap((offset, i) => (offset ? (readIfd(walk, offset, entry.dataAt + i * width) ?? []) : []));
}

function broken(tiff: TiffStructure, text: string): undefined {
  tiff.broken = true;
  issue(tiff, text);
}

function issue(tiff: TiffStructure, text: string): undefined {
  if (!tiff.issues.includes(text)) tiff.issues.push(text);
}

function countBytes({ big }: TiffStructure): number {
  return big ? 8 : 2;
}

function entryBytes({ big }: TiffStructure): number {
  return big ? 20 : 12;
}

function pointerBytes({ big }: TiffStructure): number {
  return big ? 8 : 4;
}

function pointer({ big, littleEndian }: TiffStructure, view: DataView, at: number): number {
  return big ? uint64(view, at, littleEndian) : view.getUint32(at, littleEndian);
}

/** Offsets past 2^53 lie outside any file, so it does not matter that they lose their last digits. */
function uint64(view: DataView, at: number, littleEndian: boolean): number {
  return Number(view.getBigUint64(at, littleEndian));
}

function numberAt(view: DataView, at: number, type: number, le: boolean): number | undefined {
  switch (type) {
    case 1:
    case 7:
      return view.getUint8(at);
    case 3:
      return view.getUint16(at, le);
    case 4:
    case 13:
      return view.getUint32(at, le);
    case 5:
      return view.getUint32(at, le) / view.getUint32(at + 4, le);
    case 6:
      return view.getInt8(at);
    case 8:
      return view.getInt16(at, le);
    case 9:
      return view.getInt32(at, le);
    case 10:
      return view.getInt32(at, le) / view.getInt32(at + 4, le);
    case 11:
      return view.getFloat32(at, le);
    case 12:
      return view.getFloat64(at, le);
    case 16:
    case 18:
      return uint64(view, at, le);
    case 17:
      return Number(view.getBigInt64(at, le));
    default:
      return undefined;
  }
}
