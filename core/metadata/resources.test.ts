import { md5 } from '@noble/hashes/legacy.js';
import fc from 'fast-check';
import { asciiBytes, concatBytes, memorySource, NO_BYTES, utf8Bytes } from './bytes';
import { parseIim, serializeIim, type Dataset } from './blocks/iim';
import {
  APP13_PREFIX,
  parseResources,
  RESOURCE,
  resourceData,
  serializeResources,
  type ImageResource,
} from './blocks/resources';
import { dateTimeParts } from './dateTime';
import { readMetadata } from './read';
import { jpegSegment, tinyJpeg, written } from './testing';
import { parseJpegHead } from './containers/jpeg';

const resource = (id: number, data: Uint8Array): ImageResource => ({
  signature: '8BIM',
  id,
  name: new Uint8Array(2),
  data,
});
const set = (number: number, data: Uint8Array): Dataset => ({ record: 2, dataset: number, data });
const UTF8: Dataset = { record: 1, dataset: 90, data: Uint8Array.of(0x1b, 0x25, 0x47) };
const iimOf = (...datasets: Dataset[]) => serializeIim({ datasets, rest: NO_BYTES });
const app13 = (bytes: Uint8Array) => jpegSegment(0xed, concatBytes([asciiBytes(APP13_PREFIX), bytes]));
const iimOnly = (...blocks: Uint8Array[]) => serializeResources(blocks.map((data) => resource(RESOURCE.iim, data)));
const iimBlocksOf = (file: Uint8Array) =>
  parseResources(
    concatBytes(
      parseJpegHead(memorySource(file))
        .segments.filter(({ marker }) => marker === 0xed)
        .map(({ payload }) => payload.subarray(APP13_PREFIX.length)),
    ),
  ).resources.filter(({ id }) => id === RESOURCE.iim);

describe('several IIM blocks in a file', () => {
  const first = iimOf(UTF8, set(25, utf8Bytes('Düne')), set(120, utf8Bytes('The first caption')));
  // Of another program: no character set declared, Latin letters, one keyword the same.
  const second = iimOf(
    set(25, asciiBytes('D\xfcne')),
    set(25, asciiBytes('K\xfcste')),
    set(105, utf8Bytes('Headline')),
  );

  test.each([
    ['in one segment', [app13(iimOnly(first, second))]],
    ['in a segment each', [app13(iimOnly(first)), app13(iimOnly(second))]],
    ['behind an empty one', [app13(iimOnly(NO_BYTES, first, second))]],
  ])('%s are all read, in order, and named', (_where, segments) => {
    const { fields, issues } = readMetadata(memorySource(tinyJpeg(segments)));
    expect(fields).toMatchObject({
      keywords: ['Düne', 'Küste'],
      description: 'The first caption',
      headline: 'Headline',
    });
    expect(issues).toEqual(['the file holds 2 IIM blocks; all are read, and the next write leaves one']);
  });

  test('the next write leaves one, which says what all of them said', () => {
    const file = written(tinyJpeg([app13(iimOnly(first)), app13(iimOnly(second))]), { city: 'Saltmarsh' });
    const { blocks, issues } = readMetadata(memorySource(file));
    expect(issues).toEqual([]);
    expect(iimBlocksOf(file)).toHaveLength(1);
    expect(blocks.iim).toMatchObject({
      keywords: ['Düne', 'Küste'],
      description: 'The first caption',
      headline: 'Headline',
      city: 'Saltmarsh',
    });
  });

  test('an empty one alone is none, and one behind it is read without complaint', () => {
    const { fields, issues } = readMetadata(memorySource(tinyJpeg([app13(iimOnly(NO_BYTES, first))])));
    expect([fields.keywords, issues]).toEqual([['Düne'], []]);
    expect(readMetadata(memorySource(tinyJpeg([app13(iimOnly(NO_BYTES))]))).fields).toEqual({});
  });

  test('a keyword that stands twice in one block stays twice; what a later block repeats is said once', () => {
    const twice = iimOf(set(25, utf8Bytes('Kite')), set(25, utf8Bytes('Kite')));
    const { fields } = readMetadata(memorySource(tinyJpeg([app13(iimOnly(twice, twice))])));
    expect(fields.keywords).toEqual(['Kite', 'Kite']);
  });
});

test('without a declared character set each value is read by itself', () => {
  const mixed = iimOf(
    set(25, asciiBytes('Gr\xfcn')),
    set(25, utf8Bytes('Grün')),
    set(25, utf8Bytes('Öl')),
    set(120, asciiBytes('\xa9 Saltmarsh')),
  );
  const { fields } = readMetadata(memorySource(tinyJpeg([app13(iimOnly(mixed))])));
  expect(fields).toMatchObject({ keywords: ['Grün', 'Grün', 'Öl'], description: '© Saltmarsh' });
});

