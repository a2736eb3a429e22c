import { execFileSync } from 'node:child_process';
import { existsSync } from 'node:fs';
import { readFile, rm } from 'node:fs/promises';
import { join } from 'node:path';
import sharp from 'sharp';
import { PROGRAM } from '../catalogue/viewer';
import { places } from '../config';
import { openWorld, PASSWORDS, putFiles, realJpeg, type World } from '../testing/world';

let world: World;
let vault: string;
beforeAll(async () => {
  world = await openWorld();
  vault = await world.addDrive('Vault');
  await putFiles(vault, { 'still.jpg': await realJpeg({}, 20) });
  const make = (name: string, ...given: string[]) =>
    execFileSync('ffmpeg', ['-v', 'error', '-nostdin', '-y', ...given, join(vault, name)]);
  // Red for two seconds, then blue; loud, then silent.
  const film = [
    '-f',
    'lavfi',
    '-i',
    'color=red:size=320x180:rate=25:duration=2,format=yuv420p',
    '-f',
    'lavfi',
    '-i',
    'color=blue:size=320x180:rate=25:duration=2,format=yuv420p',
  ];
  const sound = [
    '-f',
    'lavfi',
    '-i',
    'sine=frequency=440:duration=2,volume=8',
    '-f',
    'lavfi',
    '-i',
    'anullsrc=channel_layout=mono:sample_rate=44100:duration=2',
  ];
  const joined = [
    '-filter_complex',
    '[0:v][1:v]concat=n=2[v];[2:a][3:a]concat=n=2:v=0:a=1[a]',
    '-map',
    '[v]',
    '-map',
    '[a]',
    '-g',
    '10',
  ];
  make('kite.mp4', ...film, ...sound, ...joined, '-c:v', 'libx264', '-c:a', 'aac');
  make('tape.mpg', ...film, ...sound, ...joined, '-c:v', 'mpeg2video', '-c:a', 'mp2');
  make('wind.wav', ...sound, '-filter_complex', '[0:a][1:a]concat=n=2:v=0:a=1[a]', '-map', '[a]');
  await world.takeIn(vault);
}, 60_000);
afterAll(() => world.close());

const idOf = async (name: string) => (await world.ids()).get(name) ?? 0;
const playback = async (name: string) => world.services.media.playback(await idOf(name));
const found = async (query: string) => {
  const photos = await world.services.photos.list(PROGRAM, { query, sort: 'name', offset: 0, limit: 60 });
  return photos.map(({ name }) => name).sort();
};
const jobOf = async (kind: string) => {
  const job = (await world.services.jobs.list()).find((each) => each.kind === kind);
  return world.until(job?.id ?? '', ['done']);
};

test('films and sounds are found by what they are and by every fact of their streams', async () => {
  expect(await found('media:film')).toEqual(['kite.mp4', 'tape.mpg']);
  expect(await found('media:sound')).toEqual(['wind.wav']);
  expect(await found('media:still')).toEqual(['still.jpg']);
  expect(await found('codec:aac')).toEqual(['kite.mp4']);
  expect(await found('frameRate:25fps codec:mpeg2*')).toEqual(['tape.mpg']);
  expect(await found('channels:1 sampleRate:44.1kHz media:sound')).toEqual(['wind.wav']);
  expect(await found('duration:3.5s..4.5s')).toEqual(['kite.mp4', 'tape.mpg', 'wind.wav']);
});

test('taken in, they get strips and waveforms by themselves; what is there is not made again', async () => {
  expect((await jobOf('mediaParts')).result).toEqual({ made: 3 });
  const strip = await world.services.media.stripOf(await idOf('kite.mp4'));
  const { data, info } = await sharp(strip).raw().toBuffer({ resolveWithObject: true });
  const at = (part: number) => {
    const from = (Math.floor(info.height / 2) * info.width + Math.floor(part * info.width)) * info.channels;
    return data[from]! > data[from + 2]! ? 'red' : 'blue';
  };
  expect([at(0.1), at(0.4), at(0.6), at(0.9)]).toEqual(['red', 'red', 'blue', 'blue']);
  for (const name of ['wind.wav', 'kite.mp4']) {
    const peaks = JSON.parse(
      await readFile(await world.services.media.waveformOf(await idOf(name)), 'utf8'),
    ) as number[];
    expect([peaks[200]! > 0.3, peaks[600]! < 0.05]).toEqual([true, true]);
  }
  await rm(join(places.media(world.config.home), 'strip'), { recursive: true });
  await world.services.media.follow(null);
  expect((await jobOf('mediaParts')).result).toEqual({ made: 2 });
});

/** The colour in the middle of the preview of a film. */
async function colourOf(name: string): Promise<'red' | 'blue'> {
  const preview = await world.services.previews.fileOf(await idOf(name));
  const { data, info } = await sharp(preview ?? '')
    .raw()
    .toBuffer({ resolveWithObject: true });
  const from = (Math.floor(info.height / 2) * info.width + Math.floor(info.width / 2)) * info.channels;
  return data[from]! > data[from + 2]! ? 'red' : 'blue';
}

