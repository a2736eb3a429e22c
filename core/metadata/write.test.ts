import exifr from 'exifr';
import ExifReader from 'exifreader';
import fc from 'fast-check';
import { asciiBytes, asciiText, concatBytes, memorySource, NO_BYTES, uint32, utf8Bytes, viewOf } from './bytes';
import {
  APP13_PREFIX,
  parseResources,
  RESOURCE,
  resourceData,
  serializeResources,
  setResource,
} from './blocks/resources';
import { codedRanges, readTiff } from './blocks/tiff';
import { EXIF_PREFIX, XMP_PREFIX } from './containers/jpeg';
import { FIELDS, type FieldId, type FieldValue, type FieldValues } from './fields';
import { listingOf } from './listing';
import { md5 } from '@noble/hashes/legacy.js';
import { openFile } from './open';
import { assemble, patchesOf, reversed, sizeOf } from './pieces';
import { readMetadata } from './read';
import {
  iimSegment,
  jpegSegment,
  long,
  NOW,
  PICTURE,
  pngChunk,
  riffChunk,
  short,
  tinyHeic,
  tinyFilm,
  tinyJpeg,
  tinyPng,
  tinyPsd,
  tinyTiff,
  tinyTiffPicture,
  tinyWav,
  tinyWebp,
  written,
  xmpSegment,
} from './testing';
import { textsOf } from './values';
import { pictureRanges, planSidecar, planWrite, wrongFields, type FieldChanges } from './write';

const read = (file: Uint8Array) => readMetadata(memorySource(file));
const pictureOf = (file: Uint8Array) =>
  concatBytes(pictureRanges(memorySource(file)).map(({ start, end }) => file.subarray(start, end)));

/** Compared as a whole: a diff of thousands of bytes tells nobody anything. */
const expectSame = (a: Uint8Array, b: Uint8Array) => expect(Buffer.compare(a, b)).toBe(0);

const SAMPLES: [string, Uint8Array][] = [
  ['JPEG', tinyJpeg([jpegSegment(0xe0, asciiBytes('JFIF\0xxxxxxxxx'))])],
  ['little-endian TIFF', tinyTiffPicture(true)],
  ['big-endian TIFF', tinyTiffPicture(false)],
  ['PNG', tinyPng()],
  ['WebP', tinyWebp()],
  ['PSD', tinyPsd()],
  ['WAV', tinyWav()],
  ['MP4', tinyFilm()],
];

const anyText = fc
  .string({ unit: 'grapheme', minLength: 1, maxLength: 40 })
  .map((value) => value.replace(/[\p{C}\s]+/gu, ' ').trim())
  .filter((value) => value !== '');
const date = fc.constantFrom(
  '1952',
  '1952-06',
  '1952-06-08',
  '2024-06-01T10:11',
  '2024-06-01T10:11:12',
  '2024-06-01T10:11:12.25',
  '2024-06-01T10:11:12+02:00',
  '2024-06-01T10:11:12+00:00',
);
const position = fc.record(
  {
    latitude: fc.integer({ min: -90e7, max: 90e7 }).map((value) => value / 1e7),
    longitude: fc.integer({ min: -180e7, max: 180e7 }).map((value) => value / 1e7),
    altitude: fc.integer({ min: -40000, max: 900000 }).map((value) => value / 100),
    direction: fc.integer({ min: 0, max: 35999 }).map((value) => value / 100),
  },
  { requiredKeys: ['latitude', 'longitude'] },
);
const code = fc.integer({ min: 10_000_000, max: 99_999_999 }).map(String);

/** A value for every field by its type. */
function valueOf(
  { type, list, members, id }: Pick<(typeof FIELDS)[number], 'type' | 'list' | 'members'> & { id: string },
  text = anyText,
): fc.Arbitrary<FieldValue> {
  const language = fc.oneof(text, fc.record({ 'x-default': text, de: text }));
  const kinds: Record<string, () => fc.Arbitrary<FieldValue>> = {
    text: () => (id === 'subjectCode' ? code : text),
    uri: () => text,
    langAlt: () => language,
    date: () => date,
    number: () => (id === 'urgency' ? fc.integer({ min: 1, max: 8 }) : fc.integer({ min: -1, max: 5 })),
    boolean: () => fc.boolean(),
    position: () => position,
    struct: () => {
      const flat =
        members?.()
          .filter((member) => member.type !== 'struct')
          .slice(0, 3) ?? [];
      const nested = members?.().filter((member) => member.type === 'struct' && member.members?.() !== members()) ?? [];
      return fc.record(Object.fromEntries([...flat, ...nested].map((member) => [member.id, valueOf(member, text)])));
    },
  };
  const one = kinds[type]?.() ?? text;
  return list ? fc.uniqueArray(one, { minLength: 1, maxLength: 4, selector: (item) => JSON.stringify(item) }) : one;
}

