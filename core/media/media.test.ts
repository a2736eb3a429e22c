import fc from 'fast-check';
import { clockText, timecodeAt } from './moments';
import { playedAs } from './playing';
import { Loudness, stripFrame, stripMoments, waveformPath } from './strip';

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
