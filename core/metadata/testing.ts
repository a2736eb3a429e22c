// Small files made by hand for tests: real structure, no real picture.

import { asciiBytes, concatBytes, memorySource, uint32, uint32le, utf8Bytes, viewOf } from './bytes';
import { parseIim, serializeIim, setIimFields } from './blocks/iim';
import { APP13_PREFIX, RESOURCE, serializeResources, setResource } from './blocks/resources';
import { XMP_PREFIX } from './containers/jpeg';
import { crc32 } from './crc32';
import type { FieldValues } from './fields';
import { assemble } from './pieces';
import { planWrite, type FieldChanges, type WriteOptions } from './write';

export const NOW = '2026-11-23T10:00:00Z';
/** The coded picture of every sample. */
export const PICTURE = Uint8Array.of(0x12, 0x34, 0x56, 0x78, 0x9a, 0xbc, 0xde, 0xf0, 1, 2, 3, 4, 5, 6, 7, 8);

/** The file with the changes written. */
export function written(file: Uint8Array, changes: FieldChanges, options: Partial<WriteOptions> = {}): Uint8Array {
  const source = memorySource(file);
  return assemble(source, planWrite(source, changes, { now: NOW, ...options }).pieces);
}

/** A segment with its marker and length. */
export function jpegSegment(marker: number, payload: Uint8Array): Uint8Array {
  const head = Uint8Array.of(0xff, marker, 0, 0);
  viewOf(head).setUint16(2, payload.length + 2);
  return concatBytes([head, payload]);
}

/** A JPEG of 16 × 8 pixels with the given segments after SOI. Its coded data is not decodable, and need not be. */
export function tinyJpeg(
  segments: readonly Uint8Array[] = [],
  behind: Uint8Array = asciiBytes('trailing bytes'),
): Uint8Array {
  const frame = jpegSegment(0xc0, Uint8Array.of(8, 0, 8, 0, 16, 1, 1, 0x11, 0));
  const tables = jpegSegment(0xdb, new Uint8Array(65).fill(7));
  const scan = concatBytes([
    jpegSegment(0xda, Uint8Array.of(1, 1, 0, 0, 63, 0)),
    Uint8Array.of(0x12, 0x34, 0xff, 0x00, 0x56),
    Uint8Array.of(0xff, 0xd9),
  ]);
  return concatBytes([Uint8Array.of(0xff, 0xd8), ...segments, tables, frame, scan, behind]);
}

/** A packet around the nodes of its RDF. */
export function xmpText(nodes: string): string {
  return `<x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#">${nodes}</rdf:RDF></x:xmpmeta>`;
}

export function xmpSegment(nodes: string): Uint8Array {
  return jpegSegment(0xe1, concatBytes([asciiBytes(XMP_PREFIX), utf8Bytes(xmpText(nodes))]));
}

/** An IIM block that says the values, and the APP13 segment around it. */
export function iimSegment(values: FieldValues, digest?: Uint8Array): { iim: Uint8Array; segment: Uint8Array } {
  const entries = Object.entries(values) as [keyof FieldValues, FieldValues[keyof FieldValues]][];
  const iim = serializeIim(setIimFields(parseIim(new Uint8Array()), entries).block);
  const resources = setResource([], RESOURCE.iim, iim);
  const all = digest ? setResource(resources, RESOURCE.iimDigest, digest) : resources;
  return { iim, segment: jpegSegment(0xed, concatBytes([asciiBytes(APP13_PREFIX), serializeResources(all)])) };
}

export interface TinyEntry {
  tag: number;
  type: number;
  count: number;
  /** Bytes in the order of the file; or the directory it points to. */
  data?: Uint8Array;
  ifds?: TinyEntry[][];
}

/** A TIFF structure of directories, each behind the values of the one before. */
export function tinyTiff(pages: readonly TinyEntry[][], littleEndian = true, magic = 42): Uint8Array {
  const parts: Uint8Array[] = [
    concatBytes([asciiBytes(littleEndian ? 'II' : 'MM'), short(magic, littleEndian), new Uint8Array(4)]),
  ];
  let end = 8;
  const put = (bytes: Uint8Array): number => {
    const padding = end % 2;
    parts.push(new Uint8Array(padding), bytes);
    const at = end + padding;
    end = at + bytes.length;
    return at;
  };
  const directory = (entries: readonly TinyEntry[], next: number): number => {
    const table = new Uint8Array(2 + entries.length * 12 + 4);
    const view = viewOf(table);
    view.setUint16(0, entries.length, littleEndian);
    entries.forEach(({ tag, type, count, data, ifds }, i) => {
      const at = 2 + i * 12;
      const value = ifds
        ? concatBytes(ifds.map((inner) => long(directory(inner, 0), littleEndian)))
        : (data ?? new Uint8Array(4));
      view.setUint16(at, tag, littleEndian);
      view.setUint16(at + 2, type, littleEndian);
      view.setUint32(at + 4, count, littleEndian);
      if (value.length <= 4) table.set(value, at + 8);
      else view.setUint32(at + 8, put(value), littleEndian);
    });
    view.setUint32(table.length - 4, next, littleEndian);
    return put(table);
  };
  let next = 0;
  for (const page of [...pages].reverse()) next = directory(page, next);
  const whole = concatBytes(parts);
  viewOf(whole).setUint32(4, next, littleEndian);
  return whole;
}