const anyFields: fc.Arbitrary<FieldValues> = fc.record(
  Object.fromEntries(FIELDS.map((field) => [field.id, valueOf(field)])) as Record<FieldId, fc.Arbitrary<FieldValue>>,
  { requiredKeys: [] },
);

describe.each(SAMPLES)('writing into a %s', (_name, file) => {
  test('any combination of fields is read back equal, and written again nothing changes', () => {
    fc.assert(
      fc.property(anyFields, (values) => {
        const once = written(file, values);
        const metadata = read(once);
        expect(metadata.fields).toEqual(values);
        expect(metadata.issues).toEqual([]);
        expect(metadata.disagreements).toEqual([]);
        expect(planWrite(memorySource(once), values, { now: 'later' }).nothing).toBe(true);
      }),
      { numRuns: 60 },
    );
  });

  test('fields are changed and removed one by one; the picture and all else stays; each step can be taken back exactly', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(anyFields, fc.boolean()), { minLength: 1, maxLength: 4 }), (steps) => {
        let now = file;
        let values: FieldValues = {};
        for (const [changes, removes] of steps) {
          const asked: FieldChanges = removes
            ? Object.fromEntries(Object.keys(changes).map((id) => [id, null]))
            : changes;
          const plan = planWrite(memorySource(now), asked, { now: NOW });
          const next = assemble(memorySource(now), plan.pieces);
          expect(next.length).toBe(sizeOf(plan.pieces));
          expectSame(assemble(memorySource(next), reversed(memorySource(now), plan.pieces)), now);
          expectSame(pictureOf(next), pictureOf(file));
          expect(wrongFields(read(now), read(next), asked)).toEqual([]);
          values = Object.fromEntries(
            Object.entries({ ...values, ...asked }).filter(([, value]) => value !== null),
          ) as FieldValues;
          now = next;
        }
        // A text given to several languages changes only its default.
        expect(Object.keys(read(now).fields).sort()).toEqual(Object.keys(values).sort());
      }),
      { numRuns: 30, endOnFailure: true },
    );
  });

  test('a second write stays in place', () => {
    const first = written(file, { keywords: ['Kite'], title: 'Dunes', dateCreated: '2024-06-01T10:11:12' });
    const plan = planWrite(memorySource(first), { keywords: ['Kite', 'Beach'], rating: 3 }, { now: NOW });
    const patches = patchesOf(memorySource(first), plan.pieces);
    expect(patches).toBeDefined();
    const patched = first.slice();
    for (const { offset, before, after } of patches ?? []) {
      expect(patched.subarray(offset, offset + before.length)).toEqual(before);
      patched.set(after, offset);
    }
    expectSame(patched, assemble(memorySource(first), plan.pieces));
    expect(read(patched).fields).toMatchObject({ keywords: ['Kite', 'Beach'], title: 'Dunes', rating: 3 });
  });

  test('cut off anywhere it is refused or written right, never anything else', () => {
    const whole = written(file, { keywords: ['Kite'], title: 'Dunes' });
    for (let end = 0; end < whole.length; end += 3) expectSafe(whole.subarray(0, end));
  });

  test('with bytes changed anywhere it is refused or written right, never anything else', () => {
    const whole = written(file, { keywords: ['Kite'], title: 'Dunes' });
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat(whole.length - 1), fc.nat(255)), { minLength: 1, maxLength: 6 }),
        (flips) => {
          const mutated = whole.slice();
          for (const [at, value] of flips) mutated[at] = value;
          expectSafe(mutated);
        },
      ),
      { numRuns: 150 },
    );
  });
});

