// EXIF (CIPA DC-008, EXIF 3.0): the facts of a camera, the fields that stand there too, and everything by name.

import { asciiText, concatBytes, cutBytes, hexText, looseText, utf8Bytes, viewOf } from '../bytes';
import { dateTimeParts } from '../dateTime';
import { FIELDS, fieldOf, type Field, type FieldId, type FieldValue, type FieldValues } from '../fields';
import { orientationOf } from '../orientation';
import { positionOf, sameValue, textsOf, type Position } from '../values';
import { EXIF_TAG, EXIF_TAGS, GPS_TAG } from './exifTags';
import { dataOf, numberOf, numbersOf, TAG, type Ifd, type IfdEntry, type TiffStructure } from './tiff';

/** What of EXIF the catalogue uses; every part may be missing. */
export interface ExifFacts {
  make?: string;
  model?: string;
  lens?: string;
  software?: string;
  /** Local time without zone, `YYYY-MM-DDTHH:MM:SS`. */
  takenAt?: string;
  /** Digits of the fraction of its second. */
  subSeconds?: string;
  /** `±HH:MM`. */
  offset?: string;
  orientation?: number;
  /** Seconds. */
  exposureTime?: number;
  /** Steps of exposure. */
  exposureBias?: number;
  fNumber?: number;
  iso?: number;
  /** Millimetres. */
  focalLength?: number;
  focalLength35?: number;
  flashFired?: boolean;
  /** Decimal degrees, south and west negative; metres. */
  latitude?: number;
  longitude?: number;
  altitude?: number;
  direction?: number;
}

/** What is to become of a tag: its new value, or none when it is to go. */
export interface TagEdit {
  ifd: 'main' | 'exif' | 'gps';
  tag: number;
  /** As TIFF numbers them: 1 byte, 2 ASCII, 3 short, 5 rational, 7 undefined. */
  type: number;
  count: number;
  /** In the byte order of the structure; undefined removes the tag. */
  data: Uint8Array | undefined;
}

const EXIF_FIELDS = FIELDS.filter((field) => field.exif !== undefined);
const UTF16_TAGS = new Set([40091, 40092, 40093, 40094, 40095]);
const CHARSET_TAGS = new Set(['UserComment', 'GPSProcessingMethod', 'GPSAreaInformation']);
const SHOWN_BYTES = 64;
const MAX_TEXT_BYTES = 8192;

/** The facts of the EXIF and GPS directories. */
export function exifFacts(tiff: TiffStructure): ExifFacts {
  const [main] = tiff.pages;
  const { exif } = tiff;
  const flash = numberOf(tiff, exif, EXIF_TAG.flash);
  const facts: ExifFacts = {
    make: textOf(tiff, main, TAG.make),
    model: textOf(tiff, main, EXIF_TAG.model),
    lens: textOf(tiff, exif, EXIF_TAG.lensModel),
    software: textOf(tiff, main, EXIF_TAG.software),
    takenAt: isoTime(textOf(tiff, exif, EXIF_TAG.dateTimeOriginal)),
    subSeconds: /^\d{1,9}$/.exec(textOf(tiff, exif, EXIF_TAG.subSecTimeOriginal) ?? '')?.[0],
    offset: /^[+-]\d{2}:\d{2}$/.exec(textOf(tiff, exif, EXIF_TAG.offsetTimeOriginal) ?? '')?.[0],
    orientation: numberOf(tiff, main, EXIF_TAG.orientation),
    exposureTime: numberOf(tiff, exif, EXIF_TAG.exposureTime),
    exposureBias: numberOf(tiff, exif, EXIF_TAG.exposureBias),
    fNumber: numberOf(tiff, exif, EXIF_TAG.fNumber),
    iso: numberOf(tiff, exif, EXIF_TAG.sensitivity),
    focalLength: numberOf(tiff, exif, EXIF_TAG.focalLength),
    focalLength35: numberOf(tiff, exif, EXIF_TAG.focalLength35) || undefined,
    flashFired: flash === undefined ? undefined : (flash & 1) === 1,
    ...gpsOf(tiff),
  };
  return Object.fromEntries(Object.entries(facts).filter(([, value]) => value !== undefined));
}

