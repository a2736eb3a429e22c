import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { FILE_KINDS, isTimed, kindByName } from '@stellin/core/metadata/containers/index';
import { probeMedia } from './probeMedia';
import { readRecord } from './readRecord';
import { stillOf } from './still';

const folder = mkdtempSync(join(tmpdir(), 'stellin-media-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const at = (name: string) => join(folder, name);

const FILM = ['-f', 'lavfi', '-i', 'testsrc=size=320x180:rate=25:duration=2'];
const SOUND = ['-f', 'lavfi', '-i', 'sine=frequency=440:sample_rate=48000:duration=2'];
const ffmpeg = (name: string, ...given: string[]) => {
  execFileSync('ffmpeg', ['-v', 'error', '-nostdin', '-y', ...given, at(name)]);
  return at(name);
};
const both = (name: string, film: string, sound: string, ...more: string[]) =>
  ffmpeg(name, ...FILM, ...SOUND, '-c:v', film, '-c:a', sound, ...more);

/** A file of each kind: how it is made, and what is to be found in it. */
const KINDS: Record<string, { make: () => string; facts: object }> = {
  mp4: {
    make: () => both('kite.mp4', 'libx264', 'aac', '-timecode', '10:00:00:00'),
    facts: { codec: 'h264', audioCodec: 'aac', frameRate: 25, timecode: '10:00:00:00', variableFrameRate: false },
  },
  mov: {
    make: () => both('kite.mov', 'mpeg4', 'pcm_s16le', '-metadata', 'title=Over the dunes'),
    facts: { codec: 'mpeg4', audioCodec: 'pcm_s16le', sampleRate: 48000 },
  },
  '3gp': { make: () => both('kite.3gp', 'mpeg4', 'aac'), facts: { codec: 'mpeg4' } },
  mkv: { make: () => both('kite.mkv', 'libx264', 'libopus'), facts: { audioCodec: 'opus', dynamicRange: 'sdr' } },
  webm: { make: () => both('kite.webm', 'libvpx', 'libvorbis'), facts: { codec: 'vp8', audioCodec: 'vorbis' } },
  avi: { make: () => both('kite.avi', 'mpeg4', 'libmp3lame'), facts: { codec: 'mpeg4', audioCodec: 'mp3' } },
  mts: { make: () => both('kite.mts', 'libx264', 'ac3', '-f', 'mpegts'), facts: { codec: 'h264', audioCodec: 'ac3' } },
  mpeg: { make: () => both('kite.mpg', 'mpeg2video', 'mp2'), facts: { codec: 'mpeg2video', frameRate: 25 } },
  mxf: { make: () => both('kite.mxf', 'mpeg2video', 'pcm_s16le'), facts: { codec: 'mpeg2video' } },
  wav: {
    make: () =>
      ffmpeg(
        'wind.wav',
        ...SOUND,
        '-write_bext',
        '1',
        '-metadata',
        'description=Wind in the lines',
        '-metadata',
        'originator=Marsh radio',
      ),
    facts: { codec: 'pcm_s16le', channels: 1, sampleRate: 48000, bitDepth: 16 },
  },
  aiff: { make: () => ffmpeg('wind.aiff', ...SOUND), facts: { codec: 'pcm_s16be' } },
  flac: { make: () => ffmpeg('wind.flac', ...SOUND), facts: { codec: 'flac', channels: 1 } },
  mp3: { make: () => ffmpeg('wind.mp3', ...SOUND, '-metadata', 'artist=Ida Brandt'), facts: { codec: 'mp3' } },
  m4a: { make: () => ffmpeg('wind.m4a', ...SOUND, '-c:a', 'aac'), facts: { codec: 'aac', channels: 1 } },
  aac: { make: () => ffmpeg('wind.aac', ...SOUND, '-c:a', 'aac'), facts: { codec: 'aac' } },
  ogg: { make: () => ffmpeg('wind.ogg', ...SOUND, '-c:a', 'libvorbis'), facts: { codec: 'vorbis' } },
};

const read = (path: string) => {
  const result = readRecord({ path, sidecarPath: undefined });
  if (!result.ok) throw new Error(result.message);
  return result.metadata;
};

test('there is a file of each kind that runs in time', () => {
  expect(Object.keys(KINDS).sort()).toEqual(FILE_KINDS.filter((kind) => isTimed(kind)).sort());
});

test.each(Object.entries(KINDS))(
  '%s: told by its bytes and its name, read, and shown as a picture',
  async (kind, { make, facts }) => {
    const path = make();
    const { kind: found, facts: said, damaged, issues } = read(path);
    expect({ found, byName: kindByName(path), damaged, issues }).toEqual({
      found: kind,
      byName: kind,
      damaged: false,
      issues: [],
    });
    expect(said).toMatchObject(facts);
    expect(Math.abs((said.duration ?? 0) - 2)).toBeLessThan(0.3);
    expect((await stillOf(path, found ?? 'mp4', { pixels: 640 })).subarray(1, 4).toString()).toBe('PNG');
  },
);

test.each(Object.entries(KINDS))(
  '%s that is cut off or holds rubbish is said to be broken, or read as far as it goes; nothing hangs',
  (_, { make }) => {
    const path = make();
    const whole = readFileSync(path);
    for (const keep of [whole.length / 2, 300, 20]) {
      writeFileSync(path, whole.subarray(0, keep));
      expect(readRecord({ path, sidecarPath: undefined }).ok).toBe(true);
    }
    writeFileSync(path, Buffer.concat([whole.subarray(0, 64), Buffer.alloc(100_000, 0xa5)]));
    const { damaged, issues } = read(path);
    expect(damaged ? issues.length : 1).toBeGreaterThan(0);
  },
);

test('what tags say is a block of its own, which a sidecar comes before', () => {
  const path = ffmpeg('tagged.mp3', ...SOUND, '-metadata', 'title=Wind', '-metadata', 'artist=Ida Brandt');
  expect(read(path).blocks.tags).toEqual({ title: 'Wind', creator: ['Ida Brandt'] });
  const sidecarPath = at('tagged.xmp');
  writeFileSync(
    sidecarPath,
    `<x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#"><rdf:Description
      rdf:about="" xmlns:dc="http://purl.org/dc/elements/1.1/"><dc:title><rdf:Alt><rdf:li xml:lang="x-default">Gale</rdf:li></rdf:Alt></dc:title>
      </rdf:Description></rdf:RDF></x:xmpmeta>`,
  );
  const result = readRecord({ path, sidecarPath });
  if (!result.ok) throw new Error(result.message);
  expect(result.metadata.fields).toMatchObject({ title: 'Gale', creator: ['Ida Brandt'] });
  expect(result.metadata.disagreements).toEqual([]);
});

test('a list of other files in the clothes of a film opens none of them', () => {
  writeFileSync(at('secret.txt'), 'nothing for others');
  for (const [name, text] of [
    ['list.avi', '#EXTM3U\n#EXT-X-MEDIA-SEQUENCE:0\n#EXTINF:10.0,\nsecret.txt\n#EXT-X-ENDLIST\n'],
    ['list.mkv', `ffconcat version 1.0\nfile '${at('secret.txt')}'\n`],
  ] as const) {
    writeFileSync(at(name), text);
    const looked = probeMedia(at(name));
    expect(looked).toMatchObject({ damaged: true });
    expect(JSON.stringify(looked)).not.toContain('secret.txt');
  }
});
