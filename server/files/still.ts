// A still picture of files that the picture library does not decode: by programs of the system, where they are there.

import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { kindFacts, type FileKind } from '@stellin/core/metadata/containers/index';
import { SAFELY } from './probeMedia';
import { runOwn, runTool, type Tool } from './tools';
import { ROOT } from '../root';

interface StillProgram {
  /** A program of the system, or a file of ours that is run as a process. */
  tool: Tool | { own: string };
  /** What makes a PNG of a file; of a document one page, `pixels` on its longer side. */
  arguments(path: string, png: string, pixels: number, page: number): string[];
}

const byFfmpeg = (...filter: string[]): StillProgram => ({
  tool: 'ffmpeg',
  arguments: (path, png) => [
    ...['-v', 'error', '-nostdin', ...SAFELY, '-i', `file:${path}`],
    ...filter,
    ...['-frames:v', '1', `file:${png}`],
  ],
});

/** The most telling of the first hundred frames. */
const film = byFfmpeg('-vf', 'thumbnail');
/** How loud it is over its length. */
const sound = byFfmpeg(
  '-filter_complex',
  'aformat=channel_layouts=mono,showwavespic=s=640x360:scale=cbrt:draw=full:colors=0x0D6A55[wave];color=c=0xF5F6F5:s=640x360[ground];[ground][wave]overlay=shortest=1',
);

const PROGRAMS: Partial<Record<FileKind, StillProgram>> = {
  pdf: {
    tool: 'pdftoppm',
    arguments: (path, png, pixels, page) => [
      ...['-png', '-singlefile', '-f', String(page), '-l', String(page)],
      // It adds the ending itself.
      ...['-scale-to', String(pixels), path, png.replace(/\.png$/, '')],
    ],
  },
  heic: {
    tool: { own: join(ROOT, 'server', 'files', 'heic.worker.ts') },
    arguments: (path, png) => [path, png],
  },
  jxl: { tool: 'djxl', arguments: (path, png) => [path, png] },
  jp2: { tool: 'opj_decompress', arguments: (path, png) => ['-quiet', '-i', path, '-o', png] },
};

const LIMITS = { seconds: 30 };

function programOf(kind: FileKind | undefined): StillProgram | undefined {
  if (kind === undefined) return undefined;
  const { media } = kindFacts(kind);
  return media === 'film' ? film : media === 'sound' ? sound : PROGRAMS[kind];
}

/** Whether stills of a kind are made by a program of the system. */
export function hasStillProgram(kind: FileKind | undefined): boolean {
  return programOf(kind) !== undefined;
}

/** A still picture of a file in a format the picture library reads; of a document the page, from 1. Throws an Error that says why there is none. */
export async function stillOf(path: string, kind: FileKind, pixels: number, page = 1): Promise<Buffer> {
  const program = programOf(kind);
  if (!program) throw new Error('no program makes pictures of files of this kind');
  const folder = await mkdtemp(join(tmpdir(), 'stellin-still-'));
  try {
    const png = join(folder, 'still.png');
    const { tool } = program;
    const given = program.arguments(path, png, pixels, page);
    if (typeof tool === 'string') await runTool(tool, given, LIMITS);
    else await runOwn(tool.own, given, LIMITS);
    return await readFile(png);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}