/** The fields of the table that EXIF holds. */
export function exifFields(tiff: TiffStructure, facts: ExifFacts): FieldValues {
  const values: FieldValues = {};
  for (const field of EXIF_FIELDS) {
    const value = typeof field.exif === 'object' ? textField(tiff, field, field.exif.tag) : fromFacts(facts, field);
    if (value !== undefined) values[field.id] = value;
  }
  return values;
}

/** What EXIF says of a value once it is written there and read back. */
export function exifEcho(field: Field, value: FieldValue | undefined): FieldValue | undefined {
  if (value === undefined || field.exif === undefined) return undefined;
  if (field.exif === 'gps') return positionOf(value);
  if (field.exif === 'orientation') return orientationOf(value);
  const text = textsOf(value).join('; ');
  if (field.exif !== 'captureTime') return splitText(cutText(text.replaceAll('\0', '')), field);
  const parts = dateTimeParts(text);
  if (!parts?.knowsSeconds) return undefined;
  const zone = parts.zone === 'Z' ? '+00:00' : (parts.zone ?? '');
  return `${parts.year}-${parts.month}-${parts.day}T${parts.time}${parts.fraction ? `.${parts.fraction}` : ''}${zone}`;
}

/** The edits that make EXIF say the changed fields; none for what it says already. A date that is not known to the second goes out of EXIF, which can't hold it. */
export function exifEdits(
  said: FieldValues,
  changes: readonly (readonly [FieldId, FieldValue | undefined])[],
  littleEndian: boolean,
): TagEdit[] {
  return changes.flatMap(([id, value]) => {
    const field = fieldOf(id);
    const echo = exifEcho(field, value);
    if (field.exif === undefined || sameValue(said[id], echo)) return [];
    if (field.exif === 'gps')
      return positionEdits(positionOf(echo), littleEndian, positionOf(said[id])?.direction !== undefined);
    if (field.exif === 'captureTime') return captureEdits(textsOf(echo)[0]);
    if (field.exif === 'orientation') return [orientationEdit(orientationOf(echo), littleEndian)];
    return [textEdit('main', field.exif.tag, textsOf(echo).join('; ') || undefined)];
  });
}

/** Everything by the names of the standard; tags without one by their number, later pages and sub-directories with a number in front. */
export function exifListing(tiff: TiffStructure): Record<string, unknown> {
  const listing: Record<string, unknown> = {};
  const add = (ifd: Ifd | undefined, names: Readonly<Record<number, string>>, prefix: string) => {
    for (const entry of ifd?.list ?? []) {
      const name = names[entry.tag] ?? EXIF_TAGS.main[entry.tag] ?? EXIF_TAGS.exif[entry.tag];
      const value = shownValue(tiff, ifd, entry, name);
      if (value !== undefined) listing[prefix + (name ?? `0x${entry.tag.toString(16).padStart(4, '0')}`)] ??= value;
    }
  };
  tiff.pages.forEach((page, i) => add(page, EXIF_TAGS.main, i === 0 ? '' : `Page${i + 1}:`));
  add(tiff.exif, EXIF_TAGS.exif, '');
  add(tiff.gps, EXIF_TAGS.gps, '');
  add(tiff.interop, EXIF_TAGS.interop, '');
  tiff.subIfds.forEach((ifd, i) => add(ifd, EXIF_TAGS.main, `Sub${i + 1}:`));
  return listing;
}

/** The text of an ASCII or UTF-8 tag up to its first zero byte; undefined when it is missing or blank. */
export function textOf(tiff: TiffStructure, ifd: Ifd | undefined, tag: number): string | undefined {
  const entry = ifd?.entries.get(tag);
  if (!entry || ![1, 2, 7, 129].includes(entry.type)) return undefined;
  const data = dataOf(tiff, entry);
  if (!data) return undefined;
  const end = data.indexOf(0);
  const text = looseText(end < 0 ? data : data.subarray(0, end)).trim();
  return text === '' ? undefined : text;
}

function textField(tiff: TiffStructure, field: Field, tag: number): FieldValue | undefined {
  const text = textOf(tiff, tiff.pages[0], tag);
  return text === undefined ? undefined : splitText(text, field);
}

