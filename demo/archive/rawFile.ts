// A raw file as a camera writes one that puts no picture inside: DNG 1.4 with what a sensor under a Bayer pattern recorded, one number a pixel,
// uncompressed. Its colours are those of sRGB in linear light.

import { asciiBytes, concatBytes, uint32le } from '@stellin/core/metadata/bytes';

export interface RawContent {
  width: number;
  height: number;
  /** Red, green and blue of every pixel as sRGB has them, row by row. */
  rgb: Uint8Array;
  make: string;
  model: string;
  /** `YYYY-MM-DDTHH:MM:SS`. */
  takenAt: string;
}

type Type = 'bytes' | 'text' | 'short' | 'long' | 'signedRational' | 'rational';
/** TIFF 6.0, section 2: the number of each type, and its bytes. */
const TYPES: Readonly<Record<Type, [number: number, bytes: number]>> = {
  bytes: [1, 1],
  text: [2, 1],
  short: [3, 2],
  long: [4, 4],
  rational: [5, 8],
  signedRational: [10, 8],
};

interface Entry {
  tag: number;
  type: Type;
  data: Uint8Array;
}

const HEAD_BYTES = 8;
/** From CIE XYZ to the camera: to linear sRGB (IEC 61966-2-1). */
const TO_CAMERA = [3.2406, -1.5372, -0.4986, -0.9689, 1.8758, 0.0415, 0.0557, -0.204, 1.057];
/** Which colour of a pixel each place of two by two records: red, green; green, blue. */
const PATTERN = [0, 1, 1, 2] as const;
const WHITE = 65_535;

/** The file. Width and height have to be even. */
export function rawFile({ width, height, rgb, make, model, takenAt }: RawContent): Uint8Array {
  const sensor = recorded(width, height, rgb);
  const time = text(`${takenAt.slice(0, 10).replaceAll('-', ':')} ${takenAt.slice(11)}`);
  const entries = (sensorAt: number, exifAt: number): Entry[] => [
    { tag: 254, type: 'long', data: uint32le(0) },
    { tag: 256, type: 'long', data: uint32le(width) },
    { tag: 257, type: 'long', data: uint32le(height) },
    { tag: 258, type: 'short', data: shorts(16) },
    { tag: 259, type: 'short', data: shorts(1) },
    { tag: 262, type: 'short', data: shorts(32_803) },
    { tag: 271, type: 'text', data: text(make) },
    { tag: 272, type: 'text', data: text(model) },
    { tag: 273, type: 'long', data: uint32le(sensorAt) },
    { tag: 274, type: 'short', data: shorts(1) },
    { tag: 277, type: 'short', data: shorts(1) },
    { tag: 278, type: 'long', data: uint32le(height) },
    { tag: 279, type: 'long', data: uint32le(sensor.length) },
    { tag: 284, type: 'short', data: shorts(1) },
    { tag: 306, type: 'text', data: time },
    { tag: 33_421, type: 'short', data: shorts(2, 2) },
    { tag: 33_422, type: 'bytes', data: Uint8Array.from(PATTERN) },
    { tag: 34_665, type: 'long', data: uint32le(exifAt) },
    { tag: 50_706, type: 'bytes', data: Uint8Array.of(1, 4, 0, 0) },
    { tag: 50_707, type: 'bytes', data: Uint8Array.of(1, 1, 0, 0) },
    { tag: 50_708, type: 'text', data: text(model) },
    { tag: 50_717, type: 'long', data: uint32le(WHITE) },
    { tag: 50_721, type: 'signedRational', data: concatBytes(TO_CAMERA.map((value) => ratio(value))) },
    { tag: 50_728, type: 'rational', data: concatBytes([ratio(1), ratio(1), ratio(1)]) },
    { tag: 50_778, type: 'short', data: shorts(21) },
  ];
  const exif: Entry[] = [{ tag: 36_867, type: 'text', data: time }];
  const exifAt = HEAD_BYTES + sizeOf(entries(0, 0));
  const sensorAt = exifAt + sizeOf(exif);
  return concatBytes([
    Uint8Array.of(0x49, 0x49, 42, 0),
    uint32le(HEAD_BYTES),
    directory(entries(sensorAt, exifAt), HEAD_BYTES),
    directory(exif, exifAt),
    sensor,
  ]);
}

/** What the sensor recorded: of each pixel the colour that lies over it, in linear light. */
function recorded(width: number, height: number, rgb: Uint8Array): Uint8Array {
  const linear = Uint16Array.from({ length: 256 }, (_, value) => {
    const light = value / 255;
    return Math.round(WHITE * (light <= 0.04045 ? light / 12.92 : ((light + 0.055) / 1.055) ** 2.4));
  });
  const bytes = new Uint8Array(width * height * 2);
  const view = new DataView(bytes.buffer);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const at = y * width + x;
      const colour = PATTERN[(y % 2) * 2 + (x % 2)] ?? 1;
      view.setUint16(at * 2, linear[rgb[at * 3 + colour] ?? 0] ?? 0, true);
    }
  return bytes;
}

const entryBytes = 12;
const sizeOf = (entries: readonly Entry[]): number =>
  6 + entries.length * entryBytes + entries.reduce((sum, { data }) => sum + beside(data), 0);
/** What of a value does not fit into its entry, filled up to an even length. */
const beside = ({ length }: Uint8Array): number => (length > 4 ? length + (length % 2) : 0);

function directory(entries: readonly Entry[], at: number): Uint8Array {
  const values: Uint8Array[] = [];
  let next = at + 6 + entries.length * entryBytes;
  const rows = entries.map(({ tag, type, data }) => {
    const [number, bytes] = TYPES[type];
    const inside = new Uint8Array(4);
    if (beside(data) === 0) inside.set(data);
    else {
      inside.set(uint32le(next));
      values.push(data, new Uint8Array(data.length % 2));
      next += beside(data);
    }
    return concatBytes([shorts(tag, number), uint32le(data.length / bytes), inside]);
  });
  return concatBytes([shorts(entries.length), ...rows, uint32le(0), ...values]);
}

function shorts(...values: readonly number[]): Uint8Array {
  return Uint8Array.from(values.flatMap((value) => [value & 0xff, value >> 8]));
}

function text(value: string): Uint8Array {
  return asciiBytes(`${value}\0`);
}

const RATIO_OF = 10_000;
function ratio(value: number): Uint8Array {
  return concatBytes([uint32le(Math.round(value * RATIO_OF) >>> 0), uint32le(RATIO_OF)]);
}