export function short(value: number, littleEndian = true): Uint8Array {
  const bytes = new Uint8Array(2);
  viewOf(bytes).setUint16(0, value, littleEndian);
  return bytes;
}

export function long(value: number, littleEndian = true): Uint8Array {
  return littleEndian ? uint32le(value) : uint32(value);
}

/** A picture of 16 × 8 pixels of one byte in a strip, with a second page, a sub-directory and a maker note. */
export function tinyTiffPicture(littleEndian = true): Uint8Array {
  const le = littleEndian;
  const at = 8;
  const page = (extra: TinyEntry[] = []): TinyEntry[] => [
    { tag: 256, type: 3, count: 1, data: short(16, le) },
    { tag: 257, type: 3, count: 1, data: short(8, le) },
    { tag: 273, type: 4, count: 1, data: long(at, le) },
    { tag: 279, type: 4, count: 1, data: long(PICTURE.length, le) },
    ...extra,
  ];
  const makerNote = { tag: 37500, type: 7, count: 13, data: asciiBytes('kept as it is') };
  const whole = tinyTiff(
    [
      page([
        { tag: 305, type: 2, count: 10, data: asciiBytes('Kite desk\0') },
        { tag: 330, type: 4, count: 1, ifds: [page()] },
        { tag: 34665, type: 4, count: 1, ifds: [[makerNote]] },
      ]),
      page(),
    ],
    le,
  );
  return behindPicture(whole, le);
}

/** Puts the picture between the header and the rest, and moves every offset of the rest. */
function behindPicture(tiff: Uint8Array, le: boolean): Uint8Array {
  const shift = PICTURE.length;
  const whole = concatBytes([tiff.subarray(0, 8), PICTURE, tiff.subarray(8)]);
  const view = viewOf(whole);
  const move = (at: number) => view.setUint32(at, view.getUint32(at, le) + shift, le);
  const walk = (offset: number): void => {
    const count = view.getUint16(offset, le);
    for (let i = 0; i < count; i++) {
      const at = offset + 2 + i * 12;
      const [tag, type, number] = [view.getUint16(at, le), view.getUint16(at + 2, le), view.getUint32(at + 4, le)];
      const size = number * (type === 3 ? 2 : type === 4 ? 4 : 1);
      if (tag === 330 || tag === 34665) {
        move(at + 8);
        walk(view.getUint32(at + 8, le));
      } else if (size > 4) move(at + 8);
    }
    const nextAt = offset + 2 + count * 12;
    if (view.getUint32(nextAt, le) === 0) return;
    move(nextAt);
    walk(view.getUint32(nextAt, le));
  };
  move(4);
  walk(view.getUint32(4, le));
  return whole;
}

export function pngChunk(name: string, data: Uint8Array): Uint8Array {
  const body = concatBytes([asciiBytes(name), data]);
  return concatBytes([uint32(data.length), body, uint32(crc32(body))]);
}

export function tinyPng(chunks: readonly Uint8Array[] = []): Uint8Array {
  const header = concatBytes([uint32(16), uint32(8), Uint8Array.of(8, 0, 0, 0, 0)]);
  return concatBytes([
    asciiBytes('\x89PNG\r\n\x1a\n'),
    pngChunk('IHDR', header),
    ...chunks,
    pngChunk('IDAT', PICTURE),
    pngChunk('IEND', new Uint8Array()),
    asciiBytes('trailing bytes'),
  ]);
}

export function riffChunk(name: string, data: Uint8Array): Uint8Array {
  return concatBytes([asciiBytes(name), uint32le(data.length), data, new Uint8Array(data.length & 1)]);
}

/** A WebP of 16 × 8 pixels in the simple format, which has no place for metadata yet. */
export function tinyWebp(chunks: readonly Uint8Array[] = []): Uint8Array {
  const frame = concatBytes([Uint8Array.of(0, 0, 0, 0x9d, 0x01, 0x2a), short(16), short(8), PICTURE]);
  const content = concatBytes([asciiBytes('WEBP'), riffChunk('VP8 ', frame), ...chunks]);
  return concatBytes([riffChunk('RIFF', content), asciiBytes('trailing bytes')]);
}

/** A WAV of two chunks, the last of an odd length, with something behind it. */
export function tinyWav(chunks: readonly Uint8Array[] = [], behind = asciiBytes('trailing bytes')): Uint8Array {
  const format = concatBytes([short(1), short(1), uint32le(48_000), uint32le(96_000), short(2), short(16)]);
  const sound = concatBytes([PICTURE, Uint8Array.of(9)]);
  const content = concatBytes([asciiBytes('WAVE'), riffChunk('fmt ', format), riffChunk('data', sound), ...chunks]);
  return concatBytes([riffChunk('RIFF', content), behind]);
}

