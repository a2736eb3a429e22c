// What is made of films and sounds to look at and listen to: strips of pictures, waveforms, copies that browsers play.

import { mkdir, mkdtemp, rename, rm } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import sharp from 'sharp';
import { Loudness, STRIP_FRAMES, stripMoments } from '@stellin/core/media/strip';
import { SAFELY } from './probeMedia';
import { putFile } from './preview';
import { isTaken } from './relocate';
import { MissingTool, runTool, streamTool } from './tools';

/** Of each picture of a strip. */
const STRIP_PICTURE = { width: 160, height: 90 };
const WAVEFORM_PARTS = 800;
/** Enough to see how loud it is. */
const SAMPLES_PER_SECOND = 4000;
const QUIET = ['-v', 'error', '-nostdin', ...SAFELY] as const;
const A_PICTURE = { seconds: 20 };
const A_PASS = { seconds: 120 };
const A_SOUND = { seconds: 900 };
const A_CLIP = { seconds: 900 };
const A_COPY = { seconds: 6 * 3600 };
/** A moment that has no picture any more is left grey; of a film without any there is no strip. */
const GROUND = '#E9ECEC';

/** Up to this length it is quicker to look at all of a film than to go to each picture of its strip. */
const ONE_PASS_SECONDS = 60;

/** Makes the strip of a film: pictures side by side, as WebP. Throws an Error that says why there is none. */
export async function makeStrip(path: string, duration: number, target: string): Promise<void> {
  const strip = await (duration <= ONE_PASS_SECONDS ? stripInOnePass(path, duration) : stripByMoments(path, duration));
  await putFile(target, strip);
}

async function stripInOnePass(path: string, duration: number): Promise<Buffer> {
  const { width, height } = STRIP_PICTURE;
  const ground = `color=0x${GROUND.slice(1)}`;
  const picture = `scale=${width}:${height}:force_original_aspect_ratio=decrease,pad=${width}:${height}:-1:-1:${ground}`;
  const strip = await runTool(
    'ffmpeg',
    [
      ...QUIET,
      ...['-i', `file:${path}`, '-frames:v', '1'],
      ...['-vf', `fps=${STRIP_FRAMES}/${duration}:start_time=0,${picture},tile=${STRIP_FRAMES}x1:${ground}`],
      ...['-f', 'image2pipe', '-c:v', 'mjpeg', '-q:v', '3', '-'],
    ],
    A_PASS,
  );
  if (strip.length === 0) throw new Error('there are no pictures in it');
  return sharp(strip).webp({ quality: 70, effort: 2 }).toBuffer();
}

async function stripByMoments(path: string, duration: number): Promise<Buffer> {
  const { width, height } = STRIP_PICTURE;
  const frames: { input: Buffer; left: number; top: number }[] = [];
  let problem: unknown;
  for (const [i, moment] of stripMoments(duration).entries()) {
    try {
      const frame = await frameAt(path, moment);
      if (frame.length > 0)
        frames.push({
          input: await sharp(frame).resize(width, height, { fit: 'contain', background: GROUND }).toBuffer(),
          left: i * width,
          top: 0,
        });
    } catch (error) {
      // Of a file that has gone, or without the program, the rest would fail alike: a strip of a part of a film is none.
      if (error instanceof MissingTool || !(await isTaken(path))) throw error;
      problem = error;
    }
  }
  if (frames.length === 0) throw problem ?? new Error('there are no pictures in it');
  return sharp({
    create: { width: STRIP_FRAMES * width, height, channels: 3, background: GROUND },
  })
    .composite(frames)
    .webp({ quality: 70, effort: 2 })
    .toBuffer();
}

/**
 * Writes a part of a film or sound as a file of its own, its streams as they are: it begins with the last picture before `from` that stands
 * for itself. Throws an Error that says why it can't be.
 */
export async function cutClip(path: string, { from, to }: { from: number; to: number }, target: string): Promise<void> {
  await runTool(
    'ffmpeg',
    [
      ...QUIET,
      ...['-ss', String(from), '-i', `file:${path}`, '-t', String(to - from)],
      ...['-map', '0:v?', '-map', '0:a?', '-c', 'copy', '-map_metadata', '0', '-avoid_negative_ts', 'make_zero', '-y'],
      `file:${target}`,
    ],
    A_CLIP,
  );
}

/** The picture at a moment, from the nearest before it that stands for itself. */
function frameAt(path: string, moment: number): Promise<Buffer> {
  return runTool(
    'ffmpeg',
    [
      ...QUIET,
      '-ss',
      moment.toFixed(3),
      '-noaccurate_seek',
      '-i',
      `file:${path}`,
      '-frames:v',
      '1',
      '-vf',
      `scale=${STRIP_PICTURE.width * 2}:-2`,
      '-f',
      'image2pipe',
      '-c:v',
      'mjpeg',
      '-q:v',
      '4',
      '-',
    ],
    A_PICTURE,
  );
}

/** How loud a film or sound is over its length: the loudest of each of equal parts, from 0 to 1. */
export async function readPeaks(path: string, duration: number): Promise<number[]> {
  const loudness = new Loudness(WAVEFORM_PARTS, Math.max(1, duration * SAMPLES_PER_SECOND));
  const { output, ended } = streamTool(
    'ffmpeg',
    [...QUIET, '-i', `file:${path}`, '-vn', '-ac', '1', '-ar', String(SAMPLES_PER_SECOND), '-f', 's16le', '-'],
    A_SOUND,
  );
  let odd: Buffer = Buffer.alloc(0);
  for await (const chunk of output) {
    const bytes = Buffer.concat([odd, chunk as Buffer]);
    const whole = bytes.length - (bytes.length % 2);
    odd = bytes.subarray(whole);
    loudness.take(new Int16Array(Uint8Array.from(bytes.subarray(0, whole)).buffer));
  }
  await ended;
  return loudness.ofParts();
}

/** The longest side of a film’s copy. */
const COPY_PIXELS = 1280;

/** Makes a copy that browsers play: MP4 with H.264 and AAC, its index in front. There whole or not at all. */
export async function makePlayable(path: string, isFilm: boolean, target: string): Promise<void> {
  await mkdir(dirname(target), { recursive: true });
  const folder = await mkdtemp(join(dirname(target), '.making-'));
  const made = join(folder, 'copy.mp4');
  const pictures = [
    '-c:v',
    'libx264',
    '-preset',
    'veryfast',
    '-crf',
    '24',
    '-pix_fmt',
    'yuv420p',
    '-vf',
    `scale='min(${COPY_PIXELS},iw)':-2`,
  ];
  try {
    await runTool(
      'ffmpeg',
      [
        ...QUIET,
        '-i',
        `file:${path}`,
        ...(isFilm ? pictures : ['-vn']),
        '-c:a',
        'aac',
        '-b:a',
        '128k',
        '-sn',
        '-dn',
        '-map_metadata',
        '-1',
        '-movflags',
        '+faststart',
        `file:${made}`,
      ],
      A_COPY,
    );
    await rename(made, target);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}
