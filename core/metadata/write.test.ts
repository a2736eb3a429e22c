import { deflateSync } from 'node:zlib';
import fc from 'fast-check';
import { asciiBytes, asciiText, concatBytes, memorySource, utf8Bytes } from './bytes';
import { parseIim, serializeIim, setIimFields } from './blocks/iim';
import { APP13_PREFIX, RESOURCE, serializeResources, setResource } from './blocks/resources';
import { parseXmp } from './blocks/xmp';
import { XMP_PREFIX } from './containers/jpeg';
import { inflate } from './inflate';
import { md5 } from './md5';
import { readMetadata } from './read';
import { jpegSegment, tinyJpeg } from './testing';
import { jpegPictureRanges, planJpegWrite, planSidecarWrite, type FieldChanges } from './write';

async function written(file: Uint8Array, changes: FieldChanges): Promise<Uint8Array> {
  const plan = await planJpegWrite(memorySource(file), changes);
  return concatBytes([plan.head, file.subarray(plan.tailStart)]);
}

async function pictureOf(file: Uint8Array): Promise<Uint8Array> {
  const ranges = await jpegPictureRanges(memorySource(file));
  return concatBytes(ranges.map(({ start, end }) => file.subarray(start, end)));
}

const read = (file: Uint8Array) => readMetadata(memorySource(file));

const iimBlock = (keywords: string[], digest?: Uint8Array) => {
  const iim = serializeIim(setIimFields([], [['keywords', keywords]]).datasets);
  const resources = setResource([], RESOURCE.iim, iim);
  const all = digest ? setResource(resources, RESOURCE.iimDigest, digest) : resources;
  return { iim, segment: jpegSegment(0xed, concatBytes([asciiBytes(APP13_PREFIX), serializeResources(all)])) };
};

const xmpSegment = (body: string) =>
  jpegSegment(
    0xe1,
    concatBytes([
      asciiBytes(XMP_PREFIX),
      utf8Bytes(
        `<x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#">${body}</rdf:RDF></x:xmpmeta>`,
      ),
    ]),
  );

const text = fc
  .string({ unit: 'grapheme', minLength: 1, maxLength: 60 })
  .map((value) => value.replace(/[\p{C}\s]+/gu, ' ').trim())
  .filter((value) => value !== '');

