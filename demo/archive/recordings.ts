// Films, sounds, programmes and raw files of the archive, made of its photos: films and sounds by ffmpeg, in many containers and codecs.
// Where ffmpeg is missing there are none of these.

import { createWriteStream } from 'node:fs';
import { mkdir, writeFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { strToU8, zipSync } from 'fflate';
import PDFDocument from 'pdfkit';
import sharp from 'sharp';
import { MissingTool, runTool } from '@stellin/server/files/tools';
import type { PlannedPhoto } from './plan';
import { rawFile } from './rawFile';

/** Which photos a film pans over, and how it is coded. */
interface Film {
  path: string;
  /** Seconds. */
  length: number;
  codecs: readonly string[];
  tags: Readonly<Record<string, string>>;
}

interface Sound {
  path: string;
  /** What ffmpeg makes it of (lavfi). */
  source: string;
  codecs: readonly string[];
  tags: Readonly<Record<string, string>>;
}

const H264 = ['-c:v', 'libx264', '-preset', 'ultrafast', '-pix_fmt', 'yuv420p', '-c:a', 'aac'];
const FOLDER = 'Recordings';

const FILMS: readonly Film[] = [
  {
    path: 'Films/2012/Over the dunes.mp4',
    length: 12,
    codecs: [...H264, '-timecode', '10:00:00:00'],
    tags: { title: 'Over the dunes', artist: 'Ida Brandt', creation_time: '2012-06-16T11:20:00Z' },
  },
  {
    path: 'Films/2013/Makers weekend.mov',
    length: 10,
    codecs: H264,
    tags: { title: 'Makers weekend', comment: 'The workshop on the second day', creation_time: '2013-05-04T09:05:00Z' },
  },
  { path: 'Films/2014/Festival evening.avi', length: 8, codecs: ['-c:v', 'mpeg4', '-c:a', 'libmp3lame'], tags: {} },
  {
    path: 'Films/2017/Night of lights.webm',
    length: 8,
    codecs: ['-c:v', 'libvpx', '-deadline', 'realtime', '-c:a', 'libvorbis'],
    tags: { title: 'Night of lights' },
  },
  {
    path: 'Films/2017/Launch in slow motion.mkv',
    length: 6,
    codecs: [...H264, '-r', '50'],
    tags: { title: 'Launch in slow motion' },
  },
  { path: 'Films/Transfers/Tape 3.mpg', length: 10, codecs: ['-c:v', 'mpeg2video', '-c:a', 'mp2'], tags: {} },
  {
    path: 'Films/Transfers/Tape 4.mxf',
    length: 6,
    codecs: ['-c:v', 'mpeg2video', '-c:a', 'pcm_s16le', '-ar', '48000'],
    tags: {},
  },
];

/** Wind: noise that swells. */
const wind = (seconds: number, tone: number, swell: number) =>
  `anoisesrc=d=${seconds}:c=pink:a=0.6:r=44100:seed=7,bandpass=f=${tone}:w=${tone},tremolo=f=${swell}:d=0.8,volume=20dB,alimiter`;

const SOUNDS: readonly Sound[] = [
  {
    path: 'Sound/2011/Wind in the lines.wav',
    source: wind(40, 500, 0.2),
    codecs: ['-write_bext', '1'],
    tags: {
      description: 'Wind in the lines of six kites, marsh meadow',
      originator: 'Saltmarsh Kite Museum',
      date: '2011-06-18',
      creation_time: '15:30:00',
    },
  },
  {
    path: 'Sound/2011/Kite hum.flac',
    source: `sine=frequency=180:duration=25,tremolo=f=3:d=0.6`,
    codecs: [],
    tags: { title: 'Kite hum', artist: 'Per Oskarsen' },
  },
  {
    path: 'Sound/2016/Harbour bell.mp3',
    source: `sine=frequency=660:duration=20,tremolo=f=0.5:d=1`,
    codecs: [],
    tags: { title: 'Harbour bell', artist: 'Celia Amund' },
  },
  {
    path: 'Sound/2016/Gale at the sea wall.ogg',
    source: wind(30, 250, 0.3),
    codecs: ['-c:a', 'libvorbis'],
    tags: { title: 'Gale at the sea wall' },
  },
  { path: 'Sound/2016/Workshop bench.aiff', source: wind(15, 1800, 2), codecs: [], tags: {} },
];

const PROGRAMMES = [
  {
    path: 'Programmes/Festival June 2014.pdf',
    title: 'Festival of kites, June 2014',
    lines: ['Rokkaku battle at eleven', 'Cellular kites on the sea wall', 'Night of lights, from dusk'],
  },
  {
    path: 'Programmes/Borrowed Wind 2018.pdf',
    title: 'Borrowed Wind: an exhibition',
    lines: ['Single-line kites of four coasts', 'From the bequest of Anton Kessel'],
  },
] as const;

/** Raw files whose camera put no picture inside. */
const RAW_FILES = [
  { path: 'Raw/2016/R7_0412.dng', takenAt: '2016-09-03T10:20:31' },
  { path: 'Raw/2016/R7_0413.dng', takenAt: '2016-09-03T10:21:05' },
] as const;
const RAW_CAMERA = { make: 'Corvina', model: 'Corvina 7' };

/** A letter in OpenDocument, with the picture of its page that programs put inside. */
const LETTER = {
  path: 'Programmes/Loan of six kites 2018.odt',
  title: 'Loan of six kites',
  author: 'Celia Amund',
  written: '2018-02-12T09:40:00',
  lines: [
    'Borrowed Wind, from May to September 2018',
    'Two rokkaku, three cellular kites, one parafoil',
    'Hung in the sail loft',
  ],
} as const;

/** Makes the recordings of a drive in its folder, of photos that are painted there. */
export async function makeRecordings(
  folder: string,
  photos: readonly PlannedPhoto[],
  progress: (path: string) => void,
): Promise<void> {
  const pictures = photos.filter(
    ({ format, look, width, height }) => format === 'jpeg' && look === 'colour' && width > height,
  );
  try {
    for (const [i, film] of FILMS.entries()) {
      progress(film.path);
      const [one, other] = [pictures[(i * 7) % pictures.length], pictures[(i * 7 + 3) % pictures.length]];
      if (one && other) await makeFilm(folder, film, one.path, other.path);
    }
    for (const sound of SOUNDS) {
      progress(sound.path);
      await run(
        ['-f', 'lavfi', '-i', sound.source, ...tagged(sound.tags), ...sound.codecs],
        await placeOf(folder, sound.path),
      );
    }
  } catch (error) {
    if (!(error instanceof MissingTool)) throw error;
  }
  for (const [i, { path, takenAt }] of RAW_FILES.entries()) {
    progress(path);
    const seen = pictures[(i * 11 + 6) % pictures.length];
    if (seen) await writeFile(await placeOf(folder, path), await rawOf(join(folder, seen.path), takenAt));
  }
  progress(LETTER.path);
  await writeFile(await placeOf(folder, LETTER.path), await letter());
  for (const [i, programme] of PROGRAMMES.entries()) {
    progress(programme.path);
    const cover = pictures[(i * 5 + 2) % pictures.length];
    await makeProgramme(await placeOf(folder, programme.path), programme, cover && join(folder, cover.path));
  }
}

async function placeOf(folder: string, path: string): Promise<string> {
  const target = join(folder, FOLDER, path);
  await mkdir(dirname(target), { recursive: true });
  return target;
}

/** Two pictures, each slowly approached, under wind. */
async function makeFilm(
  folder: string,
  { path, length, codecs, tags }: Film,
  one: string,
  other: string,
): Promise<void> {
  const frames = Math.round((length / 2) * 25);
  const pan = `scale=1600:-2,zoompan=z='min(zoom+0.0012,1.4)':x='iw/2-(iw/zoom/2)':y='ih/2-(ih/zoom/2)':d=${frames}:s=854x480:fps=25,setsar=1`;
  await run(
    [
      ...['-i', join(folder, one), '-i', join(folder, other), '-f', 'lavfi', '-i', wind(length, 400, 0.4)],
      ...[
        '-filter_complex',
        `[0:v]${pan}[a];[1:v]${pan}[b];[a][b]concat=n=2[v]`,
        '-map',
        '[v]',
        '-map',
        '2:a',
        '-shortest',
      ],
      ...tagged(tags),
      ...codecs,
    ],
    await placeOf(folder, path),
  );
}

const tagged = (tags: Readonly<Record<string, string>>) =>
  Object.entries(tags).flatMap(([name, text]) => ['-metadata', `${name}=${text}`]);

async function run(given: readonly string[], target: string): Promise<void> {
  await runTool('ffmpeg', ['-v', 'error', '-nostdin', '-y', ...given, target], { seconds: 120 });
}

async function rawOf(picture: string, takenAt: string): Promise<Uint8Array> {
  const { data, info } = await sharp(picture).autoOrient().removeAlpha().raw().toBuffer({ resolveWithObject: true });
  // Whole groups of two by two pixels are kept.
  const [width, height] = [info.width - (info.width % 2), info.height - (info.height % 2)];
  const rgb = Buffer.concat(
    Array.from({ length: height }, (_, y) => data.subarray(y * info.width * 3, (y * info.width + width) * 3)),
  );
  return rawFile({ ...RAW_CAMERA, width, height, rgb, takenAt });
}

/** The letter (ISO/IEC 26300): what it says of itself, its text, and a picture of the page. */
async function letter(): Promise<Uint8Array> {
  const names = 'xmlns:office="urn:oasis:names:tc:opendocument:xmlns:office:1.0"';
  const words = 'xmlns:text="urn:oasis:names:tc:opendocument:xmlns:text:1.0"';
  const said =
    'xmlns:meta="urn:oasis:names:tc:opendocument:xmlns:meta:1.0" xmlns:dc="http://purl.org/dc/elements/1.1/"';
  const { title, author, written, lines } = LETTER;
  const page = sharp({ create: { width: 181, height: 256, channels: 3, background: '#fdfcf8' } }).composite(
    lines.map((line, i) => ({
      input: {
        create: { width: Math.min(140, line.length * 3), height: 3, channels: 3 as const, background: '#444444' },
      },
      left: 20,
      top: 60 + i * 14,
    })),
  );
  return zipSync({
    mimetype: [strToU8('application/vnd.oasis.opendocument.text'), { level: 0 }],
    'meta.xml': strToU8(
      `<office:document-meta ${names} ${said}><office:meta><dc:title>${title}</dc:title><meta:initial-creator>${author}</meta:initial-creator><meta:creation-date>${written}</meta:creation-date><meta:document-statistic meta:page-count="1"/></office:meta></office:document-meta>`,
    ),
    'content.xml': strToU8(
      `<office:document-content ${names} ${words}><office:body><office:text><text:h>${title}</text:h>${lines.map((line) => `<text:p>${line}</text:p>`).join('')}</office:text></office:body></office:document-content>`,
    ),
    'Thumbnails/thumbnail.png': new Uint8Array(await page.png().toBuffer()),
  });
}

/** A programme of two pages: a cover with a picture, and what is on. */
async function makeProgramme(
  target: string,
  { title, lines }: { title: string; lines: readonly string[] },
  cover: string | undefined,
): Promise<void> {
  const document = new PDFDocument({ size: 'A5', info: { Title: title, Author: 'Saltmarsh Kite Museum' } });
  const written = pipeline(document, createWriteStream(target));
  document.fontSize(22).text(title);
  if (cover) document.moveDown().image(cover, { width: 300 });
  document.addPage().fontSize(13);
  for (const line of lines) document.text(line).moveDown();
  document.end();
  await written;
}
