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
  /** What makes `target` of `path`; the program may add `.png` itself. */
  arguments(path: string, target: string, pixels: number, page: number): string[];
  makes: (target: string) => string;
}

const film: StillProgram = {
  tool: 'ffmpeg',
  // The most telling of the first hundred frames.
  arguments: (path, target) => [
    '-v',
    'error',
    '-nostdin',
    ...SAFELY,
    '-i',
    `file:${path}`,
    '-vf',
    'thumbnail',
    '-frames:v',
    '1',
    `file:${target}.png`,
  ],
  makes: (target) => `${target}.png`,
};

const sound: StillProgram = {
  tool: 'ffmpeg',
  // The cover, where there is one, or else how loud it is over its length.
  arguments: (path, target) => [
    '-v',
    'error',
    '-nostdin',
    ...SAFELY,
    '-i',
    `file:${path}`,
    '-filter_complex',
    'aformat=channel_layouts=mono,showwavespic=s=640x360:scale=cbrt:draw=full:colors=0x0D6A55[wave];color=c=0xF5F6F5:s=640x360[ground];[ground][wave]overlay=shortest=1',
    '-frames:v',
    '1',
    `file:${target}.png`,
  ],
  makes: (target) => `${target}.png`,
};

const PROGRAMS: Partial<Record<FileKind, StillProgram>> = {
  pdf: {
    tool: 'pdftoppm',
    arguments: (path, target, pixels, page) => [
      ...['-png', '-singlefile', '-f', String(page), '-l', String(page)],
      ...['-scale-to', String(pixels), path, target],
    ],
    makes: (target) => `${target}.png`,
  },
  heic: {
    tool: { own: join(ROOT, 'server', 'files', 'heic.worker.ts') },
    arguments: (path, target) => [path, `${target}.png`],
    makes: (target) => `${target}.png`,
  },
  jxl: {
    tool: 'djxl',
    arguments: (path, target) => [path, `${target}.png`],
    makes: (target) => `${target}.png`,
  },
  jp2: {
    tool: 'opj_decompress',
    // It takes the format from the name.
    arguments: (path, target) => ['-quiet', '-i', path, '-o', `${target}.png`],
    makes: (target) => `${target}.png`,
  },
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
    const target = join(folder, 'still');
    const { tool } = program;
    const given = program.arguments(path, target, pixels, page);
    if (typeof tool === 'string') await runTool(tool, given, LIMITS);
    else await runOwn(tool.own, given, LIMITS);
    return await readFile(program.makes(target));
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}
