// An EXIF block as a camera writes it: a big-endian TIFF structure with IFD0, the EXIF and the GPS directory (EXIF 3.0, 4.6).

import { asciiBytes, concatBytes, utf8Bytes, viewOf } from '@stellin/core/metadata/bytes';

export interface ExifContent {
  make?: string;
  model?: string;
  lens?: string;
  /** `YYYY-MM-DDTHH:MM:SS`, what the camera's clock said. */
  takenAt?: string;
  orientation: number;
  exposure?: {
    seconds: readonly [number, number];
    fNumber: readonly [number, number];
    iso: number;
    focalLength: number;
  };
  position?: { latitude: number; longitude: number };
  description?: string;
  artist?: string;
  copyright?: string;
}

interface Entry {
  tag: number;
  type: 2 | 3 | 4 | 5;
  count: number;
  data: Uint8Array;
}

const HEADER = Uint8Array.of(0x4d, 0x4d, 0, 42, 0, 0, 0, 8);

/** The block without the `Exif\0\0` in front. */
export function exifBlock(content: ExifContent): Uint8Array {
  const { make, model, lens, takenAt, exposure, position } = content;
  const time = takenAt && `${takenAt.slice(0, 10).replaceAll('-', ':')} ${takenAt.slice(11)}`;
  const main = [
    ...text(270, content.description),
    ...text(271, make),
    ...text(272, model),
    short(274, content.orientation),
    ...text(306, time),
    ...text(315, content.artist),
    ...text(33432, content.copyright),
  ];
  const exif = [
    ...(exposure
      ? [
          rational(33434, [exposure.seconds]),
          rational(33437, [exposure.fNumber]),
          short(34855, exposure.iso),
          rational(37386, [[exposure.focalLength, 1]]),
        ]
      : []),
    ...text(36867, time),
    ...text(36868, time),
    ...text(42036, lens),
  ].sort((a, b) => a.tag - b.tag);
  const gps = position
    ? [
        ...text(1, position.latitude < 0 ? 'S' : 'N'),
        rational(2, sexagesimal(position.latitude)),
        ...text(3, position.longitude < 0 ? 'W' : 'E'),
        rational(4, sexagesimal(position.longitude)),
      ]
    : [];
  const pointers = [long(34665, 0), ...(gps.length ? [long(34853, 0)] : [])];
  const exifAt = HEADER.length + sizeOf([...main, ...pointers]);
  const gpsAt = exifAt + sizeOf(exif);
  const linked = [...main, long(34665, exifAt), ...(gps.length ? [long(34853, gpsAt)] : [])].sort(
    (a, b) => a.tag - b.tag,
  );
  return concatBytes([
    HEADER,
    directory(linked, HEADER.length),
    directory(exif, exifAt),
    ...(gps.length ? [directory(gps, gpsAt)] : []),
  ]);
}

function directory(entries: readonly Entry[], at: number): Uint8Array {
  const table = new Uint8Array(2 + entries.length * 12 + 4);
  const view = viewOf(table);
  view.setUint16(0, entries.length);
  const values: Uint8Array[] = [];
  let valueAt = at + table.length;
  entries.forEach(({ tag, type, count, data }, i) => {
    const place = 2 + i * 12;
    view.setUint16(place, tag);
    view.setUint16(place + 2, type);
    view.setUint32(place + 4, count);
    if (data.length <= 4) table.set(data, place + 8);
    else {
      view.setUint32(place + 8, valueAt);
      values.push(data);
      valueAt += data.length;
    }
  });
  return concatBytes([table, ...values]);
}

function sizeOf(entries: readonly Entry[]): number {
  return 2 + entries.length * 12 + 4 + entries.reduce((sum, { data }) => sum + (data.length > 4 ? data.length : 0), 0);
}

function text(tag: number, value: string | undefined): Entry[] {
  if (!value) return [];
  const bytes = concatBytes([utf8Bytes(value), asciiBytes('\0')]);
  return [{ tag, type: 2, count: bytes.length, data: bytes }];
}

function short(tag: number, value: number): Entry {
  return { tag, type: 3, count: 1, data: Uint8Array.of(value >> 8, value & 0xff) };
}

function long(tag: number, value: number): Entry {
  const data = new Uint8Array(4);
  viewOf(data).setUint32(0, value);
  return { tag, type: 4, count: 1, data };
}

function rational(tag: number, values: readonly (readonly [number, number])[]): Entry {
  const data = new Uint8Array(values.length * 8);
  values.forEach(([numerator, denominator], i) => {
    viewOf(data).setUint32(i * 8, numerator);
    viewOf(data).setUint32(i * 8 + 4, denominator);
  });
  return { tag, type: 5, count: values.length, data };
}

function sexagesimal(degrees: number): [number, number][] {
  const absolute = Math.abs(degrees);
  const minutes = (absolute % 1) * 60;
  return [
    [Math.floor(absolute), 1],
    [Math.floor(minutes), 1],
    [Math.round((minutes % 1) * 60 * 1000), 1000],
  ];
}
