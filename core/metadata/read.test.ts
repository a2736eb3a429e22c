import { deflateSync } from 'node:zlib';
import fc from 'fast-check';
import { asciiBytes, concatBytes, memorySource, uint32, utf8Bytes, viewOf, type ByteSource } from './bytes';
import { XMP_PREFIX } from './containers/jpeg';
import { inflate } from './inflate';
import { listingOf } from './listing';
import { md5 } from '@noble/hashes/legacy.js';
import { openFile } from './open';
import { readMetadata } from './read';
import {
  box,
  iimSegment,
  jpegSegment,
  long,
  NOW,
  pngChunk,
  riffChunk,
  short,
  tinyGif,
  tinyHeic,
  tinyJpeg,
  tinyMp4,
  tinyPng,
  tinyTiff,
  tinyTiffPicture,
  tinyWebp,
  written,
  xmpSegment,
  xmpText,
  type TinyEntry,
} from './testing';
import { planSidecar } from './write';

const read = (file: Uint8Array) => readMetadata(memorySource(file));
const subject = (keyword: string) =>
  `<rdf:Description rdf:about="" xmlns:dc="http://purl.org/dc/elements/1.1/"><dc:subject><rdf:Bag><rdf:li>${keyword}</rdf:li></rdf:Bag></dc:subject></rdf:Description>`;
const packet = (keyword: string) =>
  utf8Bytes(`<?xpacket begin="" id="W5M0MpCehiHzreSzNTczkc9d"?>${xmpText(subject(keyword))}<?xpacket end="w"?>`);
const rational = (...numbers: number[]) => concatBytes(numbers.map((number) => long(number)));
const ascii = (tag: number, text: string): TinyEntry => ({
  tag,
  type: 2,
  count: text.length + 1,
  data: asciiBytes(`${text}\0`),
});

const CAMERA: TinyEntry[] = [
  ascii(270, 'From EXIF'),
  ascii(271, 'Marsh'),
  ascii(272, 'M1'),
  { tag: 274, type: 3, count: 1, data: short(6) },
  ascii(315, 'Ida; Jon'),
  {
    tag: 34665,
    type: 4,
    count: 1,
    ifds: [
      [
        { tag: 33434, type: 5, count: 1, data: rational(1, 250) },
        { tag: 34855, type: 3, count: 1, data: short(400) },
        ascii(36867, '2024:06:01 10:11:12'),
        ascii(36881, '+02:00'),
        { tag: 37500, type: 7, count: 20, data: asciiBytes('what the maker notes') },
        ascii(37521, '25'),
        ascii(42036, '50 mm'),
      ],
    ],
  },
  {
    tag: 34853,
    type: 4,
    count: 1,
    ifds: [
      [
        ascii(1, 'S'),
        { tag: 2, type: 5, count: 3, data: rational(54, 1, 30, 1, 0, 1) },
        ascii(3, 'E'),
        { tag: 4, type: 5, count: 3, data: rational(8, 1, 0, 1, 36, 1) },
        { tag: 5, type: 1, count: 1, data: Uint8Array.of(1) },
        { tag: 6, type: 5, count: 1, data: rational(25, 10) },
      ],
    ],
  },
];
const exifBlock = tinyTiff([CAMERA]);
const exifSegment = (block: Uint8Array) => jpegSegment(0xe1, concatBytes([asciiBytes('Exif\0\0'), block]));