/** What a caller does before a new file replaces the old one must catch everything. */
function expectSafe(file: Uint8Array): void {
  const changes = { keywords: ['x'], description: 'new', dateCreated: '2024-06-01T10:11:12' };
  let after: Uint8Array;
  try {
    after = written(file, changes);
  } catch (error) {
    expect(error).toBeInstanceOf(Error);
    expect(error).not.toBeInstanceOf(TypeError);
    return;
  }
  expectSame(pictureOf(after), pictureOf(file));
}

/** All texts in what another program made of a property, however it wraps structures and languages. */
function textsWithin(value: unknown): string[] {
  if (value === undefined || value === null) return [];
  if (Array.isArray(value)) return value.flatMap(textsWithin);
  if (value instanceof Date) return [value.toISOString()];
  if (typeof value !== 'object') return [String(value)];
  if ('value' in value) return textsWithin(value.value);
  return Object.entries(value).flatMap(([name, inner]) =>
    name === 'lang' || name === 'parseType' ? [] : textsWithin(inner),
  );
}

const sorted = (texts: string[]) => texts.map((text) => text.toLowerCase()).sort();

/** Every field but the position, which others know from EXIF; letters only, since some take texts of digits for numbers. */
const others = FIELDS.filter(({ type }) => type !== 'position');
const lettersOnly = (letters: fc.Arbitrary<string>) =>
  fc.record(
    Object.fromEntries(others.map((field) => [field.id, valueOf(field, letters)])) as Record<
      FieldId,
      fc.Arbitrary<FieldValue>
    >,
    { requiredKeys: [] },
  );
