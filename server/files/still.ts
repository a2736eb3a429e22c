// A still picture of files that the picture library does not decode: by programs of the system, where they are there.

import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { kindFacts, type FileKind } from '@stellin/core/metadata/containers/index';
import { officePicture, OFFICE_KINDS } from '@stellin/core/metadata/office';
import { systemCode } from '../errors';
import { SAFELY } from './probeMedia';
import { withSource } from './source';
import { runOwn, runTool, type Tool } from './tools';
import { ROOT } from '../root';

interface StillProgram {
  /** A program of the system, or a file of ours that is run as a process. */
  tool: Tool | { own: string };
  /** What makes a PNG of a file; of a document one page, `pixels` on its longer side. */
  arguments(path: string, png: string, wanted: WantedStill): string[];
}

/** Which still picture of a file. */
export interface WantedStill {
  /** On the longer side of what is drawn. */
  pixels: number;
  /** Of a document, from 1. */
  page?: number;
  /** Of a film, in seconds; else a telling one is found. */
  at?: number | null;
}

const byFfmpeg = (filterOf: (at: number | null) => string[]): StillProgram => ({
  tool: 'ffmpeg',
  arguments: (path, png, { at = null }) => [
    ...['-v', 'error', '-nostdin', ...(at === null ? [] : ['-ss', String(at)]), ...SAFELY, '-i', `file:${path}`],
    ...filterOf(at),
    ...['-frames:v', '1', `file:${png}`],
  ],
});

/** The picture at a moment, or the most telling of the first hundred. */
const film = byFfmpeg((at) => (at === null ? ['-vf', 'thumbnail'] : []));
/** How loud it is over its length. */
const sound = byFfmpeg(() => [
  '-filter_complex',
  'aformat=channel_layouts=mono,showwavespic=s=640x360:scale=cbrt:draw=full:colors=0x0D6A55[wave];color=c=0xF5F6F5:s=640x360[ground];[ground][wave]overlay=shortest=1',
]);

/** Pixels on the longer side up to which half of those that a camera has are enough. */
const HALF_PIXELS = 1000;
/** A page has no pixels of its own: drawn as large as a picture can be it would take minutes. An A4 page has some 340 to the inch so. */
const PAGE_PIXELS = 4000;

/** What a sensor recorded, in the white balance of the camera and as its pixels stand. */
const developed: StillProgram = {
  tool: 'dcraw_emu',
  arguments: (path, png, { pixels }) => [
    ...['-w', '-t', '0', '-o', '1', '-T', ...(pixels <= HALF_PIXELS ? ['-h'] : ['-q', '2'])],
    // It is a TIFF, whatever it is called.
    ...['-Z', png, path],
  ],
};

const PROGRAMS: Partial<Record<FileKind, StillProgram>> = {
  pdf: {
    tool: 'pdftoppm',
    arguments: (path, png, { pixels, page = 1 }) => [
      ...['-png', '-singlefile', '-f', String(page), '-l', String(page)],
      // It adds the ending itself.
      ...['-scale-to', String(Math.min(pixels, PAGE_PIXELS)), path, png.replace(/\.png$/, '')],
    ],
  },
  heic: {
    tool: { own: join(ROOT, 'server', 'files', 'heic.worker.ts') },
    arguments: (path, png) => [path, png],
  },
  jxl: { tool: 'djxl', arguments: (path, png) => [path, png] },
  raw: developed,
  dng: developed,
  jp2: { tool: 'opj_decompress', arguments: (path, png) => ['-quiet', '-i', path, '-o', png] },
};

const LIMITS = { seconds: 30 };

function programOf(kind: FileKind | undefined): StillProgram | undefined {
  if (kind === undefined) return undefined;
  const { media } = kindFacts(kind);
  return media === 'film' ? film : media === 'sound' ? sound : PROGRAMS[kind];
}

/** Whether stills of a kind are taken out of it, or made of it, before the picture library reads them. */
export function hasStill(kind: FileKind | undefined): boolean {
  return programOf(kind) !== undefined || (kind !== undefined && OFFICE_KINDS[kind] !== undefined);
}

/** A still picture of a file in a format the picture library reads; see `WantedStill`. Throws an Error that says why there is none. */
export async function stillOf(path: string, kind: FileKind, wanted: WantedStill): Promise<Buffer> {
  if (OFFICE_KINDS[kind]) return insideOf(path, kind);
  const program = programOf(kind);
  if (!program) throw new Error('no program makes pictures of files of this kind');
  const folder = await mkdtemp(join(tmpdir(), 'stellin-still-'));
  try {
    const png = join(folder, 'still.png');
    const { tool } = program;
    const given = program.arguments(path, png, wanted);
    if (typeof tool === 'string') await runTool(tool, given, LIMITS);
    else await runOwn(tool.own, given, LIMITS);
    return await readFile(png).catch((error: unknown) => {
      if (systemCode(error) === 'ENOENT') throw new Error('it can’t be decoded', { cause: error });
      throw error;
    });
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

/** The picture of its first page that a document holds. */
function insideOf(path: string, kind: FileKind): Buffer {
  const picture = withSource(path, (source) => officePicture(source, kind)?.slice());
  if (!picture) throw new Error('the document holds no picture of its first page');
  return Buffer.from(picture);
}