describe('EXIF', () => {
  test('facts, fields, fractions of a second, zone and position', () => {
    const { facts, fields } = read(tinyJpeg([exifSegment(exifBlock)]));
    expect(facts).toEqual({
      make: 'Marsh',
      model: 'M1',
      lens: '50 mm',
      orientation: 6,
      exposureTime: 0.004,
      iso: 400,
      takenAt: '2024-06-01T10:11:12',
      subSeconds: '25',
      offset: '+02:00',
      latitude: -54.5,
      longitude: 8.01,
      altitude: -2.5,
      bitDepth: 8,
      colour: 'grey',
    });
    expect(fields).toEqual({
      description: 'From EXIF',
      creator: ['Ida', 'Jon'],
      dateCreated: '2024-06-01T10:11:12.25+02:00',
      orientation: 6,
      position: { latitude: -54.5, longitude: 8.01, altitude: -2.5 },
    });
  });

  test('everything is listed by the names of the standard, the maker note as it is', () => {
    const { blocks } = listingOf(openFile(memorySource(tinyJpeg([exifSegment(exifBlock)]))));
    expect(blocks.exif).toMatchObject({
      Make: 'Marsh',
      Orientation: 6,
      ExposureTime: 0.004,
      PhotographicSensitivity: 400,
      DateTimeOriginal: '2024:06:01 10:11:12',
      GPSLatitudeRef: 'S',
      GPSLatitude: [54, 30, 0],
      MakerNote: Buffer.from('what the maker notes').toString('hex'),
    });
  });

  test('a time that is none is no time', () => {
    const block = tinyTiff([[{ tag: 34665, type: 4, count: 1, ifds: [[ascii(36867, '2024:02:30 10:11:12')]] }]]);
    expect(read(tinyJpeg([exifSegment(block)])).fields).toEqual({});
  });
});