test('a picture that somebody chooses stands for a film, its strip stays; taken back, one is found again', async () => {
  const photoId = await idOf('kite.mp4');
  const strip = await readFile(await world.services.media.stripOf(photoId));
  expect(await colourOf('kite.mp4')).toBe('red');
  const before = (await playback('kite.mp4')).version;
  const { title } = await world.apply({ kind: 'choosePoster', photoId, seconds: 3 });
  await world.services.posters.run();
  expect(title).toBe('Choose the picture of “kite.mp4” at 0:03.0');
  expect(await playback('kite.mp4')).toMatchObject({ poster: 3, version: before + 1 });
  expect(await colourOf('kite.mp4')).toBe('blue');
  expect(existsSync(join(places.media(world.config.home), 'strip', `${photoId}-${before + 1}.webp`))).toBe(true);
  expect((await readFile(await world.services.media.stripOf(photoId))).equals(strip)).toBe(true);
  await world.services.ledger.undo(world.keeperId);
  await world.services.posters.run();
  expect([await colourOf('kite.mp4'), (await playback('kite.mp4')).poster]).toEqual(['red', null]);
});

test('of a film whose drive is away the chosen picture follows when it is back; what is no film has none', async () => {
  const photoId = await idOf('tape.mpg');
  const shelf = await world.unplug(vault);
  await world.apply({ kind: 'choosePoster', photoId, seconds: 3 });
  await world.services.posters.run();
  expect(await colourOf('tape.mpg')).toBe('red');
  await world.plugIn(shelf, 'Vault');
  await world.services.posters.run();
  expect(await colourOf('tape.mpg')).toBe('blue');
  await world.services.ledger.undo(world.keeperId);
  await world.services.posters.run();
  const stillId = await idOf('still.jpg');
  await expect(world.apply({ kind: 'choosePoster', photoId: stillId, seconds: 1 })).rejects.toThrow(
    '“still.jpg” is no film',
  );
});

test('what was taken in before anything was known of such files is read once more', async () => {
  await world.services.database.rows(
    `update photo_text set facts = facts - 'container' - 'codec' where photo_id = $1`,
    [await idOf('kite.mp4')],
  );
  await world.services.media.follow(null);
  await jobOf('mediaParts');
  const details = await world.services.photos.find(
    await world.services.rights.personOf(world.keeperId),
    await idOf('kite.mp4'),
  );
  expect(details.facts).toMatchObject({ codec: 'h264', audioCodec: 'aac' });
});

test('what browsers play is sent in the parts that are asked for', async () => {
  expect(await playback('kite.mp4')).toMatchObject({ media: 'film', plays: 'file', frameRate: 25, copyable: false });
  const whole = await readFile(join(vault, 'kite.mp4'));
  const { headers } = await world.app.inject({
    method: 'POST',
    url: '/api/session',
    payload: { name: 'keeper', password: PASSWORDS.keeper },
  });
  const cookie = String(headers['set-cookie']).split(';')[0] ?? '';
  const id = await idOf('kite.mp4');
  const ask = (range?: string) =>
    world.app.inject({ url: `/api/photos/${id}/stream`, headers: { cookie, ...(range ? { range } : {}) } });
  const all = await ask();
  expect([all.statusCode, all.headers['content-type'], all.rawPayload.equals(whole)]).toEqual([200, 'video/mp4', true]);
  const part = await ask('bytes=100-199');
  expect([part.statusCode, part.headers['content-range']]).toEqual([206, `bytes 100-199/${whole.length}`]);
  expect(part.rawPayload.equals(whole.subarray(100, 200))).toBe(true);
  const last = await ask('bytes=-10');
  expect(last.rawPayload.equals(whole.subarray(-10))).toBe(true);
  expect((await ask(`bytes=${whole.length}-`)).statusCode).toBe(416);
});

test('of what no browser plays a copy is made on request, which plays while the drive is away', async () => {
  expect(await playback('tape.mpg')).toMatchObject({
    plays: 'none',
    copyable: true,
    why: 'Browsers do not play mpeg2video in MPEG-PS.',
  });
  await world.services.media.startCopy(await idOf('tape.mpg'), world.keeperId);
  expect((await jobOf('playable')).result).toEqual({ made: 1 });
  expect(await playback('tape.mpg')).toMatchObject({ plays: 'copy', copyable: false });
  await world.unplug(vault);
  expect((await playback('tape.mpg')).plays).toBe('copy');
  expect(await playback('kite.mp4')).toMatchObject({
    plays: 'none',
    copyable: false,
    why: 'The drive “Vault” is away.',
  });
  const { path, mediaType } = await world.services.media.played(await idOf('tape.mpg'));
  expect([mediaType, existsSync(path)]).toEqual(['video/mp4', true]);
  await expect(world.services.media.played(await idOf('kite.mp4'))).rejects.toThrow('is away');
});

test('a still is neither played nor has it a strip', async () => {
  const id = await idOf('still.jpg');
  await expect(world.services.media.playback(id)).rejects.toThrow('no such film or sound');
  await expect(world.services.media.stripOf(id)).rejects.toThrow('no such film or sound');
});