describe('writing into a JPEG', () => {
  test('keywords stand in XMP and IIM, and any text is read back as it was written', async () => {
    await fc.assert(
      fc.asyncProperty(fc.uniqueArray(text, { maxLength: 12 }), text, async (keywords, description) => {
        const file = await written(tinyJpeg(), { keywords, description });
        const { blocks, fields, disagreements, issues } = await read(file);
        expect(fields.keywords ?? []).toEqual(keywords);
        expect(fields.description).toBe(description);
        expect(blocks.xmp?.keywords ?? []).toEqual(keywords);
        expect(issues).toEqual([]);
        // What fits into IIM says the same there.
        if (keywords.every((keyword) => utf8Bytes(keyword).length <= 64)) expect(disagreements).toEqual([]);
      }),
      { numRuns: 150 },
    );
  });

  test('the coded picture and trailing bytes are the same bytes', async () => {
    const file = tinyJpeg([
      jpegSegment(0xe0, asciiBytes('JFIF\0xxxxxxxxx')),
      jpegSegment(0xfe, asciiBytes('a comment')),
    ]);
    const after = await written(file, { keywords: ['Rokkaku'] });
    expect(await pictureOf(after)).toEqual(await pictureOf(file));
    expect(asciiText(after)).toContain('trailing bytes');
    expect(asciiText(after)).toContain('a comment');
  });

  test('writing the same again changes nothing, byte for byte', async () => {
    const once = await written(tinyJpeg(), { keywords: ['Delta', 'Beach'], rating: 3 });
    expect(await written(once, { keywords: ['Delta', 'Beach'], rating: 3 })).toEqual(once);
  });

  test('properties and image resources that are not understood survive', async () => {
    const other = setResource([], 0x03ed, asciiBytes('resolution'));
    const file = tinyJpeg([
      xmpSegment(
        '<rdf:Description rdf:about="" xmlns:own="http://example.org/own/" own:Count="7"><own:List><rdf:Seq><rdf:li own:q="1">a &amp; b</rdf:li></rdf:Seq></own:List></rdf:Description>',
      ),
      jpegSegment(0xed, concatBytes([asciiBytes(APP13_PREFIX), serializeResources(other)])),
      jpegSegment(0xe2, asciiBytes('ICC_PROFILE\0 kept')),
    ]);
    const after = asciiText(await written(file, { keywords: ['Sled'] }));
    for (const kept of ['own:Count="7"', 'own:q="1"', 'a &amp; b', 'resolution', 'ICC_PROFILE\0 kept'])
      expect(after).toContain(kept);
  });

  test('other languages of a language alternative stay', async () => {
    const file = tinyJpeg([
      xmpSegment(
        '<rdf:Description rdf:about="" xmlns:dc="http://purl.org/dc/elements/1.1/"><dc:description><rdf:Alt><rdf:li xml:lang="x-default">old</rdf:li><rdf:li xml:lang="de">Drachen</rdf:li></rdf:Alt></dc:description></rdf:Description>',
      ),
    ]);
    const after = await written(file, { description: 'new' });
    expect((await read(after)).fields.description).toBe('new');
    expect(asciiText(after)).toContain('Drachen');
  });

  test('what only IIM said is carried into XMP, since XMP is what others read first from now on', async () => {
    const { datasets } = setIimFields(
      [],
      [
        ['description', 'From the old days'],
        ['city', 'Saltmarsh'],
      ],
    );
    const resources = setResource([], RESOURCE.iim, serializeIim(datasets));
    const file = tinyJpeg([jpegSegment(0xed, concatBytes([asciiBytes(APP13_PREFIX), serializeResources(resources)]))]);
    const { blocks } = await read(await written(file, { keywords: ['Kite'] }));
    expect(blocks.xmp).toMatchObject({ description: 'From the old days', city: 'Saltmarsh', keywords: ['Kite'] });
  });

  test('a keyword over 64 bytes is cut in IIM at a character boundary, whole in XMP, and reported', async () => {
    const long = `${'ä'.repeat(40)}`;
    const plan = await planJpegWrite(memorySource(tinyJpeg()), { keywords: [long] });
    expect(plan.cuts).toEqual([{ field: 'keywords', text: long, maxBytes: 64 }]);
    const { blocks, fields } = await read(concatBytes([plan.head, tinyJpeg().subarray(plan.tailStart)]));
    expect(blocks.iim?.keywords).toEqual(['ä'.repeat(32)]);
    expect(fields.keywords).toEqual([long]);
  });

  test('prefixes are bound once, beside the description: one that is bound otherwise is not taken over', async () => {
    const file = tinyJpeg([
      xmpSegment('<rdf:Description rdf:about="" xmlns:dc="http://example.org/not-dublin-core/" dc:kept="1"/>'),
    ]);
    const after = await written(file, { keywords: ['Kite'], creator: ['Ida'] });
    expect((await read(after)).fields).toMatchObject({ keywords: ['Kite'], creator: ['Ida'] });
    expect(asciiText(after)).toContain('dc:kept="1"');
    expect(asciiText(after).match(/xmlns:dc2="http:\/\/purl\.org\/dc\/elements\/1\.1\/"/g)).toHaveLength(1);
    expect(asciiText(after).match(/xmlns:rdf=/g)).toHaveLength(1);
  });

  test('a packet that can’t be read is never replaced', async () => {
    const file = tinyJpeg([jpegSegment(0xe1, concatBytes([asciiBytes(XMP_PREFIX), utf8Bytes('<rdf:RDF><broken')]))]);
    await expect(planJpegWrite(memorySource(file), { keywords: ['x'] })).rejects.toThrow('left as it is');
  });

  test('a mutated file gives an error or a file whose picture is the same, never anything else', async () => {
    const base = await written(tinyJpeg([jpegSegment(0xe0, asciiBytes('JFIF\0xxxxxxxxx'))]), {
      keywords: ['Parafoil', 'Dunes'],
      title: 'T',
    });
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.tuple(fc.nat(base.length - 1), fc.nat(255)), { maxLength: 6 }),
        fc.nat(base.length),
        async (flips, cut) => {
          const file = base.slice(0, cut % 3 === 0 ? cut : base.length);
          for (const [at, value] of flips) if (at < file.length) file[at] = value;
          await read(file);
          const plan = await planJpegWrite(memorySource(file), { keywords: ['x'] }).catch(() => undefined);
          if (!plan) return;
          const after = concatBytes([plan.head, file.subarray(plan.tailStart)]);
          expect(await pictureOf(after)).toEqual(await pictureOf(file));
          expect((await read(after)).fields.keywords).toEqual(['x']);
        },
      ),
      { numRuns: 400 },
    );
  });
});

