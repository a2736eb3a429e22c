import fc from 'fast-check';
import { asciiBytes, concatBytes, memorySource, utf8Bytes } from './bytes';
import { missingProperties } from './containment';
import { EXIF_PREFIX } from './containers/jpeg';
import { openFile } from './open';
import { iimSegment, jpegSegment, tinyJpeg, tinyTiff, written, xmpSegment, xmpText } from './testing';
import type { FieldChanges } from './write';

const MAKE = 271;
const MODEL = 272;
const ascii = (tag: number, text: string) => ({ tag, type: 2, count: text.length + 1, data: asciiBytes(`${text}\0`) });
const exif = (entries: Parameters<typeof tinyTiff>[0][number], littleEndian = true) =>
  jpegSegment(0xe1, concatBytes([asciiBytes(EXIF_PREFIX), tinyTiff([entries], littleEndian)]));
const open = (bytes: Uint8Array) => openFile(memorySource(bytes));
const bare = open(tinyJpeg());
const described = (changes: FieldChanges) => open(written(tinyJpeg([exif([ascii(MAKE, 'Corvina')])]), changes));
const kite = (property: string) =>
  utf8Bytes(xmpText(`<rdf:Description xmlns:kite="http://kites.example/ns/" ${property}/>`));

test('a file says all of what it says itself, and of what one with less says', () => {
  const file = described({ description: 'Dunes', keywords: ['delta', 'Wüste'], creator: ['Ida Brandt'] });
  expect(missingProperties({ file }, { file })).toEqual([]);
  expect(missingProperties({ file: bare }, { file: described({ title: 'Dunes' }) })).toEqual([]);
});

test('what the other lacks or says otherwise is named, in XMP, IIM and EXIF', () => {
  const file = described({ description: 'Dunes', keywords: ['delta'], creator: ['Ida Brandt'] });
  const missing = missingProperties({ file }, { file: described({ description: 'Sea', keywords: ['delta'] }) });
  expect(missing).toEqual(
    expect.arrayContaining(['dc:description', 'dc:creator', 'IIM 2:80', 'IIM 2:120', 'EXIF Artist']),
  );
  expect(missing).not.toContain('dc:subject');
  expect(missingProperties({ file }, { file: bare })).toContain('EXIF Make');
});

test('EXIF counts by its values: another value, another byte order and a tag that is not there are missing', () => {
  const file = open(tinyJpeg([exif([ascii(MAKE, 'Corvina'), ascii(MODEL, 'R2')])]));
  const against = (...given: Parameters<typeof exif>) =>
    missingProperties({ file }, { file: open(tinyJpeg([exif(...given)])) });
  expect(against([ascii(MAKE, 'Corvina'), ascii(MODEL, 'R2'), ascii(315, 'Ida')])).toEqual([]);
  expect(against([ascii(MAKE, 'Corvina')])).toEqual(['EXIF Model']);
  expect(against([ascii(MAKE, 'Halden'), ascii(MODEL, 'R2')])).toEqual(['EXIF Make']);
  expect(against([ascii(MAKE, 'Corvina'), ascii(MODEL, 'R2')], false)).toEqual(['EXIF Make', 'EXIF Model']);
});

test('properties that nobody knows count too, wherever they stand, in the packet or the sidecar', () => {
  const own = { file: bare, sidecar: kite('kite:line="12 m"') };
  expect(missingProperties(own, { file: bare })).toEqual(['kite:line']);
  expect(missingProperties(own, { file: bare, sidecar: kite('kite:line="13 m"') })).toEqual(['kite:line']);
  expect(missingProperties(own, { file: bare, sidecar: kite('kite:line="12 m" kite:tail="red"') })).toEqual([]);
  const inside = open(tinyJpeg([xmpSegment('<rdf:Description xmlns:k="http://kites.example/ns/" k:line="12 m"/>')]));
  expect(missingProperties(own, { file: inside })).toEqual([]);
});

test('IIM alone counts, as text and not as bytes', () => {
  const file = open(tinyJpeg([iimSegment({ city: 'Saltmarsh' }).segment]));
  expect(missingProperties({ file }, { file: open(tinyJpeg([iimSegment({ city: 'Saltmarsh' }).segment])) })).toEqual(
    [],
  );
  expect(missingProperties({ file }, { file: bare })).toEqual(['IIM 2:90']);
});

test('what can’t be read counts as lacking', () => {
  expect(missingProperties({ file: bare, sidecar: utf8Bytes('<broken') }, { file: bare })).not.toEqual([]);
});

test('hostile bytes never throw; against itself a file lacks at most what can’t be read of it', () => {
  const sample = written(tinyJpeg([exif([ascii(MAKE, 'Corvina')])]), { description: 'Dunes', keywords: ['delta'] });
  fc.assert(
    fc.property(fc.nat(sample.length - 1), fc.integer({ min: 0, max: 255 }), (at, value) => {
      const bytes = Uint8Array.from(sample);
      bytes[at] = value;
      const file = open(bytes);
      const missing = missingProperties({ file }, { file });
      // Of EXIF single values may point out of the file.
      const others = missing.filter((name) => !name.startsWith('EXIF '));
      if (file.xmpProblem === undefined) expect(others).toEqual([]);
    }),
    { numRuns: 600 },
  );
});
