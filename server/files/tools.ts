// Programs of the system that read files from outside, each with limits of time and memory: what a file may make them do is bounded.

import { execFile, execFileSync, spawn } from 'node:child_process';
import { promisify } from 'node:util';
import type { Readable } from 'node:stream';
import { systemCode } from '../errors';
import { programOf } from '../threads/program';

/** A program, and the Debian package it comes with. */
export const TOOLS = {
  ffprobe: 'ffmpeg',
  ffmpeg: 'ffmpeg',
  pdftoppm: 'poppler-utils',
  pdftotext: 'poppler-utils',
  pdfinfo: 'poppler-utils',
  djxl: 'libjxl-tools',
  opj_decompress: 'libopenjp2-tools',
  dcraw_emu: 'libraw-bin',
  tesseract: 'tesseract-ocr',
} as const;
export type Tool = keyof typeof TOOLS;

export interface Limits {
  seconds: number;
  /** Of address space. */
  megabytes?: number;
}

const MEGABYTE = 1024 * 1024;
const MEGABYTES = 3000;
const MAX_OUTPUT = 64 * MEGABYTE;
const run = promisify(execFile);

/** The command line with its limits: time on the processor too, for what is stopped and goes on. */
function limited(tool: Tool, given: readonly string[], { seconds, megabytes = MEGABYTES }: Limits): string[] {
  return ['prlimit', `--as=${megabytes * MEGABYTE}`, `--cpu=${Math.ceil(seconds)}`, tool, ...given];
}

/** The environment as it is now: programs are looked for where its PATH says. Languages would change what they say; one that works on several
 * processors at once would leave nothing for who waits. */
const environment = () => ({ ...process.env, LC_ALL: 'C.UTF-8', OMP_THREAD_LIMIT: '1' });

/** Runs a TypeScript file of ours, built, as a process of its own with the same limits. Throws an Error with what it says. */
export async function runOwn(file: string, given: readonly string[], limits: Limits): Promise<void> {
  const { seconds, megabytes = MEGABYTES } = limits;
  // Node.js reserves far more address space than it uses: what it uses is limited.
  const bounds = [`--data=${megabytes * MEGABYTE}`, `--cpu=${Math.ceil(seconds)}`];
  try {
    await run('prlimit', [...bounds, process.execPath, programOf(file), ...given], {
      timeout: seconds * 1000,
      killSignal: 'SIGKILL',
      env: { ...environment(), NODE_OPTIONS: '' },
    });
  } catch (error) {
    const { killed, signal, stderr } = error as Partial<Record<'killed' | 'signal' | 'stderr', unknown>>;
    if (killed === true || signal) throw new Error('decoding it took too long', { cause: error });
    throw new Error(`it can’t be decoded: ${lastLine(stderr)}`, { cause: error });
  }
}

/** Runs a program to its end, given what it reads; returns what it wrote. Throws an Error that says whether it is missing, took too long, or could not read the file. */
export async function runTool(
  tool: Tool,
  given: readonly string[],
  limits: Limits,
  input?: Uint8Array,
): Promise<Buffer> {
  const [command = '', ...rest] = limited(tool, given, limits);
  try {
    const running = run(command, rest, {
      timeout: limits.seconds * 1000,
      killSignal: 'SIGKILL',
      maxBuffer: MAX_OUTPUT,
      env: environment(),
      encoding: 'buffer',
    });
    // One that ends before it has read all says itself why.
    running.child.stdin?.on('error', () => undefined);
    running.child.stdin?.end(input);
    return (await running).stdout;
  } catch (error) {
    throw toolError(tool, error);
  }
}

/** The same at once, for threads that do nothing else. */
export function runToolNow(tool: Tool, given: readonly string[], limits: Limits): Buffer {
  const [command = '', ...rest] = limited(tool, given, limits);
  try {
    return execFileSync(command, rest, {
      timeout: limits.seconds * 1000,
      killSignal: 'SIGKILL',
      maxBuffer: MAX_OUTPUT,
      env: environment(),
      stdio: ['ignore', 'pipe', 'pipe'],
    });
  } catch (error) {
    throw toolError(tool, error);
  }
}

/** Gives what a program writes as it writes it. `ended` rejects where it failed, or took longer than it may. */
export function streamTool(
  tool: Tool,
  given: readonly string[],
  limits: Limits,
): { output: Readable; ended: Promise<void> } {
  const [command = '', ...rest] = limited(tool, given, limits);
  const child = spawn(command, rest, {
    timeout: limits.seconds * 1000,
    killSignal: 'SIGKILL',
    env: environment(),
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  let said = '';
  child.stderr.on('data', (chunk: Buffer) => (said = `${said}${chunk.toString()}`.slice(-2000)));
  const ended = new Promise<void>((resolve, reject) => {
    child.on('error', (error) => reject(toolError(tool, error)));
    child.on('close', (status, signal) =>
      status === 0 ? resolve() : reject(toolError(tool, { status, signal, stderr: said })),
    );
  });
  // Whoever waits for the end is told.
  ended.catch(() => undefined);
  return { output: child.stdout, ended };
}

/** The end of what a program said. */
function lastLine(said: unknown): string {
  return (
    String(said ?? '')
      .trim()
      .split('\n')
      .at(-1) ?? ''
  );
}

/** A program is not installed. */
export class MissingTool extends Error {
  constructor(readonly tool: Tool) {
    super(`${tool} is not installed here (Debian’s package ${TOOLS[tool]})`);
  }
}

/** Whether something could not be done because a program is missing, which is no fault of the file. */
export function isToolMissing(error: unknown): boolean {
  return error instanceof MissingTool || (error instanceof Error && error.cause instanceof MissingTool);
}

/** prlimit ends so where it finds no such program. */
const NOT_FOUND = 127;

function toolError(tool: Tool, error: unknown): Error {
  const { status, code, killed, signal, stderr } = error as Partial<
    Record<'status' | 'code' | 'killed' | 'signal' | 'stderr', unknown>
  >;
  const ended = typeof status === 'number' ? status : code;
  if (ended === NOT_FOUND || systemCode(error) === 'ENOENT') return new MissingTool(tool);
  if (killed === true || signal === 'SIGKILL' || signal === 'SIGXCPU' || systemCode(error) === 'ETIMEDOUT')
    return new Error(`${tool} took too long over it`, { cause: error });
  const last = lastLine(stderr);
  return new Error(`${tool} could not read it${last ? `: ${last.slice(0, 200)}` : ''}`, { cause: error });
}