describe('which block wins', () => {
  const xmpBeach = xmpSegment(
    '<rdf:Description rdf:about="" xmlns:dc="http://purl.org/dc/elements/1.1/"><dc:subject><rdf:Bag><rdf:li>from XMP</rdf:li></rdf:Bag></dc:subject></rdf:Description>',
  );

  test('XMP, where the digest says that IIM is as it was', async () => {
    const { iim } = iimBlock(['from IIM']);
    const { segment } = iimBlock(['from IIM'], md5(iim));
    const { fields, disagreements } = await read(tinyJpeg([xmpBeach, segment]));
    expect(fields.keywords).toEqual(['from XMP']);
    expect(disagreements).toEqual(['keywords']);
  });

  test('IIM, where the digest says that it was changed since', async () => {
    const { segment } = iimBlock(['from IIM'], md5(Uint8Array.of(1)));
    expect((await read(tinyJpeg([xmpBeach, segment]))).fields.keywords).toEqual(['from IIM']);
  });

  test('XMP, where there is no digest', async () => {
    expect((await read(tinyJpeg([xmpBeach, iimBlock(['from IIM']).segment]))).fields.keywords).toEqual(['from XMP']);
  });

  test('a sidecar before all', async () => {
    const sidecar = planSidecarWrite(undefined, { keywords: ['from the sidecar'] });
    expect((await readMetadata(memorySource(tinyJpeg([xmpBeach])), sidecar)).fields.keywords).toEqual([
      'from the sidecar',
    ]);
  });
});

describe('hostile files', () => {
  test('an entity bomb is refused and named', async () => {
    const bomb =
      '<!DOCTYPE r [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;">]><rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#">&b;</rdf:RDF>';
    expect(() => parseXmp(utf8Bytes(bomb))).toThrow();
    const { issues } = await read(
      tinyJpeg([jpegSegment(0xe1, concatBytes([asciiBytes(XMP_PREFIX), utf8Bytes(bomb)]))]),
    );
    expect(issues.join()).toContain('the XMP could not be read');
  });

  test('any bytes are read without an exception', async () => {
    const starts = [
      [0xff, 0xd8, 0xff, 0xe1],
      [0x49, 0x49, 42, 0],
      [0x4d, 0x4d, 0, 42],
      [0x89, 0x50, 0x4e, 0x47, 13, 10, 26, 10],
    ];
    await fc.assert(
      fc.asyncProperty(fc.constantFrom(...starts), fc.uint8Array({ maxLength: 400 }), async (start, rest) => {
        const metadata = await read(concatBytes([Uint8Array.from(start), rest]));
        expect(Array.isArray(metadata.issues)).toBe(true);
      }),
      { numRuns: 500 },
    );
  });

  test('EXIF directories that run in a circle end', async () => {
    const circle = Uint8Array.of(0x4d, 0x4d, 0, 42, 0, 0, 0, 8, 0, 0, 0, 0, 0, 8);
    const { issues } = await read(tinyJpeg([jpegSegment(0xe1, concatBytes([asciiBytes('Exif\0\0'), circle]))]));
    expect(issues).toContain('EXIF directories run in a circle');
  });

  test('datasets that claim more than there is are passed over', () => {
    expect(parseIim(Uint8Array.of(0x1c, 2, 25, 0x80, 4, 0xff, 0xff, 0xff, 0xff, 1))).toEqual([]);
  });
});

test('a zlib bomb is cut off', async () => {
  const bomb = deflateSync(Buffer.alloc(5_000_000));
  await expect(inflate(bomb, 1_000_000)).rejects.toThrow('larger than');
  expect((await inflate(bomb, 6_000_000)).length).toBe(5_000_000);
});