describe('containers', () => {
  const found = { fields: { keywords: ['Kite'] } };

  test('JPEG: APP13 over several segments, fill bytes, blocks in any order', () => {
    const { segment } = iimSegment({ keywords: ['from IIM'], city: 'Saltmarsh' });
    const payload = segment.subarray(4);
    const cut = 40;
    const parts = [payload.subarray(0, cut), concatBytes([payload.subarray(0, 14), payload.subarray(cut)])].map(
      (part) => jpegSegment(0xed, part),
    );
    const filled = concatBytes([Uint8Array.of(0xff, 0xff), exifSegment(exifBlock)]);
    const { fields, issues } = read(tinyJpeg([...parts, xmpSegment(subject('Kite')), filled]));
    expect(fields).toMatchObject({ keywords: ['Kite'], city: 'Saltmarsh', description: 'From EXIF' });
    expect(issues).toEqual([]);
  });

  test('TIFF: both orders, IIM in bytes and in numbers of four bytes of either order', () => {
    const { iim } = iimSegment({ city: 'Saltmarsh', keywords: ['Kite'] });
    const padded = concatBytes([iim, new Uint8Array((4 - (iim.length % 4)) % 4)]);
    const swapped = new Uint8Array(Buffer.from(padded).swap32());
    for (const le of [true, false]) {
      for (const [type, data] of [
        [7, iim],
        [1, iim],
        [4, padded],
        [4, swapped],
      ] as const) {
        const count = type === 4 ? data.length / 4 : data.length;
        const file = tinyTiff(
          [
            [
              { tag: 256, type: 3, count: 1, data: short(16, le) },
              { tag: 257, type: 3, count: 1, data: short(8, le) },
              { tag: 33723, type, count, data },
            ],
          ],
          le,
        );
        expect(read(file)).toMatchObject({ kind: 'tiff', width: 16, height: 8, ...found, damaged: false });
      }
    }
  });

  test('BigTIFF', () => {
    const file = new Uint8Array(16 + 8 + 2 * 20 + 8);
    const view = viewOf(file);
    file.set(asciiBytes('II'));
    view.setUint16(2, 43, true);
    view.setUint16(4, 8, true);
    view.setBigUint64(8, 16n, true);
    view.setBigUint64(16, 2n, true);
    for (const [i, [tag, value]] of [
      [256, 16],
      [257, 8],
    ].entries()) {
      view.setUint16(24 + i * 20, tag ?? 0, true);
      view.setUint16(26 + i * 20, 4, true);
      view.setBigUint64(28 + i * 20, 1n, true);
      view.setUint32(36 + i * 20, value ?? 0, true);
    }
    expect(read(file)).toMatchObject({ kind: 'tiff', width: 16, height: 8 });
    expect(() => written(file, { city: 'x' })).toThrow('sidecar');
  });

  test('DNG and raw files: the full picture in a sub-directory, the largest JPEG as preview', () => {
    const jpeg = tinyJpeg();
    const size = (width: number): TinyEntry[] => [
      { tag: 256, type: 4, count: 1, data: long(width) },
      { tag: 257, type: 4, count: 1, data: long(width / 2) },
    ];
    const raw = [...size(6000), { tag: 262, type: 3, count: 1, data: short(32803) }];
    const main = (...more: TinyEntry[]) => [
      { tag: 254, type: 4, count: 1, data: long(1) },
      ...size(160),
      ascii(271, 'Marsh'),
      { tag: 330, type: 4, count: 1, ifds: [raw] },
      ...more,
    ];
    expect(read(tinyTiff([main({ tag: 50706, type: 1, count: 4, data: Uint8Array.of(1, 7, 0, 0) })]))).toMatchObject({
      kind: 'dng',
      width: 6000,
      height: 3000,
    });
    const file = tinyTiff([main()]);
    const withPreview = concatBytes([file, jpeg]);
    expect(read(withPreview)).toMatchObject({ kind: 'raw', width: 6000, facts: { make: 'Marsh' } });
    const other = tinyTiff(
      [
        [
          ...size(160),
          { tag: 0x2e, type: 7, count: 1200, data: concatBytes([jpeg, new Uint8Array(1200 - jpeg.length)]) },
        ],
      ],
      true,
      0x55,
    );
    const metadata = read(other);
    expect(metadata).toMatchObject({ kind: 'raw' });
    expect(other.subarray(metadata.preview?.start, (metadata.preview?.start ?? 0) + 3)).toEqual(
      Uint8Array.of(0xff, 0xd8, 0xff),
    );
  });

  test('PNG: plain and compressed text, eXIf, old profiles in text chunks', () => {
    const itxt = (compressed: boolean, data: Uint8Array) =>
      pngChunk(
        'iTXt',
        concatBytes([asciiBytes('XML:com.adobe.xmp\0'), Uint8Array.of(compressed ? 1 : 0, 0, 0, 0), data]),
      );
    expect(read(tinyPng([itxt(false, packet('Kite'))]))).toMatchObject({ kind: 'png', width: 16, height: 8, ...found });
    expect(read(tinyPng([itxt(true, deflateSync(packet('Kite')))]))).toMatchObject(found);
    expect(read(tinyPng([pngChunk('eXIf', exifBlock)])).facts.make).toBe('Marsh');
    const { iim } = iimSegment({ keywords: ['Kite'] });
    const profile = (bytes: Uint8Array) =>
      `\niptc\n${String(bytes.length).padStart(8)}\n${Buffer.from(bytes).toString('hex').replace(/.{72}/g, '$&\n')}\n`;
    expect(read(tinyPng([pngChunk('tEXt', asciiBytes(`Raw profile type iptc\0${profile(iim)}`))]))).toMatchObject(
      found,
    );
    const zipped = concatBytes([asciiBytes('Raw profile type iptc\0\0'), deflateSync(profile(iim))]);
    expect(read(tinyPng([pngChunk('zTXt', zipped)]))).toMatchObject(found);
  });

  test('WebP', () => {
    const prefixed = concatBytes([asciiBytes('Exif\0\0'), exifBlock]);
    const file = tinyWebp([riffChunk('EXIF', prefixed), riffChunk('XMP ', packet('Kite'))]);
    expect(read(file)).toMatchObject({ kind: 'webp', width: 16, height: 8, ...found, facts: { make: 'Marsh' } });
  });

  test('HEIC and AVIF: EXIF and XMP as items', () => {
    expect(read(tinyHeic(exifBlock, packet('Kite')))).toMatchObject({
      kind: 'heic',
      width: 16,
      height: 8,
      ...found,
      facts: { make: 'Marsh' },
      issues: [],
    });
    expect(read(tinyHeic(exifBlock, packet('Kite'), 'avif'))).toMatchObject({ kind: 'avif', ...found });
  });

  test('MP4 and MOV: XMP in its box, length, size and codec', () => {
    expect(read(tinyMp4(packet('Kite')))).toMatchObject({
      kind: 'mp4',
      width: 16,
      height: 8,
      ...found,
      facts: { duration: 2.5, codec: 'avc1', takenAt: '2018-01-28T16:00:00' },
    });
    expect(read(tinyMp4(packet('Kite'), 'qt  ')).kind).toBe('mov');
  });

  test('raw files made of boxes: EXIF in parts, the largest preview', () => {
    const uuid = (hex: string, ...content: Uint8Array[]) =>
      box('uuid', Uint8Array.from(Buffer.from(hex, 'hex')), ...content);
    const [camera, exif] = [CAMERA.slice(0, 5), CAMERA[5]?.ifds?.[0] ?? []];
    const parts = uuid(
      '85c0b687820f11e08111f4ce462b6a48',
      box('CMT1', tinyTiff([camera])),
      box('CMT2', tinyTiff([exif])),
      box('CMT4', tinyTiff([CAMERA[6]?.ifds?.[0] ?? []])),
    );
    const file = concatBytes([
      box('ftyp', asciiBytes('crx '), uint32(1)),
      box('moov', parts),
      uuid('eaf42b5e1c984b88b9fbb7dc406e4d16', new Uint8Array(8), box('PRVW', new Uint8Array(16), tinyJpeg())),
    ]);
    const metadata = read(file);
    expect(metadata).toMatchObject({ kind: 'raw', facts: { make: 'Marsh', iso: 400, latitude: -54.5 }, issues: [] });
    expect(file[metadata.preview?.start ?? 0]).toBe(0xff);
  });

  test('raw files with a JPEG inside', () => {
    const jpeg = tinyJpeg([exifSegment(exifBlock)]);
    const head = concatBytes([asciiBytes('FUJIFILMCCD-RAW '), new Uint8Array(68), uint32(92), uint32(jpeg.length)]);
    expect(read(concatBytes([head, jpeg]))).toMatchObject({
      kind: 'raw',
      facts: { make: 'Marsh' },
      preview: { start: 92, end: 92 + jpeg.length },
    });
  });

  test('GIF and PDF', () => {
    expect(read(tinyGif(packet('Kite')))).toMatchObject({ kind: 'gif', width: 16, height: 8, ...found, issues: [] });
    const object = (number: number, content: Uint8Array) =>
      concatBytes([
        asciiBytes(`${number} 0 obj\n<< /Type /Metadata /Subtype /XML >>\nstream\n`),
        content,
        asciiBytes('\nendstream\nendobj\n'),
      ]);
    const file = concatBytes([
      asciiBytes('%PDF-1.7\n1 0 obj\n<< /Type /Catalog /Pages 2 0 R /Metadata 4 0 R >>\nendobj\n'),
      object(4, packet('Kite')),
      object(5, packet('of a picture in it')),
    ]);
    expect(read(file)).toMatchObject({ kind: 'pdf', ...found, damaged: false });
  });
});

