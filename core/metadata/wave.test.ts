import fc from 'fast-check';
import { asciiBytes, concatBytes, memorySource, uint32le, utf8Bytes } from './bytes';
import { containerOf, kindOfBytes } from './containers';
import { readMetadata } from './read';

const chunk = (id: string, ...parts: Uint8Array[]) => {
  const body = concatBytes(parts);
  return concatBytes([asciiBytes(id), uint32le(body.length), body, new Uint8Array(body.length % 2)]);
};
const wav = (...chunks: Uint8Array[]) => {
  const body = concatBytes(chunks);
  return concatBytes([asciiBytes('RIFF'), uint32le(body.length + 4), asciiBytes('WAVE'), body]);
};
const format = chunk('fmt ', Uint8Array.of(1, 0, 1, 0), uint32le(48_000), uint32le(96_000), Uint8Array.of(2, 0, 16, 0));
const cue = (id: number, at: number) =>
  concatBytes([uint32le(id), uint32le(at), asciiBytes('data'), uint32le(0), uint32le(0), uint32le(at)]);
const cues = (...points: Uint8Array[]) => chunk('cue ', uint32le(points.length), ...points);
const text = (id: number, said: string) => concatBytes([uint32le(id), utf8Bytes(said), Uint8Array.of(0)]);
const labels = chunk(
  'LIST',
  asciiBytes('adtl'),
  chunk('labl', text(1, 'Clap')),
  chunk('note', text(2, 'Wind on the microphone')),
  chunk('labl', text(2, 'Interview')),
  chunk('ltxt', uint32le(2), uint32le(96_000), asciiBytes('rgn '), new Uint8Array(8)),
);
const notes = chunk(
  'iXML',
  utf8Bytes(
    '<?xml version="1.0"?><BWFXML><PROJECT>Sixty years</PROJECT><SCENE>12</SCENE><TAKE>3</TAKE><OTHER>x</OTHER></BWFXML>',
  ),
);
const sound = chunk('data', new Uint8Array(101));
const read = (file: Uint8Array) => readMetadata(memorySource(file));

test('cue points are stretches that count in samples, with their labels, notes and lengths', () => {
  const { fields, kind, issues } = read(wav(format, sound, cues(cue(1, 24_000), cue(2, 144_000)), labels));
  expect([kind, issues]).toEqual(['wav', []]);
  expect(fields.stretches).toEqual([
    {
      ...{ trackName: 'Cues', trackType: 'Cue', frameRate: 'f48000' },
      markers: [
        { startTime: '24000', duration: '0', name: 'Clap' },
        { startTime: '144000', duration: '96000', name: 'Interview', comment: 'Wind on the microphone' },
      ],
    },
  ]);
});

test('what the recorder noted are facts; broken XML is named and hides nothing else', () => {
  expect(read(wav(format, notes, sound)).facts).toMatchObject({ project: 'Sixty years', scene: '12', take: '3' });
  const broken = read(wav(format, chunk('iXML', utf8Bytes('<BWFXML><SCENE>1')), cues(cue(1, 5)), sound));
  expect(broken.issues).toEqual([expect.stringContaining('what the recorder noted could not be read')]);
  expect(broken.fields.stretches).toBeDefined();
});

test('XMP in the file is read, and behind sound whose length stands elsewhere', () => {
  const packet = utf8Bytes(
    '<x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#"><rdf:Description xmlns:photoshop="http://ns.adobe.com/photoshop/1.0/" photoshop:Headline="Harbour"/></rdf:RDF></x:xmpmeta>',
  );
  const size = new Uint8Array(28);
  new DataView(size.buffer).setBigUint64(8, 101n, true);
  const large = concatBytes([asciiBytes('data'), Uint8Array.of(255, 255, 255, 255), new Uint8Array(102)]);
  const file = concatBytes([
    asciiBytes('RF64'),
    Uint8Array.of(255, 255, 255, 255),
    asciiBytes('WAVE'),
    chunk('ds64', size),
    format,
    large,
    chunk('_PMX', packet),
  ]);
  expect(kindOfBytes(memorySource(file))).toBe('wav');
  expect(read(file).fields.headline).toBe('Harbour');
});

test('cut off or filled with anything, it is read without a word too many', () => {
  const whole = wav(format, cues(cue(1, 24_000), cue(2, 144_000)), labels, notes, sound);
  fc.assert(
    fc.property(fc.nat(whole.length), fc.nat(whole.length - 1), fc.nat(255), (length, at, byte) => {
      const file = whole.slice(0, length);
      if (at < length) file[at] = byte;
      if (containerOf(file)) read(file);
    }),
    { numRuns: 500 },
  );
});
