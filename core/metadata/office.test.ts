import fc from 'fast-check';
import { strToU8, zipSync, type Zippable } from 'fflate';
import { memorySource } from './bytes';
import { kindByName, kindOfBytes } from './containers';
import { officeOf, officePicture } from './office';
import { readMetadata } from './read';

const PICTURE = Uint8Array.of(0x89, 0x50, 0x4e, 0x47, 1, 2, 3);
const OFFICE = 'xmlns:office="o" xmlns:text="t" xmlns:meta="m" xmlns:dc="d"';
const letter = (others: Zippable = {}) =>
  zipSync({
    mimetype: [strToU8('application/vnd.oasis.opendocument.text'), { level: 0 }],
    'meta.xml': strToU8(
      `<office:document-meta ${OFFICE}><office:meta><dc:title>Line laundry</dc:title><meta:initial-creator>Ida Brandt</meta:initial-creator>
       <meta:creation-date>2011-05-02T09:30:00.12</meta:creation-date><meta:keyword>kites</meta:keyword><meta:keyword>loans</meta:keyword>
       <meta:generator>Writer 7</meta:generator><meta:document-statistic meta:page-count="3"/></office:meta></office:document-meta>`,
    ),
    'content.xml': strToU8(
      `<office:document ${OFFICE}><text:h>Loan of six kites</text:h><text:p>To the <text:span>harbour</text:span> master</text:p></office:document>`,
    ),
    'Thumbnails/thumbnail.png': PICTURE,
    ...others,
  });
const slides = zipSync({
  '[Content_Types].xml': strToU8('<Types/>'),
  'docProps/core.xml': strToU8(
    '<c:coreProperties xmlns:c="c" xmlns:dc="d" xmlns:dcterms="t"><dc:title>Festival</dc:title><dc:creator>Per Oskarsen</dc:creator><c:keywords>wind; sea</c:keywords><dcterms:created>2018-03-01T10:00:00Z</dcterms:created></c:coreProperties>',
  ),
  'docProps/app.xml': strToU8('<Properties><Slides>2</Slides><Application>Slides 4</Application></Properties>'),
  'ppt/slides/slide1.xml': strToU8(
    '<p:sld xmlns:p="p" xmlns:a="a"><a:p><a:t>Night of lights</a:t></a:p><a:note>no word</a:note></p:sld>',
  ),
  'ppt/slides/slide2.xml': strToU8('<p:sld xmlns:p="p" xmlns:a="a"><a:p><a:t>From</a:t><a:t> dusk</a:t></a:p></p:sld>'),
});

test('OpenDocument: what it says of itself, its words, and its picture', () => {
  const source = memorySource(letter());
  expect([kindOfBytes(source), kindByName('letter.odt')]).toEqual(['odf', 'odf']);
  expect(officeOf(source, 'odf')).toEqual({
    facts: {
      pages: 3,
      text: 'Loan of six kites To the harbour master',
      software: 'Writer 7',
      takenAt: '2011-05-02T09:30:00',
    },
    fields: { title: 'Line laundry', creator: ['Ida Brandt'], keywords: ['kites', 'loans'] },
  });
  expect(officePicture(source, 'odf')).toEqual(PICTURE);
});

test('Office Open XML: the words of its slides, and of nothing else', () => {
  const source = memorySource(slides);
  expect([kindOfBytes(source), kindByName('talk.pptx')]).toEqual(['ooxml', 'ooxml']);
  expect(officeOf(source, 'ooxml')).toMatchObject({
    facts: { pages: 2, text: 'Night of lights From dusk', takenAt: '2018-03-01T10:00:00' },
    fields: { title: 'Festival', creator: ['Per Oskarsen'], keywords: ['wind', 'sea'] },
  });
  expect(officePicture(source, 'ooxml')).toBeUndefined();
});

test('any other ZIP file is no document, and one that breaks off says so', () => {
  const other = memorySource(zipSync({ 'kite.txt': strToU8('kite') }));
  expect(readMetadata(other)).toMatchObject({ damaged: true, issues: ['the ZIP file is no office document'] });
  const whole = letter();
  const broken = readMetadata(memorySource(whole.subarray(0, whole.length - 40)));
  expect(broken.damaged).toBe(true);
  expect(broken.issues.join()).toContain('breaks off');
});

test('parts that would become huge are refused before they do', () => {
  const bomb = new Uint8Array(40_000_000);
  const large = memorySource(letter({ 'content.xml': bomb, 'Thumbnails/thumbnail.png': bomb }));
  expect(officeOf(large, 'odf')).toMatchObject({
    damaged: true,
    problem: expect.stringContaining('larger than') as string,
  });
  expect(() => officePicture(large, 'odf')).toThrow('larger than');
  // One that says it is small.
  const lying = letter({ 'content.xml': bomb });
  const view = new DataView(lying.buffer, lying.byteOffset);
  for (let at = 0; at + 46 < lying.length; at++)
    if (view.getUint32(at, true) === 0x02014b50 && view.getUint32(at + 24, true) === bomb.length)
      view.setUint32(at + 24, 5, true);
  expect(officeOf(memorySource(lying), 'odf')).toMatchObject({
    problem: expect.stringContaining('becomes larger') as string,
  });
  const entities = letter({ 'meta.xml': strToU8('<!DOCTYPE x [<!ENTITY a "aaaa">]><x>&a;</x>') });
  expect(officeOf(memorySource(entities), 'odf')).toMatchObject({ damaged: true });
});

test('cut off or filled with anything, it is read without a word too many', () => {
  const whole = letter();
  fc.assert(
    fc.property(fc.nat(whole.length), fc.nat(whole.length - 1), fc.nat(255), (length, at, byte) => {
      const file = whole.slice(0, length);
      if (at < length) file[at] = byte;
      const source = memorySource(file);
      readMetadata(source);
      officeOf(source, 'odf');
    }),
    { numRuns: 500 },
  );
});