describe('resources', () => {
  const iim = iimOf(set(25, utf8Bytes('Kite')));
  const raw = (id: number, name: Uint8Array, size: number, data: Uint8Array) =>
    concatBytes([
      asciiBytes('8BIM'),
      Uint8Array.of(id >> 8, id & 0xff),
      name,
      Uint8Array.of(size >>> 24, (size >>> 16) & 0xff, (size >>> 8) & 0xff, size & 0xff),
      data,
    ]);
  const tail = serializeResources([resource(RESOURCE.iim, iim)]);
  const even = new Uint8Array(2);

  test.each<[string, Uint8Array]>([
    ['a name that is not padded', raw(1000, Uint8Array.of(2, 65, 66), 4, asciiBytes('data'))],
    ['data of odd length without padding', raw(1000, even, 3, asciiBytes('odd'))],
    ['padding where none belongs', concatBytes([raw(1000, even, 4, asciiBytes('data')), new Uint8Array(1)])],
    ['a length that goes beyond the end', raw(1000, even, 0x7fffffff, asciiBytes('data'))],
    ['a length that is too short', raw(1000, even, 2, asciiBytes('more than two bytes'))],
    ['bytes that are none of it', concatBytes([raw(1000, even, 4, asciiBytes('data')), asciiBytes('!?!')])],
  ])('%s still leads to the next one', (_what, before) => {
    const { resources } = parseResources(concatBytes([before, tail]));
    expect(resources.map(({ id }) => id)).toEqual([1000, RESOURCE.iim]);
    expect(resourceData(resources, RESOURCE.iim)).toEqual(iim);
    const file = tinyJpeg([app13(concatBytes([before, tail]))]);
    expect(readMetadata(memorySource(file)).fields.keywords).toEqual(['Kite']);
    // Written again, it is as it should be.
    const again = parseResources(
      concatBytes([serializeResources(resources), parseResources(concatBytes([before, tail])).rest]),
    );
    expect(resourceData(again.resources, RESOURCE.iim)).toEqual(iim);
  });

  test('whatever stands there, reading ends, and no byte of an unknown resource is lost', () => {
    const ids = fc.integer({ min: 0, max: 0xffff });
    const list = fc.array(fc.tuple(ids, fc.uint8Array({ maxLength: 40 })), { maxLength: 6 });
    fc.assert(
      fc.property(list, fc.uint8Array({ maxLength: 20 }), (entries, junk) => {
        const wanted = entries.map(([id, data]) => resource(id, data));
        const { resources } = parseResources(serializeResources(wanted));
        expect(resources.map(({ id, data }) => [id, [...data]])).toEqual(wanted.map(({ id, data }) => [id, [...data]]));
        parseResources(concatBytes([junk, serializeResources(wanted), junk]));
        parseResources(concatBytes([asciiBytes('8BIM'), junk, serializeResources(wanted)]));
      }),
    );
  });

  test('the digest of one of several blocks counts as that of all: it was written by whoever wrote last', () => {
    const other = iimOf(set(105, utf8Bytes('Headline')));
    const bytes = serializeResources([
      resource(RESOURCE.iim, iim),
      resource(RESOURCE.iim, other),
      resource(RESOURCE.iimDigest, md5(iim)),
    ]);
    expect(readMetadata(memorySource(tinyJpeg([app13(bytes)]))).fields).toMatchObject({ keywords: ['Kite'] });
    expect(parseIim(iim).datasets).toHaveLength(1);
  });
});

test('what other programs keep behind the picture survives a write, byte for byte', () => {
  const trailer = concatBytes([asciiBytes('PRIVATE\0'), Uint8Array.from({ length: 999 }, (_, i) => i & 0xff)]);
  const file = concatBytes([tinyJpeg([]), trailer]);
  for (const changes of [{ city: 'Saltmarsh' }, { description: 'Dunes. '.repeat(20_000) }]) {
    const made = written(file, changes);
    expect(made.subarray(made.length - trailer.length)).toEqual(trailer);
  }
});

test.each([
  ['2024-06-01T10:11:2.5+02:00', '2024-06-01T10:11:02.5+02:00'],
  ['2024-06-01T10:11:2+02:00', '2024-06-01T10:11:02+02:00'],
  ['2024-06-01T10:11:12.5Z', '2024-06-01T10:11:12.5Z'],
])('a time of XMP with one digit of a second and a zone is read: %s', (said, meant) => {
  const same = (text: string) =>
    readMetadata(
      memorySource(tinyJpeg([])),
      utf8Bytes(
        `<x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#"><rdf:Description rdf:about="" xmlns:photoshop="http://ns.adobe.com/photoshop/1.0/" photoshop:DateCreated="${text}"/></rdf:RDF></x:xmpmeta>`,
      ),
    ).fields.dateCreated;
  expect(dateTimeParts(String(same(said)))).toEqual(dateTimeParts(meant));
});
