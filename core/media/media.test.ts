import fc from 'fast-check';
import { clockText, creationMoment, timecodeAt } from './moments';
import { playedAs } from './playing';
import { mediaOf, type Probed } from './probed';
import { Loudness, stripFrame, stripMoments, waveformPath } from './strip';

const probed = (more: Partial<Probed>): Probed => ({ container: 'QuickTime / MOV', tags: {}, streams: [], ...more });
const film = {
  type: 'video',
  codec: 'h264',
  width: 1920,
  height: 1080,
  nominalRate: '30/1',
  averageRate: '30/1',
  tags: {},
};

test('facts of a film are those of its first film and its first sound; a cover is none', () => {
  const { facts, width, height } = mediaOf(
    probed({
      duration: 12.5,
      bitRate: 8_123_456,
      streams: [
        { type: 'video', codec: 'mjpeg', isCover: true, width: 500, height: 500, tags: {} },
        { ...film, averageRate: '24000/1001', transfer: 'arib-std-b67', primaries: 'bt2020', rotation: -90 },
        { type: 'audio', codec: 'aac', channels: 2, sampleRate: 48_000, tags: {} },
      ],
    }),
  );
  expect({ width, height }).toEqual({ width: 1920, height: 1080 });
  expect(facts).toEqual({
    container: 'QuickTime / MOV',
    duration: 12.5,
    codec: 'h264',
    audioCodec: 'aac',
    frameRate: 23.976,
    variableFrameRate: true,
    bitRate: 8123,
    channels: 2,
    sampleRate: 48_000,
    rotation: 90,
    dynamicRange: 'hlg',
    primaries: 'bt2020',
  });
});

test('a sound has a codec and no pictures', () => {
  const { facts, width } = mediaOf(probed({ streams: [{ type: 'audio', codec: 'flac', channels: 1, tags: {} }] }));
  expect([facts.codec, facts.audioCodec, facts.frameRate, facts.dynamicRange, width]).toEqual([
    'flac',
    undefined,
    undefined,
    undefined,
    undefined,
  ]);
});

test('tags of all kinds come to the same fields', () => {
  const fields = (tags: Record<string, string>) => mediaOf(probed({ tags })).fields;
  expect(fields({ TITLE: ' Gale ', ARTIST: 'Ida Brandt', COPYRIGHT: '© Saltmarsh Kite Museum' })).toEqual({
    title: 'Gale',
    creator: ['Ida Brandt'],
    copyrightNotice: '© Saltmarsh Kite Museum',
  });
  expect(fields({ 'com.apple.quicktime.location.ISO6709': '+52.1234-004.5000+012.3/' })).toEqual({
    position: { latitude: 52.1234, longitude: -4.5, altitude: 12.3 },
  });
  expect(fields({ location: '+99.0+004.5/', keywords: 'kite; wind, ;', comment: '' })).toEqual({
    keywords: ['kite', 'wind'],
  });
});

test('when it was made: with a zone where one is said, never by a clock that was not set', () => {
  expect(creationMoment('2019-06-01T10:00:00.000000Z', undefined)).toEqual({ takenAt: '2019-06-01T10:00:00' });
  expect(creationMoment('2019-06-01T12:00:00+0200', undefined)).toEqual({
    takenAt: '2019-06-01T12:00:00',
    offset: '+02:00',
  });
  expect(creationMoment('10:00:00', '2019-06-01')).toEqual({ takenAt: '2019-06-01T10:00:00' });
  for (const [created, date] of [
    ['1904-01-01T00:00:00Z', undefined],
    ['2019-06-41T10:00:00Z', undefined],
    ['10:00:00', 'June'],
    [undefined, '2019-06-01'],
  ] as const)
    expect(creationMoment(created, date)).toEqual({});
});

test('moments as people and as editors write them', () => {
  expect([0, 5.25, 65, 3725.04, -1].map(clockText)).toEqual(['0:00.0', '0:05.3', '1:05.0', '1:02:05.0', '0:00.0']);
  expect([timecodeAt(1.5, 25), timecodeAt(1, 25, '10:00:00:24')]).toEqual(['00:00:01:12', '10:00:01:24']);
  // SMPTE ST 12-1: two numbers are left out each minute but each tenth.
  const dropped = (frame: number) => timecodeAt(frame / (30_000 / 1001), 30_000 / 1001, '00:00:00;00');
  expect([1799, 1800, 17_981, 17_982].map(dropped)).toEqual([
    '00:00:59;29',
    '00:01:00;02',
    '00:09:59;29',
    '00:10:00;00',
  ]);
});

test('timecodes count every picture once, whatever they begin with', () => {
  const begins = fc
    .tuple(fc.nat(22), fc.nat(59), fc.nat(59), fc.nat(24))
    .map((parts) => parts.map((part) => String(part).padStart(2, '0')).join(':'));
  fc.assert(
    fc.property(begins, fc.nat(50_000), (begin, frame) => {
      const [one, next] = [timecodeAt(frame / 25, 25, begin), timecodeAt((frame + 1) / 25, 25, begin)];
      const count = (code: string) =>
        code.split(':').reduce((sum, part, i) => sum * (i === 3 ? 25 : 60) + Number(part), 0);
      expect(count(next) - count(one)).toBe(1);
    }),
  );
});

test('a strip shows the middle of each part; a waveform the loudest of each', () => {
  expect(stripMoments(24, 4)).toEqual([3, 9, 15, 21]);
  expect([stripFrame(0, 4), stripFrame(0.26, 4), stripFrame(1, 4), stripFrame(-1, 4)]).toEqual([0, 1, 3, 0]);
  const loudness = new Loudness(4, 8);
  loudness.take(Int16Array.from([0, 16_384, -32_768]));
  loudness.take(Int16Array.from([0, 0, 0, 8192, 0, 100, 100]));
  expect(loudness.ofParts()).toEqual([0.5, 1, 0, 0.25]);
  expect(waveformPath([0, 1], 20, 10)).toBe('M5.0 4.5V5.5M15.0 0.0V10.0');
});

test('what browsers play is told by container and codecs together', () => {
  expect(playedAs('mp4', true, { codec: 'h264', audioCodec: 'aac' })).toBe('video/mp4');
  expect(playedAs('webm', true, { codec: 'vp9' })).toBe('video/webm');
  expect(playedAs('wav', false, { codec: 'pcm_s16le' })).toBe('audio/wav');
  for (const [kind, isFilm, facts] of [
    ['mp4', true, { codec: 'hevc', audioCodec: 'aac' }],
    ['mp4', true, { codec: 'h264', audioCodec: 'ac3' }],
    ['mkv', true, { codec: 'h264', audioCodec: 'aac' }],
    ['aiff', false, { codec: 'pcm_s16be' }],
    ['mp4', true, {}],
  ] as const)
    expect(playedAs(kind, isFilm, facts)).toBeUndefined();
});
