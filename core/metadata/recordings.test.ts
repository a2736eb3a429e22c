import { asciiBytes, concatBytes, hasAscii, memorySource, uint32, uint32le, utf8Bytes, viewOf } from './bytes';
import { assemble, patchesOf } from './pieces';
import { readMetadata } from './read';
import { box, NOW, PICTURE, riffChunk, tinyFilm, tinyWav, written, xmpText } from './testing';
import { pictureRanges, planWrite } from './write';

const packet = (headline: string) =>
  utf8Bytes(
    xmpText(
      `<rdf:Description rdf:about="" xmlns:photoshop="http://ns.adobe.com/photoshop/1.0/" photoshop:Headline="${headline}"/>`,
    ),
  );
const headlineOf = (file: Uint8Array) => readMetadata(memorySource(file)).fields.headline;
const soundOf = (file: Uint8Array) =>
  concatBytes(pictureRanges(memorySource(file)).map(({ start, end }) => file.subarray(start, end)));
const LONG = 'A very long headline. '.repeat(400);
const XMP_UUID = Uint8Array.from('be7acfcb97a942e89c71999491e3afac'.match(/../g) ?? [], (pair) => parseInt(pair, 16));

describe('XMP that others have written', () => {
  const bigChunk = (id: string, body: Uint8Array) =>
    concatBytes([asciiBytes(id), uint32(body.length), body, new Uint8Array(body.length % 2)]);
  const sevenBits = (value: number) => Uint8Array.from([21, 14, 7, 0], (by) => (value >> by) & 0x7f);
  const id3 = (version: 3 | 4, ...frames: [string, Uint8Array][]) => {
    const sizeOf = version === 4 ? sevenBits : uint32;
    const all = concatBytes(
      frames.flatMap(([id, body]) => [asciiBytes(id), sizeOf(body.length), Uint8Array.of(0, 0), body]),
    );
    return concatBytes([asciiBytes('ID3'), Uint8Array.of(version, 0, 0), sevenBits(all.length), all, PICTURE]);
  };
  const priv = (owner: string, body: Uint8Array) => concatBytes([asciiBytes(`${owner}\0`), body]);

  test.each<[string, Uint8Array]>([
    [
      'AVI',
      riffChunk(
        'RIFF',
        concatBytes([asciiBytes('AVI '), riffChunk('LIST', PICTURE), riffChunk('_PMX', packet('Tern'))]),
      ),
    ],
    [
      'AIFF',
      bigChunk(
        'FORM',
        concatBytes([
          asciiBytes('AIFF'),
          bigChunk('APPL', asciiBytes('sound')),
          bigChunk('APPL', concatBytes([asciiBytes('XMP '), packet('Tern')])),
        ]),
      ),
    ],
    ['MP3, ID3 2.3', id3(3, ['TIT2', asciiBytes('\0Gulls')], ['PRIV', priv('XMP', packet('Tern'))])],
    ['MP3, ID3 2.4', id3(4, ['PRIV', priv('other', PICTURE)], ['PRIV', priv('XMP', packet('Tern'))])],
    ['MP4', tinyFilm([box('uuid', XMP_UUID, packet('Tern'))])],
    [
      'MOV',
      concatBytes([box('ftyp', asciiBytes('qt  '), uint32(0)), box('moov', box('udta', box('XMP_', packet('Tern'))))]),
    ],
  ])('in %s is read', (_, file) => {
    expect(headlineOf(file)).toBe('Tern');
  });
});

describe.each([
  ['MP4', tinyFilm],
  ['WAV', tinyWav],
])('a %s', (name, tiny) => {
  test('is written anew once, then in place while there is room; what is recorded stays where it was', () => {
    expect(planWrite(memorySource(tiny()), { headline: 'Kite' }, { now: NOW }).nothing).toBe(false);
    const first = written(tiny(), { headline: 'Kite' });
    expect(soundOf(first)).toEqual(soundOf(tiny()));
    expect(Buffer.from(first).indexOf(PICTURE)).toBe(Buffer.from(tiny()).indexOf(PICTURE));
    const plan = planWrite(memorySource(first), { headline: 'Kites' }, { now: NOW });
    expect(patchesOf(memorySource(first), plan.pieces)).toHaveLength(1);
    const grown = written(first, { headline: LONG });
    expect([headlineOf(grown), soundOf(grown)]).toEqual([LONG.trim(), soundOf(tiny())]);
    // It stood last, so nothing is left of the old place.
    expect(grown.length - first.length).toBeLessThan(LONG.length + 10);
  });

  test('an old place in the middle that has become too small is left empty', () => {
    const behind = name === 'MP4' ? box('skip', PICTURE) : riffChunk('LIST', PICTURE);
    const old =
      name === 'MP4'
        ? tinyFilm([box('uuid', XMP_UUID, packet('Old')), behind])
        : tinyWav([riffChunk('_PMX', packet('Old')), behind]);
    const now = written(old, { headline: LONG });
    expect([headlineOf(now), soundOf(now)]).toEqual([LONG.trim(), soundOf(old)]);
    expect(Buffer.from(now).includes('Old')).toBe(false);
    expect(headlineOf(written(now, { headline: null }))).toBeUndefined();
  });
});

test('an MP4 whose index of fragments ends it keeps that at the end', () => {
  const index = box('mfra', box('mfro', uint32(0), uint32(24)));
  const now = written(tinyFilm([index]), { headline: 'Kite' });
  expect(Buffer.compare(now.subarray(now.length - index.length), index)).toBe(0);
});

test('a film whose last part has no length, and kinds that count from elsewhere, are not written', () => {
  const open = tinyFilm([concatBytes([uint32(0), asciiBytes('mdat'), PICTURE])]);
  expect(() => written(open, { headline: 'Kite' })).toThrow('nothing can be added behind it');
  const mov = concatBytes([box('ftyp', asciiBytes('qt  '), uint32(0)), box('mdat', PICTURE)]);
  expect(() => written(mov, { headline: 'Kite' })).toThrow('their description goes into a sidecar');
  expect(pictureRanges(memorySource(mov))).toEqual([]);
});

test('a WAV beyond 4 GB says its new length where it said the old one', () => {
  const size = new Uint8Array(28);
  const sound = riffChunk('data', PICTURE);
  const file = concatBytes([
    asciiBytes('RF64'),
    uint32le(0xffffffff),
    asciiBytes('WAVE'),
    riffChunk('ds64', size),
    sound,
  ]);
  viewOf(file).setBigUint64(20, BigInt(file.length - 8), true);
  const now = assemble(memorySource(file), planWrite(memorySource(file), { headline: 'Kite' }, { now: NOW }).pieces);
  expect(Number(viewOf(now).getBigUint64(20, true))).toBe(now.length - 8);
  expect([headlineOf(now), hasAscii(now, 0, 'RF64')]).toEqual(['Kite', true]);
  expect(() => written(file.subarray(0, file.length - 4), { headline: 'Kite' })).toThrow('shorter than it says');
});