/** An MP4 of a second whose coded film is `PICTURE`. */
export function tinyFilm(boxes: readonly Uint8Array[] = []): Uint8Array {
  const header = box('mvhd', uint32(0), uint32(0), uint32(0), uint32(1000), uint32(1000));
  return concatBytes([
    box('ftyp', asciiBytes('mp42'), uint32(0), asciiBytes('mp42'), asciiBytes('isom')),
    box('moov', header),
    box('mdat', PICTURE),
    ...boxes,
  ]);
}

export function tinyPsd(): Uint8Array {
  const header = concatBytes([
    asciiBytes('8BPS'),
    Uint8Array.of(0, 1, 0, 0, 0, 0, 0, 0, 0, 3),
    uint32(8),
    uint32(16),
    Uint8Array.of(0, 8, 0, 3),
  ]);
  const resources = serializeResources(setResource([], 0x03ed, asciiBytes('resolution')));
  const layers = asciiBytes('layers');
  return concatBytes([header, uint32(0), uint32(resources.length), resources, uint32(layers.length), layers, PICTURE]);
}

export function box(type: string, ...content: Uint8Array[]): Uint8Array {
  const data = concatBytes(content);
  return concatBytes([uint32(data.length + 8), asciiBytes(type), data]);
}

/** A HEIC of 16 × 8 pixels with EXIF and XMP as items: EXIF in the file, XMP in `idat`. */
export function tinyHeic(exif: Uint8Array, xmp: Uint8Array, brand = 'heic'): Uint8Array {
  const full = (version: number) => Uint8Array.of(version, 0, 0, 0);
  const infe = (id: number, type: string, content = '') =>
    box('infe', full(2), Uint8Array.of(0, id, 0, 0), asciiBytes(`${type}\0${content}`));
  const head = box('ftyp', asciiBytes(brand), uint32(0), asciiBytes('mif1'), asciiBytes(brand));
  const item = concatBytes([uint32(0), exif]);
  const meta = (exifAt: number) =>
    box(
      'meta',
      full(0),
      box('iinf', full(0), Uint8Array.of(0, 2), infe(1, 'Exif'), infe(2, 'mime', 'application/rdf+xml\0')),
      box(
        'iloc',
        full(1),
        Uint8Array.of(0x44, 0x00, 0, 2),
        Uint8Array.of(0, 1, 0, 0, 0, 0, 0, 1),
        uint32(exifAt),
        uint32(item.length),
        Uint8Array.of(0, 2, 0, 1, 0, 0, 0, 1),
        uint32(0),
        uint32(xmp.length),
      ),
      box('iprp', box('ipco', box('ispe', full(0), uint32(16), uint32(8)))),
      box('idat', xmp),
    );
  return concatBytes([head, meta(head.length + meta(0).length + 8), box('mdat', item)]);
}

const XMP_UUID = Uint8Array.from('be7acfcb97a942e89c71999491e3afac'.match(/../g) ?? [], (pair) =>
  Number.parseInt(pair, 16),
);

/** Two and a half seconds of film, 16 × 8 pixels. */
export function tinyMp4(xmp: Uint8Array, brand = 'isom'): Uint8Array {
  const track = new Uint8Array(84);
  viewOf(track).setUint32(76, 16 << 16);
  viewOf(track).setUint32(80, 8 << 16);
  const movie = new Uint8Array(100);
  viewOf(movie).setUint32(4, 3_600_000_000);
  viewOf(movie).setUint32(12, 1000);
  viewOf(movie).setUint32(16, 2500);
  const entry = new Uint8Array(60);
  entry.set(asciiBytes('avc1'), 4);
  viewOf(entry).setUint16(32, 16);
  const tables = box('minf', box('stbl', box('stsd', new Uint8Array(8), entry)));
  return concatBytes([
    box('ftyp', asciiBytes(brand), uint32(0)),
    box('moov', box('mvhd', movie), box('trak', box('tkhd', track), box('mdia', tables))),
    box('uuid', XMP_UUID, xmp),
  ]);
}

export function tinyGif(xmp: Uint8Array): Uint8Array {
  const trailer = concatBytes([
    Uint8Array.of(1),
    Uint8Array.from({ length: 256 }, (_, i) => 255 - i),
    Uint8Array.of(0),
  ]);
  const image = concatBytes([Uint8Array.of(0x2c, 0, 0, 0, 0, 16, 0, 8, 0, 0, 2, 3), Uint8Array.of(1, 2, 3, 0)]);
  return concatBytes([
    asciiBytes('GIF89a'),
    short(16),
    short(8),
    Uint8Array.of(0x80, 0, 0, 1, 2, 3, 4, 5, 6),
    Uint8Array.of(0x21, 0xff, 11),
    asciiBytes('XMP DataXMP'),
    xmp,
    trailer,
    image,
    Uint8Array.of(0x3b),
  ]);
}
