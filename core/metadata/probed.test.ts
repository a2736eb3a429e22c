import { creationMoment } from './creation';
import { mediaOf, type Probed } from './probed';

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
    orientation: 6,
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
