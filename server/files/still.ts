// A still picture of files that the picture library does not decode: by programs of the system, where they are there.

import { execFile } from 'node:child_process';
import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import type { FileKind } from '@stellin/core/metadata/containers/index';
import { systemCode } from '../errors';

interface StillProgram {
  command: string;
  /** The Debian package it comes with. */
  from: string;
  /** What makes `target` of `path`; the program may add `.png` itself. */
  arguments(path: string, target: string, pixels: number): string[];
  makes: (target: string) => string;
}

const video: StillProgram = {
  command: 'ffmpeg',
  from: 'ffmpeg',
  // The most telling of the first hundred frames.
  arguments: (path, target) => [
    '-v',
    'error',
    '-nostdin',
    '-i',
    path,
    '-vf',
    'thumbnail',
    '-frames:v',
    '1',
    `${target}.png`,
  ],
  makes: (target) => `${target}.png`,
};

const PROGRAMS: Partial<Record<FileKind, StillProgram>> = {
  pdf: {
    command: 'pdftoppm',
    from: 'poppler-utils',
    arguments: (path, target, pixels) => ['-png', '-singlefile', '-scale-to', String(pixels), path, target],
    makes: (target) => `${target}.png`,
  },
  heic: {
    command: 'heif-convert',
    from: 'libheif-examples',
    arguments: (path, target) => [path, `${target}.png`],
    makes: (target) => `${target}.png`,
  },
  mp4: video,
  mov: video,
};

const TIMEOUT_MS = 30_000;
const run = promisify(execFile);

/** Whether stills of a kind are made by a program of the system. */
export function hasStillProgram(kind: FileKind | undefined): boolean {
  return kind !== undefined && PROGRAMS[kind] !== undefined;
}

/** A still picture of a file in a format the picture library reads. Throws an Error that says why there is none. */
export async function stillOf(path: string, kind: FileKind, pixels: number): Promise<Buffer> {
  const program = PROGRAMS[kind];
  if (!program) throw new Error('no program makes pictures of files of this kind');
  const folder = await mkdtemp(join(tmpdir(), 'stellin-still-'));
  try {
    const target = join(folder, 'still');
    // The environment as it is now: programs are looked for where its PATH says.
    await run(program.command, program.arguments(path, target, pixels), { timeout: TIMEOUT_MS, env: process.env });
    return await readFile(program.makes(target));
  } catch (error) {
    if (systemCode(error) === 'ENOENT')
      throw new Error(`${program.command} is not installed here (Debian’s package ${program.from})`, { cause: error });
    throw new Error(`${program.command} could not read it`, { cause: error });
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}
