// EXIF (CIPA DC-008, EXIF 3.0) and the TIFF 6.0 structure it stands in: directories of tagged entries, either byte order.
// A TIFF file is read with the same walker.

import { looseText, utf8Text, viewOf, type ByteSource } from '../bytes';
import { FIELDS, type FieldValues } from '../fields';

export interface IfdEntry {
  tag: number;
  type: number;
  count: number;
  /** The value's bytes, in the file's byte order. */
  data: Uint8Array;
}

export interface Ifd {
  offset: number;
  entries: Map<number, IfdEntry>;
}

export interface TiffStructure {
  littleEndian: boolean;
  /** The chain of directories: pages, for EXIF the picture and its thumbnail. */
  pages: Ifd[];
  exif: Ifd | undefined;
  gps: Ifd | undefined;
  issues: string[];
}

/** What of EXIF the catalogue uses; every part may be missing. */
export interface ExifFacts {
  make?: string;
  model?: string;
  lens?: string;
  /** Local time without zone, `YYYY-MM-DDTHH:MM:SS`. */
  takenAt?: string;
  /** `±HH:MM`. */
  offset?: string;
  orientation?: number;
  /** Seconds. */
  exposureTime?: number;
  fNumber?: number;
  iso?: number;
  /** Millimetres. */
  focalLength?: number;
  /** Decimal degrees, south and west negative. */
  latitude?: number;
  longitude?: number;
}

// TIFF 6.0, section 2; 129 is UTF-8 (EXIF 3.0, 4.6.2).
const TYPE_BYTES: Readonly<Record<number, number>> = {
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
  129: 1,
};
const EXIF_IFD = 34665;
const GPS_IFD = 34853;
const MAX_PAGES = 64;
const MAX_ENTRIES = 4096;
const MAX_VALUE_BYTES = 32 * 1024 * 1024;

/** Walks the directories of a TIFF structure. Cycles, absurd counts and values outside the source become issues, not errors. */
export async function readTiff(source: ByteSource): Promise<TiffStructure> {
  const head = await source.read(0, 8);
  const order = head.length === 8 ? String.fromCharCode(head[0] ?? 0, head[1] ?? 0) : '';
  const structure: TiffStructure = {
    littleEndian: order === 'II',
    pages: [],
    exif: undefined,
    gps: undefined,
    issues: [],
  };
  if (order !== 'II' && order !== 'MM') {
    structure.issues.push('EXIF has no byte order mark');
    return structure;
  }
  const seen = new Set<number>();
  let next = viewOf(head).getUint32(4, structure.littleEndian);
  while (next && structure.pages.length < MAX_PAGES) {
    const ifd = await readIfd(source, next, structure, seen);
    if (!ifd) break;
    structure.pages.push(ifd.ifd);
    next = ifd.next;
  }
  structure.exif = await subIfd(source, structure, EXIF_IFD, seen);
  structure.gps = await subIfd(source, structure, GPS_IFD, seen);
  return structure;
}

/** The facts of the EXIF and GPS directories. */
export function exifFacts(tiff: TiffStructure): ExifFacts {
  const main = tiff.pages[0];
  const le = tiff.littleEndian;
  const facts: ExifFacts = {
    make: textOf(main, 271),
    model: textOf(main, 272),
    lens: textOf(tiff.exif, 42036),
    takenAt: isoTime(textOf(tiff.exif, 36867)),
    offset: zoneOf(textOf(tiff.exif, 36881)),
    orientation: numberOf(main, 274, le),
    exposureTime: numberOf(tiff.exif, 33434, le),
    fNumber: numberOf(tiff.exif, 33437, le),
    iso: numberOf(tiff.exif, 34855, le),
    focalLength: numberOf(tiff.exif, 37386, le),
    latitude: degreesOf(tiff.gps, 2, 1, le),
    longitude: degreesOf(tiff.gps, 4, 3, le),
  };
  return Object.fromEntries(Object.entries(facts).filter(([, value]) => value !== undefined));
}

/** The fields of the table that IFD0 holds. */
export function exifFields(tiff: TiffStructure): FieldValues {
  const values: FieldValues = {};
  for (const field of FIELDS) {
    const text = field.exif === undefined ? undefined : textOf(tiff.pages[0], field.exif);
    if (!text) continue;
    values[field.id] = field.type === 'seq' ? text.split(/\s*;\s*/).filter(Boolean) : text;
  }
  return values;
}