/** EXIF has to share a segment of 64 KB with thumbnails and maker notes, so long texts stand there in part. */
function cutText(text: string): string {
  return text.length < MAX_TEXT_BYTES / 3 ? text : looseText(cutBytes(utf8Bytes(text), MAX_TEXT_BYTES));
}

function splitText(text: string, field: Field): FieldValue | undefined {
  if (!field.list) return text.trim() || undefined;
  const texts = text.split(';').flatMap((part) => part.trim() || []);
  return texts.length > 0 ? texts : undefined;
}

function fromFacts(facts: ExifFacts, field: Field): FieldValue | undefined {
  if (field.exif === 'gps') return positionOf({ ...facts } as FieldValue);
  if (field.exif === 'orientation') return orientationOf(facts.orientation);
  if (!facts.takenAt) return undefined;
  return `${facts.takenAt}${facts.subSeconds ? `.${facts.subSeconds}` : ''}${facts.offset ?? ''}`;
}

function gpsOf(tiff: TiffStructure): Partial<Position> {
  const { gps } = tiff;
  const latitude = degreesOf(tiff, GPS_TAG.latitude, GPS_TAG.latitudeRef);
  const longitude = degreesOf(tiff, GPS_TAG.longitude, GPS_TAG.longitudeRef);
  if (latitude === undefined || longitude === undefined) return {};
  const altitude = numberOf(tiff, gps, GPS_TAG.altitude);
  const below = (numberOf(tiff, gps, GPS_TAG.altitudeRef) ?? 0) & 1;
  const direction = numberOf(tiff, gps, GPS_TAG.direction);
  // What a compass says is another direction, and stays as it is.
  const isTrue = textOf(tiff, gps, GPS_TAG.directionRef)?.toUpperCase() !== 'M';
  return (
    positionOf({
      ...{ latitude, longitude },
      ...(altitude === undefined ? {} : { altitude: below ? -altitude : altitude }),
      ...(direction === undefined || !isTrue ? {} : { direction }),
    }) ?? {}
  );
}

function degreesOf(tiff: TiffStructure, tag: number, refTag: number): number | undefined {
  const [degrees, minutes = 0, seconds = 0] = numbersOf(tiff, tiff.gps, tag);
  const ref = textOf(tiff, tiff.gps, refTag);
  if (degrees === undefined || !ref) return undefined;
  const value = degrees + (minutes || 0) / 60 + (seconds || 0) / 3600;
  return Number.isFinite(value) ? (/^[SW]/i.test(ref) ? -value : value) : undefined;
}

function isoTime(text: string | undefined): string | undefined {
  const [, year, month, day, time] = /^(\d{4})[:-](\d{2})[:-](\d{2})[ T](\d{2}:\d{2}:\d{2})/.exec(text ?? '') ?? [];
  const iso = `${year}-${month}-${day}T${time}`;
  return dateTimeParts(iso) ? iso : undefined;
}

function textEdit(ifd: TagEdit['ifd'], tag: number, text: string | undefined): TagEdit {
  // ASCII with a zero byte at the end; other letters as UTF-8, as the MWG asks (section 2.1).
  const data = text === undefined ? undefined : concatBytes([utf8Bytes(text), Uint8Array.of(0)]);
  return { ifd, tag, type: 2, count: data?.length ?? 0, data };
}

function orientationEdit(orientation: number | undefined, littleEndian: boolean): TagEdit {
  const edit = { ifd: 'main', tag: EXIF_TAG.orientation, type: 3 } as const;
  if (orientation === undefined) return { ...edit, count: 0, data: undefined };
  const data = new Uint8Array(2);
  viewOf(data).setUint16(0, orientation, littleEndian);
  return { ...edit, count: 1, data };
}

function captureEdits(text: string | undefined): TagEdit[] {
  const parts = text === undefined ? undefined : dateTimeParts(text);
  const stamp = parts?.time && `${parts.year}:${parts.month}:${parts.day} ${parts.time}`;
  return [
    textEdit('exif', EXIF_TAG.dateTimeOriginal, stamp),
    textEdit('exif', EXIF_TAG.subSecTimeOriginal, parts?.fraction),
    textEdit('exif', EXIF_TAG.offsetTimeOriginal, parts?.zone === 'Z' ? '+00:00' : parts?.zone),
  ];
}