describe('which block wins', () => {
  const xmp = xmpSegment(subject('from XMP'));

  test('XMP, where the digest says that IIM is as it was', () => {
    const { iim } = iimSegment({ keywords: ['from IIM'] });
    const { segment } = iimSegment({ keywords: ['from IIM'] }, md5(iim));
    const { fields, disagreements } = read(tinyJpeg([xmp, segment]));
    expect(fields.keywords).toEqual(['from XMP']);
    expect(disagreements).toEqual(['keywords']);
  });

  test('IIM, where the digest says that it was changed since', () => {
    const { segment } = iimSegment({ keywords: ['from IIM'] }, md5(Uint8Array.of(1)));
    expect(read(tinyJpeg([xmp, segment])).fields.keywords).toEqual(['from IIM']);
  });

  test('XMP, where there is no digest; each field from the block that has it', () => {
    const { fields } = read(tinyJpeg([xmp, iimSegment({ keywords: ['from IIM'], city: 'Saltmarsh' }).segment]));
    expect(fields).toEqual({ keywords: ['from XMP'], city: 'Saltmarsh' });
  });

  test('EXIF for the capture time and the position, last for all else', () => {
    const nodes = `<rdf:Description xmlns:p="http://ns.adobe.com/photoshop/1.0/" xmlns:dc="http://purl.org/dc/elements/1.1/" p:DateCreated="2001-01-01"><dc:description>From XMP</dc:description></rdf:Description>`;
    const { fields, disagreements } = read(tinyJpeg([exifSegment(exifBlock), xmpSegment(nodes)]));
    expect(fields).toMatchObject({ description: 'From XMP', dateCreated: '2024-06-01T10:11:12.25+02:00' });
    expect(disagreements).toEqual(['dateCreated', 'description']);
  });

  test('a sidecar before all, capture time and position too', () => {
    const sidecar = planSidecar(
      undefined,
      { keywords: ['beside'], dateCreated: '1952', position: { latitude: 1, longitude: 2 } },
      { now: NOW },
    );
    const { fields, facts } = readMetadata(memorySource(tinyJpeg([exifSegment(exifBlock), xmp])), sidecar);
    expect(fields).toMatchObject({
      keywords: ['beside'],
      dateCreated: '1952',
      position: { latitude: 1, longitude: 2 },
    });
    expect(facts.latitude).toBe(1);
  });

  test('what IIM has no room for is no disagreement', () => {
    const long = 'A very long title that goes on and on, further than sixty-four bytes, ä ö ü';
    const file = written(tinyJpeg(), {
      title: long,
      dateCreated: '2024-06-01T10:11:12.5',
      creator: ['Ida', 'Jon'],
      keywords: ['b', 'a'],
    });
    expect(read(file)).toMatchObject({ disagreements: [], fields: { title: long } });
  });
});