/** The numbers of an entry (rationals divided), none when it is missing or of another type. */
export function numbersOf(ifd: Ifd | undefined, tag: number, littleEndian: boolean): number[] {
  const entry = ifd?.entries.get(tag);
  if (!entry) return [];
  const view = viewOf(entry.data);
  const size = TYPE_BYTES[entry.type] ?? 1;
  const numbers: number[] = [];
  for (let at = 0; at + size <= entry.data.length && numbers.length < 4096; at += size) {
    const number = numberAt(view, at, entry.type, littleEndian);
    if (number === undefined) return [];
    numbers.push(number);
  }
  return numbers;
}

export function numberOf(ifd: Ifd | undefined, tag: number, littleEndian: boolean): number | undefined {
  const number = numbersOf(ifd, tag, littleEndian)[0];
  return number !== undefined && Number.isFinite(number) ? number : undefined;
}

async function readIfd(
  source: ByteSource,
  offset: number,
  structure: TiffStructure,
  seen: Set<number>,
): Promise<{ ifd: Ifd; next: number } | undefined> {
  if (seen.has(offset)) {
    structure.issues.push('EXIF directories run in a circle');
    return undefined;
  }
  seen.add(offset);
  const le = structure.littleEndian;
  const head = await source.read(offset, 2);
  if (head.length < 2) {
    structure.issues.push('an EXIF directory lies outside the file');
    return undefined;
  }
  const count = Math.min(viewOf(head).getUint16(0, le), MAX_ENTRIES);
  const body = await source.read(offset + 2, count * 12 + 4);
  const view = viewOf(body);
  const entries = new Map<number, IfdEntry>();
  for (let i = 0; i < count && i * 12 + 12 <= body.length; i++) {
    const entry = await readEntry(source, body.subarray(i * 12, i * 12 + 12), le);
    if (entry) entries.set(entry.tag, entry);
    else structure.issues.push('an EXIF value lies outside the file');
  }
  const next = body.length >= count * 12 + 4 ? view.getUint32(count * 12, le) : 0;
  return { ifd: { offset, entries }, next };
}

async function readEntry(source: ByteSource, bytes: Uint8Array, littleEndian: boolean): Promise<IfdEntry | undefined> {
  const view = viewOf(bytes);
  const [tag, type, count] = [
    view.getUint16(0, littleEndian),
    view.getUint16(2, littleEndian),
    view.getUint32(4, littleEndian),
  ];
  const length = (TYPE_BYTES[type] ?? 1) * count;
  if (length <= 4) return { tag, type, count, data: bytes.subarray(8, 8 + length) };
  if (length > MAX_VALUE_BYTES) return undefined;
  const data = await source.read(view.getUint32(8, littleEndian), length);
  return data.length === length ? { tag, type, count, data } : undefined;
}

async function subIfd(
  source: ByteSource,
  structure: TiffStructure,
  tag: number,
  seen: Set<number>,
): Promise<Ifd | undefined> {
  const offset = numberOf(structure.pages[0], tag, structure.littleEndian);
  return offset ? (await readIfd(source, offset, structure, seen))?.ifd : undefined;
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
    default:
      return undefined;
  }
}

function textOf(ifd: Ifd | undefined, tag: number): string | undefined {
  const entry = ifd?.entries.get(tag);
  if (!entry || ![1, 2, 7, 129].includes(entry.type)) return undefined;
  const end = entry.data.indexOf(0);
  const bytes = end < 0 ? entry.data : entry.data.subarray(0, end);
  const text = (utf8Text(bytes) ?? looseText(bytes)).trim();
  return text === '' ? undefined : text;
}

function isoTime(text: string | undefined): string | undefined {
  const match = /^(\d{4})[:-](\d{2})[:-](\d{2})[ T](\d{2}):(\d{2}):(\d{2})/.exec(text ?? '');
  if (!match || match[1] === '0000') return undefined;
  const iso = `${match[1]}-${match[2]}-${match[3]}T${match[4]}:${match[5]}:${match[6]}`;
  const time = new Date(`${iso}Z`);
  return Number.isNaN(time.getTime()) || !time.toISOString().startsWith(iso) ? undefined : iso;
}

function zoneOf(text: string | undefined): string | undefined {
  return text && /^[+-]\d{2}:\d{2}$/.test(text) ? text : undefined;
}

function degreesOf(gps: Ifd | undefined, tag: number, refTag: number, le: boolean): number | undefined {
  const [degrees, minutes = 0, seconds = 0] = numbersOf(gps, tag, le);
  const ref = textOf(gps, refTag);
  if (degrees === undefined || !ref) return undefined;
  const value = degrees + minutes / 60 + seconds / 3600;
  if (!Number.isFinite(value) || value > 180) return undefined;
  return /^[SW]/i.test(ref) ? -value : value;
}