/** `hadDirection`: the one there is is what the position says so far; else it stays as it is. */
function positionEdits(position: Position | undefined, littleEndian: boolean, hadDirection: boolean): TagEdit[] {
  const byte = (tag: number, data: Uint8Array | undefined): TagEdit => ({
    ifd: 'gps',
    tag,
    type: 1,
    count: data?.length ?? 0,
    data,
  });
  const rational = (tag: number, pairs: readonly (readonly [number, number])[] | undefined): TagEdit => {
    if (!pairs) return { ifd: 'gps', tag, type: 5, count: 0, data: undefined };
    const data = new Uint8Array(pairs.length * 8);
    pairs.forEach(([over, under], i) => {
      viewOf(data).setUint32(i * 8, over, littleEndian);
      viewOf(data).setUint32(i * 8 + 4, under, littleEndian);
    });
    return { ifd: 'gps', tag, type: 5, count: pairs.length, data };
  };
  const { altitude, direction } = position ?? {};
  const directed: TagEdit[] =
    position && direction === undefined && !hadDirection
      ? []
      : [
          textEdit('gps', GPS_TAG.directionRef, direction === undefined ? undefined : 'T'),
          rational(GPS_TAG.direction, direction === undefined ? undefined : [[Math.round(direction * 100), 100]]),
        ];
  return [
    ...directed,
    byte(GPS_TAG.version, position && Uint8Array.of(2, 4, 0, 0)),
    textEdit('gps', GPS_TAG.latitudeRef, position && (position.latitude < 0 ? 'S' : 'N')),
    rational(GPS_TAG.latitude, position && sexagesimal(position.latitude)),
    textEdit('gps', GPS_TAG.longitudeRef, position && (position.longitude < 0 ? 'W' : 'E')),
    rational(GPS_TAG.longitude, position && sexagesimal(position.longitude)),
    byte(GPS_TAG.altitudeRef, altitude === undefined ? undefined : Uint8Array.of(altitude < 0 ? 1 : 0)),
    rational(GPS_TAG.altitude, altitude === undefined ? undefined : [[Math.round(Math.abs(altitude) * 100), 100]]),
  ];
}

/** Degrees, minutes and seconds to a hundred-thousandth, which holds seven decimals of a degree. */
function sexagesimal(degrees: number): [number, number][] {
  const parts = Math.round(Math.abs(degrees) * 3_600_00000);
  const seconds = parts % (60 * 100000);
  const minutes = Math.floor(parts / (60 * 100000));
  return [
    [Math.floor(minutes / 60), 1],
    [minutes % 60, 1],
    [seconds, 100000],
  ];
}

function shownValue(tiff: TiffStructure, ifd: Ifd | undefined, entry: IfdEntry, name: string | undefined): unknown {
  if (isLongRun(entry)) return `${entry.length} bytes`;
  const data = dataOf(tiff, entry);
  if (!data) return undefined;
  if (UTF16_TAGS.has(entry.tag)) return new TextDecoder('utf-16le').decode(data).replace(/\0+$/, '');
  if (entry.type === 2 || entry.type === 129) return textOf(tiff, ifd, entry.tag) ?? '';
  if (entry.type === 7) return shownBytes(data, name);
  const numbers = numbersOf(tiff, ifd, entry.tag).map((number) => (Number.isFinite(number) ? number : null));
  return numbers.length === 1 ? numbers[0] : numbers;
}

/** Values that tell a person nothing. */
function isLongRun({ type, length }: IfdEntry): boolean {
  return (length > 4096 && type !== 2) || (length > SHOWN_BYTES && type === 1);
}

function shownBytes(data: Uint8Array, name: string | undefined): string {
  if (name && CHARSET_TAGS.has(name) && data.length > 8) {
    const charset = asciiText(data.subarray(0, 8));
    const text = data.subarray(8);
    return charset.startsWith('UNICODE')
      ? new TextDecoder('utf-16le').decode(text)
      : looseText(text).replace(/\0+$/, '');
  }
  if (data.length <= 8 && data.every((byte) => byte >= 0x20 && byte < 0x7f)) return asciiText(data);
  return data.length <= SHOWN_BYTES ? hexText(data) : `${data.length} bytes`;
}