describe('hostile files', () => {
  /** Reads a file with a bounded amount of work: time that the machine gives to others does not count. What is unbounded takes minutes. */
  const readsBounded = (file: Uint8Array) => {
    const began = process.cpuUsage();
    const metadata = read(file);
    expect(process.cpuUsage(began).user).toBeLessThan(5_000_000);
    return metadata;
  };

  test('an entity bomb is refused and named', () => {
    const bomb =
      '<!DOCTYPE r [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;">]><rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#">&b;</rdf:RDF>';
    const { issues } = readsBounded(
      tinyJpeg([jpegSegment(0xe1, concatBytes([asciiBytes(XMP_PREFIX), utf8Bytes(bomb)]))]),
    );
    expect(issues.join()).toContain('a document type is not allowed');
  });

  test('EXIF directories that run in a circle end, and what stood before is read', () => {
    const file = tinyTiff([[ascii(271, 'Marsh')]]);
    viewOf(file).setUint32(file.length - 4, viewOf(file).getUint32(4, true), true);
    const metadata = readsBounded(tinyJpeg([exifSegment(file)]));
    expect(metadata.issues).toContain('EXIF directories run in a circle');
    expect(metadata.facts.make).toBe('Marsh');
  });

  test('huge counts and values outside the file are passed over', () => {
    const file = tinyTiff([[{ tag: 273, type: 4, count: 0x3fffffff, data: long(8) }, ascii(271, 'Marsh')]]);
    expect(readsBounded(tinyJpeg([exifSegment(file)]))).toMatchObject({
      facts: { make: 'Marsh' },
      issues: ['an EXIF value lies outside the file'],
    });
  });

  test('a text chunk that inflates without end is cut off and named', () => {
    const bomb = pngChunk(
      'iTXt',
      concatBytes([
        asciiBytes('XML:com.adobe.xmp\0'),
        Uint8Array.of(1, 0, 0, 0),
        deflateSync(Buffer.alloc(60_000_000)),
      ]),
    );
    expect(readsBounded(tinyPng([bomb])).issues.join()).toContain('becomes larger than');
    expect(() => inflate(deflateSync(Buffer.alloc(5_000_000)), 1_000_000)).toThrow('larger than');
    expect(inflate(deflateSync(Buffer.alloc(5_000_000)), 6_000_000).length).toBe(5_000_000);
  });

  test('a document full of packets that never end is given up', () => {
    const file = asciiBytes(`%PDF-1.7\n${'<?xpacket begin='.repeat(200_000)}`);
    expect(readsBounded(file).fields).toEqual({});
  });

  test('boxes inside boxes end somewhere', () => {
    let nested: Uint8Array = box('moov');
    for (let i = 0; i < 3000; i++) nested = box('moov', nested);
    expect(readsBounded(concatBytes([box('ftyp', asciiBytes('isom'), uint32(0)), nested])).kind).toBe('mp4');
  });

  test('any bytes are read without an exception', () => {
    const starts = [
      [0xff, 0xd8, 0xff, 0xe1],
      [0x49, 0x49, 42, 0],
      [0x4d, 0x4d, 0, 42],
      [0x49, 0x49, 43, 0, 8, 0, 0, 0],
      [0x89, 0x50, 0x4e, 0x47, 13, 10, 26, 10],
      [...asciiBytes('RIFF\0\0\0\0WEBP')],
      [...asciiBytes('8BPS')],
      [...asciiBytes('\0\0\0\x10ftypheic')],
      [...asciiBytes('GIF89a')],
      [...asciiBytes('%PDF-1.7')],
      [...asciiBytes('FUJIFILMCCD-RAW ')],
    ];
    fc.assert(
      fc.property(fc.constantFrom(...starts), fc.uint8Array({ maxLength: 400 }), (start, rest) => {
        expect(Array.isArray(readsBounded(concatBytes([Uint8Array.from(start), rest])).issues)).toBe(true);
      }),
      { numRuns: 1500 },
    );
  });

  const samples: [string, Uint8Array][] = [
    ['JPEG', written(tinyJpeg([exifSegment(exifBlock)]), { keywords: ['Kite'], title: 'T' })],
    ['TIFF', written(tinyTiffPicture(), { keywords: ['Kite'] })],
    ['PNG', written(tinyPng(), { keywords: ['Kite'] })],
    ['WebP', written(tinyWebp(), { keywords: ['Kite'] })],
    ['HEIC', tinyHeic(exifBlock, packet('Kite'))],
    ['MP4', tinyMp4(packet('Kite'))],
    ['GIF', tinyGif(packet('Kite'))],
  ];

  test.each(samples)('a %s cut off anywhere is read without an exception', (_name, file) => {
    for (let end = 0; end < file.length; end += file.length > 3000 ? 7 : 1) readsBounded(file.subarray(0, end));
  });

  test.each(samples)('a %s with bytes changed anywhere is read without an exception', (_name, file) => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat(file.length - 1), fc.nat(255)), { minLength: 1, maxLength: 8 }), (flips) => {
        const mutated = file.slice();
        for (const [at, value] of flips) mutated[at] = value;
        readsBounded(mutated);
      }),
      { numRuns: 300 },
    );
  });
});

test('of a JPEG only the head is read, of a TIFF what its directories point to', () => {
  const asked: [number, number][] = [];
  const watched = (bytes: Uint8Array): ByteSource => ({
    size: bytes.length,
    read(offset, length) {
      asked.push([offset, length]);
      return bytes.subarray(offset, offset + length);
    },
  });
  readMetadata(watched(concatBytes([written(tinyJpeg(), { city: 'Saltmarsh' }), new Uint8Array(5_000_000)])));
  expect(asked).toEqual([[0, 65536]]);
  asked.length = 0;
  const strip = new Uint8Array(5_000_000);
  readMetadata(watched(concatBytes([written(tinyTiffPicture(), { city: 'Saltmarsh' }), strip])));
  expect(asked.reduce((sum, [, length]) => sum + length, 0)).toBeLessThan(200_000);
});