const letters = anyText.map((value) => `a${value}`);
// exifr gives the entities of XML as they are written, so it is asked without them.
const withoutEntities = letters.map((value) => value.replace(/[&<>"']/g, '-'));

describe('what other programs read', () => {
  test('every field in a JPEG: XMP by exifr, and position and orientation in EXIF', async () => {
    await fc.assert(
      fc.asyncProperty(lettersOnly(withoutEntities), position, async (values, position) => {
        const file = written(tinyJpeg(), { ...values, position });
        const tags = ((await exifr.parse(Buffer.from(file), {
          xmp: { parse: true, multiSegment: true },
          iptc: false,
          mergeOutput: false,
          tiff: true,
          gps: true,
          reviveValues: false,
          translateValues: false,
        })) ?? {}) as Record<string, Record<string, unknown>>;
        // Of properties in the namespace of EXIF's own tags it shows these, else the properties.
        for (const { id, xmp } of others.filter(({ xmp: { prefix } }) => prefix !== 'tiff'))
          expect([id, sorted(textsWithin(tags[xmp.prefix]?.[xmp.name]))]).toEqual([
            id,
            sorted(textsWithin(values[id])),
          ]);
        expect(tags['ifd0']?.['Orientation']).toBe(values.orientation);
        expect(tags['gps']?.['latitude']).toBeCloseTo(position.latitude, 6);
        expect(tags['gps']?.['longitude']).toBeCloseTo(position.longitude, 6);
      }),
      { numRuns: 60, endOnFailure: true },
    );
  });

  test.each([
    ['JPEG', tinyJpeg(), true],
    ['TIFF', tinyTiffPicture(), true],
    ['PNG', tinyPng(), false],
    ['WebP', tinyWebp(), false],
  ])('every field in a %s: XMP, and IIM where it has a place, by exifreader', (_name, sample, hasIim) => {
    fc.assert(
      fc.property(lettersOnly(letters), (values) => {
        const tags = ExifReader.load(Buffer.from(written(sample, values)), { expanded: true });
        for (const { id, xmp } of others)
          expect([id, sorted(textsWithin(tags.xmp?.[xmp.name]))]).toEqual([id, sorted(textsWithin(values[id]))]);
        if (!hasIim) return;
        const iptc = (tags.iptc ?? {}) as Record<
          string,
          { description: string } | { description: string }[] | undefined
        >;
        for (const { id, iim, list } of others) {
          const name = iim && IIM_NAMES[id];
          const texts = textsOf(values[id]);
          if (!name || texts.some((text) => utf8Bytes(text).length > iim.maxBytes)) continue;
          const seen = [iptc[name]].flat().flatMap((tag) => (tag ? [tag.description] : []));
          expect([id, seen]).toEqual([id, list ? texts : texts.slice(0, 1)]);
        }
      }),
      { numRuns: 50, endOnFailure: true },
    );
  });
});

/** What exifreader calls the datasets of text. */
const IIM_NAMES: Partial<Record<FieldId, string>> = {
  title: 'Object Name',
  headline: 'Headline',
  description: 'Caption/Abstract',
  descriptionWriter: 'Writer/Editor',
  keywords: 'Keywords',
  creator: 'By-line',
  creatorJobTitle: 'By-line Title',
  creditLine: 'Credit',
  source: 'Source',
  copyrightNotice: 'Copyright Notice',
  instructions: 'Special Instructions',
  jobId: 'Original Transmission Reference',
  sublocation: 'Sub-location',
  city: 'City',
  provinceState: 'Province/State',
  country: 'Country/Primary Location Name',
  countryCode: 'Country/Primary Location Code',
};

describe('JPEG', () => {
  test('properties, image resources, segments and trailing bytes that are not understood survive', () => {
    const other = setResource([], 0x03ed, asciiBytes('resolution'));
    const file = tinyJpeg([
      xmpSegment(
        '<rdf:Description rdf:about="" xmlns:own="http://example.org/own/" own:Count="7"><own:List><rdf:Seq><rdf:li own:q="1">a &amp; b</rdf:li></rdf:Seq></own:List><!-- said --></rdf:Description>',
      ),
      jpegSegment(0xed, concatBytes([asciiBytes(APP13_PREFIX), serializeResources(other)])),
      jpegSegment(0xed, asciiBytes('Another program')),
      jpegSegment(0xe2, asciiBytes('ICC_PROFILE\0 kept')),
      jpegSegment(0xfe, asciiBytes('a comment')),
    ]);
    const after = asciiText(written(file, { keywords: ['Sled'] }));
    for (const kept of [
      'own:Count="7"',
      'own:q="1"',
      'a &amp; b',
      '<!-- said -->',
      'resolution',
      'Another program',
      'ICC_PROFILE\0 kept',
      'a comment',
      'trailing bytes',
    ])
      expect(after).toContain(kept);
  });

  test('a maker note and a thumbnail stay where they are', () => {
    const thumbnail = asciiBytes('a small picture!');
    const note = asciiBytes('what the maker notes');
    const block = tinyTiff([
      [
        { tag: 271, type: 2, count: 6, data: asciiBytes('Marsh\0') },
        { tag: 34665, type: 4, count: 1, ifds: [[{ tag: 37500, type: 7, count: note.length, data: note }]] },
      ],
      [
        { tag: 259, type: 3, count: 1, data: short(6) },
        { tag: 513, type: 4, count: 1, data: long(8) },
        { tag: 514, type: 4, count: 1, data: long(thumbnail.length) },
      ],
    ]);
    const file = tinyJpeg([jpegSegment(0xe1, concatBytes([asciiBytes(EXIF_PREFIX), block]))]);
    const noteAt = asciiText(block).indexOf('what the maker');
    const after = written(file, {
      description: 'A long description that needs more room than there was',
      creator: ['Ida'],
      position: { latitude: 1, longitude: 2 },
      dateCreated: '2024-06-01T10:11:12',
    });
    const exif = after.subarray(asciiText(after).indexOf(EXIF_PREFIX) + EXIF_PREFIX.length);
    expect(asciiText(exif).indexOf('what the maker')).toBe(noteAt);
    const tiff = readTiff(memorySource(exif));
    expect(tiff.pages).toHaveLength(2);
    expect(codedRanges(tiff)).toEqual([{ start: 8, end: 8 + thumbnail.length }]);
    expect(read(after).facts).toMatchObject({ make: 'Marsh', takenAt: '2024-06-01T10:11:12', latitude: 1 });
  });

  test('EXIF grows no further when the same field is written again and again', () => {
    let file = written(tinyJpeg(), { description: 'x'.repeat(100) });
    const size = file.length;
    for (let i = 0; i < 50; i++) file = written(file, { description: 'y'.repeat(60 + (i % 40)) });
    expect(file.length).toBe(size);
  });

  test('a date that is not known to the second leaves EXIF, which cannot say it', () => {
    const file = written(tinyJpeg(), { dateCreated: '2024-06-01T10:11:12+02:00' });
    expect(listingOf(openFile(memorySource(file))).blocks.exif).toMatchObject({
      DateTimeOriginal: '2024:06:01 10:11:12',
      OffsetTimeOriginal: '+02:00',
    });
    const { fields, facts, blocks } = read(written(file, { dateCreated: '1952' }));
    expect(fields.dateCreated).toBe('1952');
    expect(facts.takenAt).toBeUndefined();
    expect(blocks.iim?.dateCreated).toBe('1952');
  });

  test('what only IIM said is carried into XMP, since XMP is what others read first from now on', () => {
    const file = tinyJpeg([iimSegment({ description: 'From the old days', city: 'Saltmarsh' }).segment]);
    const { blocks } = read(written(file, { keywords: ['Kite'] }));
    expect(blocks.xmp).toMatchObject({ description: 'From the old days', city: 'Saltmarsh', keywords: ['Kite'] });
  });

  test('what IIM said later than XMP is carried into XMP, and the digest renewed', () => {
    const xmp = xmpSegment('<rdf:Description xmlns:p="http://ns.adobe.com/photoshop/1.0/" p:City="Old"/>');
    const file = written(tinyJpeg([xmp, iimSegment({ city: 'New' }, md5(NO_BYTES)).segment]), { rating: 2 });
    const metadata = read(file);
    expect(metadata).toMatchObject({
      fields: { city: 'New', rating: 2 },
      disagreements: [],
      blocks: { xmp: { city: 'New' }, iim: { city: 'New' } },
    });
    const app13 = file.subarray(asciiText(file).indexOf(APP13_PREFIX) + APP13_PREFIX.length);
    const { resources } = parseResources(app13);
    expect(resourceData(resources, RESOURCE.iimDigest)).toEqual(md5(resourceData(resources, RESOURCE.iim) ?? NO_BYTES));
  });

  test('a keyword over 64 bytes is cut in IIM at a character boundary, whole in XMP, and reported', () => {
    const long = 'ä'.repeat(40);
    const plan = planWrite(memorySource(tinyJpeg()), { keywords: [long] }, { now: NOW });
    expect(plan.cuts).toEqual([{ field: 'keywords', text: long, maxBytes: 64 }]);
    const { blocks, fields } = read(assemble(memorySource(tinyJpeg()), plan.pieces));
    expect(blocks.iim?.keywords).toEqual(['ä'.repeat(32)]);
    expect(fields.keywords).toEqual([long]);
  });

  test('IIM is not made where a setting says so, and kept up where it is', () => {
    expect(read(written(tinyJpeg(), { city: 'x' }, { iim: 'where present' })).blocks.iim).toBeUndefined();
    const file = tinyJpeg([iimSegment({ city: 'Saltmarsh' }).segment]);
    expect(read(written(file, { city: 'x' }, { iim: 'where present' })).blocks.iim).toEqual({ city: 'x' });
  });

  test('a description too large for a segment goes into Extended XMP, and comes back when it is small again', () => {
    const description = Array.from({ length: 12_000 }, (_, i) => `Dunes ${i}`).join(' ');
    const large = written(tinyJpeg(), { description, city: 'Saltmarsh', keywords: ['Kite'] });
    expect(asciiText(large).match(/http:\/\/ns\.adobe\.com\/xmp\/extension\/\0/g)?.length).toBeGreaterThan(1);
    expect(read(large)).toMatchObject({ fields: { description, city: 'Saltmarsh', keywords: ['Kite'] }, issues: [] });
    const changed = written(large, { keywords: ['Kite', 'Beach'] });
    expect(read(changed).fields).toMatchObject({ description, keywords: ['Kite', 'Beach'] });
    const small = written(changed, { description: 'Dunes' });
    expect(asciiText(small)).not.toContain('xmp/extension');
    expect(asciiText(small)).not.toContain('HasExtendedXMP');
    expect(read(small).fields).toMatchObject({ description: 'Dunes', city: 'Saltmarsh' });
  });

  test('Extended XMP of which a part is missing is named, and the file left as it is', () => {
    const description = 'x'.repeat(150_000);
    const large = written(tinyJpeg(), { description, city: 'Saltmarsh' });
    const broken = large.slice();
    const at = asciiText(large).lastIndexOf('http://ns.adobe.com/xmp/extension/');
    broken[at] = 0x58;
    const { issues, fields } = read(broken);
    expect(issues.join()).toContain('Extended XMP');
    expect(fields.city).toBe('Saltmarsh');
    expect(() => written(broken, { city: 'x' })).toThrow('left as it is');
  });

  test('further pictures behind the first are found where they are after any write', () => {
    const second = concatBytes([
      Uint8Array.of(0xff, 0xd8),
      asciiBytes('the second picture'),
      Uint8Array.of(0xff, 0xd9),
    ]);
    const build = (before: boolean) => {
      const entries = (offset: number, size: number) =>
        concatBytes([
          uint32(0),
          uint32(size),
          uint32(0),
          uint32(0),
          uint32(0),
          uint32(second.length),
          uint32(offset),
          uint32(0),
        ]);
      const index = (offset: number, size: number) =>
        concatBytes([
          asciiBytes('MPF\0'),
          tinyTiff([[{ tag: 0xb002, type: 7, count: 32, data: entries(offset, size) }]], false),
        ]);
      const xmp = xmpSegment('<rdf:Description/>');
      const file = (offset: number, size: number) => {
        const mpf = jpegSegment(0xe2, index(offset, size));
        return tinyJpeg(before ? [mpf, xmp] : [xmp, mpf], second);
      };
      const size = file(0, 0).length - second.length;
      const base = asciiText(file(0, 0)).indexOf('MPF\0') + 4;
      return file(size - base, size);
    };
    const secondOf = (file: Uint8Array) => {
      const base = asciiText(file).indexOf('MPF\0') + 4;
      const tiff = readTiff(memorySource(file.subarray(base)));
      const entry = tiff.pages[0]?.entries.get(0xb002);
      const view = viewOf(file.subarray(base + (entry?.dataAt ?? 0)));
      expect(view.getUint32(4)).toBe(file.length - second.length);
      return file.subarray(base + view.getUint32(24));
    };
    for (const before of [true, false]) {
      const file = build(before);
      expect(secondOf(file)).toEqual(second);
      const once = written(file, { description: 'x'.repeat(3000), keywords: ['Kite'] });
      expect(secondOf(once)).toEqual(second);
      expect(secondOf(written(once, { keywords: ['Kite', 'Beach'], title: 'T' }))).toEqual(second);
    }
  });

  test('a packet that can’t be read is never replaced', () => {
    const file = tinyJpeg([jpegSegment(0xe1, concatBytes([asciiBytes(XMP_PREFIX), utf8Bytes('<rdf:RDF><broken')]))]);
    expect(() => written(file, { keywords: ['x'] })).toThrow('left as it is');
  });
});

describe('TIFF', () => {
  test.each([true, false])(
    'all pages, sub-directories, the maker note and their coded data stay (little-endian: %s)',
    (le) => {
      const file = tinyTiffPicture(le);
      const after = written(file, {
        description: 'A description',
        keywords: ['Kite'],
        dateCreated: '2024-06-01T10:11:12',
        position: { latitude: 1, longitude: 2 },
      });
      const [was, now] = [readTiff(memorySource(file)), readTiff(memorySource(after))];
      expect(now.pages).toHaveLength(2);
      expect(now.subIfds.map(({ offset }) => offset)).toEqual(was.subIfds.map(({ offset }) => offset));
      expect(codedRanges(now).map(({ start, end }) => after.subarray(start, end))).toEqual([PICTURE, PICTURE, PICTURE]);
      const { blocks } = listingOf(openFile(memorySource(after)));
      expect(blocks.exif).toMatchObject({
        Software: 'Kite desk',
        MakerNote: Buffer.from('kept as it is').toString('hex'),
        ImageDescription: 'A description',
        DateTimeOriginal: '2024:06:01 10:11:12',
      });
    },
  );

  test('IIM typed as numbers of four bytes stays typed so, in its order, with a digest beside it', () => {
    const { iim } = iimSegment({ city: 'Saltmarsh' });
    const padded = concatBytes([iim, new Uint8Array((4 - (iim.length % 4)) % 4)]);
    const data = new Uint8Array(Buffer.from(padded).swap32());
    const file = tinyTiff([
      [
        { tag: 256, type: 3, count: 1, data: short(16) },
        { tag: 257, type: 3, count: 1, data: short(8) },
        { tag: 33723, type: 4, count: data.length / 4, data },
      ],
    ]);
    const after = written(file, { city: 'Westmarsh' });
    const tiff = readTiff(memorySource(after));
    expect(tiff.pages[0]?.entries.get(33723)?.type).toBe(4);
    const opened = openFile(memorySource(after));
    expect(opened.iim?.fields.city).toBe('Westmarsh');
    expect(opened.digest()).toBe('equal');
  });

  test('parts that lie on top of each other are never overwritten', () => {
    const file = tinyTiff([
      [
        { tag: 270, type: 2, count: 20, data: asciiBytes('twenty letters long\0') },
        { tag: 305, type: 2, count: 20, data: asciiBytes('twenty letters long\0') },
      ],
    ]);
    const tiff = readTiff(memorySource(file));
    const [first, second] = tiff.pages[0]?.list ?? [];
    viewOf(file).setUint32((second?.at ?? 0) + 8, first?.dataAt ?? 0, true);
    const after = written(file, { description: 'other' });
    expect(listingOf(openFile(memorySource(after))).blocks.exif).toMatchObject({
      ImageDescription: 'other',
      Software: 'twenty letters long',
    });
  });
});

test('PNG: chunks that are not understood stay in order, checksums are right, compressed XMP becomes plain', () => {
  const file = tinyPng([pngChunk('tEXt', asciiBytes('Author\0Ida')), pngChunk('vpAg', asciiBytes('private'))]);
  const after = written(file, { keywords: ['Kite'] });
  expect(asciiText(after)).toMatch(/IHDR[^]*iTXt[^]*Author\0Ida[^]*vpAg[^]*IDAT[^]*IEND[^]*trailing bytes$/);
  expect(ExifReader.load(Buffer.from(after), { expanded: true }).pngText?.['Author']?.description).toBe('Ida');
});

test('WebP: the extended header is made, and kept with its flags', () => {
  const once = written(tinyWebp(), { dateCreated: '2024-06-01T10:11:12' });
  const headerAt = asciiText(once).indexOf('VP8X');
  expect(once[headerAt + 8]).toBe(0x04 | 0x08);
  expect(Array.from(once.subarray(headerAt + 12, headerAt + 18))).toEqual([15, 0, 0, 7, 0, 0]);
  expect(viewOf(once).getUint32(4, true) + 8).toBe(once.length - 'trailing bytes'.length);
  const animated = concatBytes([Uint8Array.of(0x02 | 0x20, 0, 0, 0), Uint8Array.of(15, 0, 0, 7, 0, 0)]);
  const content = concatBytes([
    asciiBytes('WEBP'),
    riffChunk('VP8X', animated),
    riffChunk('ICCP', asciiBytes('profile')),
    riffChunk('ANIM', PICTURE),
  ]);
  const after = written(riffChunk('RIFF', content), { city: 'x' });
  expect(after[asciiText(after).indexOf('VP8X') + 8]).toBe(0x02 | 0x20 | 0x04);
  expect(asciiText(after)).toMatch(/VP8X[^]*ICCP[^]*ANIM[^]*XMP /);
});

test('PSD: other image resources, layers and the picture stay', () => {
  const after = written(tinyPsd(), { title: 'T', description: 'D', dateCreated: '2024-06-01T10:11:12' });
  expect(asciiText(after)).toContain('resolution');
  expect(read(after)).toMatchObject({
    kind: 'psd',
    width: 16,
    height: 8,
    blocks: { xmp: { title: 'T' }, iim: { title: 'T' }, exif: { description: 'D' } },
  });
});

describe('sidecars', () => {
  test('what stood in one stays, and nothing changes when it says it all already', () => {
    const old = utf8Bytes(
      '<x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#"><rdf:Description rdf:about="" xmlns:own="http://example.org/own/" own:Kept="yes"/></rdf:RDF></x:xmpmeta>',
    );
    const made = planSidecar(old, { keywords: ['Kite'] }, { now: NOW });
    expect(asciiText(made)).toContain('own:Kept="yes"');
    expect(planSidecar(made, { keywords: ['Kite'] }, { now: 'later' })).toBe(made);
    expect(() => planSidecar(utf8Bytes('<broken'), { keywords: ['x'] }, { now: NOW })).toThrow();
  });

  test('files of other kinds are never written to', () => {
    expect(() => written(tinyHeic(tinyTiff([[]]), utf8Bytes('')), { city: 'x' })).toThrow('sidecar');
  });
});
