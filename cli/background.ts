// The server as a process in the background: started, asked for, stopped, and what it has printed.

import { spawn } from 'node:child_process';
import {
  closeSync,
  existsSync,
  mkdirSync,
  openSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { join } from 'node:path';
import { z } from 'zod';
import { places, readConfig, type Config, type DataKind } from '@stellin/server/config';
import { ROOT } from '@stellin/server/root';
import { programOf } from '@stellin/server/threads/program';

const processNote = z.object({
  pid: z.number().int().positive(),
  /** Null while it is starting. */
  url: z.string().nullable(),
  since: z.iso.datetime(),
});
type ProcessNote = z.infer<typeof processNote>;

/** What the server tells whoever started it in the background. */
const greeting = z.object({ url: z.string() });

/** The exit status of `status` when nothing runs, as the Linux Standard Base has it for services. */
const NOT_RUNNING = 3;
/** A log larger than this is put aside when the next server starts. */
const MAX_LOG_BYTES = 10_000_000;
const LAST_LINES = '200';
const PROGRAM = join(ROOT, 'cli', 'main.ts');

export interface ServingProcess {
  /** Notes that it can be looked at, and tells whoever started it. */
  serves(url: string): void;
  ended(): void;
}

/** Notes that this process is the one that serves a data folder. Throws an Error when another does. */
export function beTheServer(config: Config): ServingProcess {
  const path = places.processFile(config.home);
  const since = new Date().toISOString();
  const text = (url: string | null) => `${JSON.stringify({ pid: process.pid, url, since } satisfies ProcessNote)}\n`;
  mkdirSync(config.home, { recursive: true });
  requireNotRunning(config);
  rmSync(path, { force: true });
  // Of two that start together the second finds it there.
  writeFileSync(path, text(null), { flag: 'wx' });
  return {
    serves(url) {
      writeFileSync(path, text(url));
      process.send?.({ url } satisfies z.infer<typeof greeting>);
    },
    ended: () => rmSync(path, { force: true }),
  };
}

/** The process that serves a data folder; undefined when there is none. */
export function runningProcess({ home }: Config): ProcessNote | undefined {
  const path = places.processFile(home);
  if (!existsSync(path)) return undefined;
  const note = processNote.safeParse(parsed(readFileSync(path, 'utf8')));
  return note.success && isOurs(note.data.pid) ? note.data : undefined;
}

/** Throws an Error when a data folder is served already. */
export function requireNotRunning(config: Config): void {
  const running = runningProcess(config);
  if (running) throw new Error(`Stellin is running already${placeOf(running)} (process ${running.pid}).`);
}

/** Starts the server as a process of its own and waits until it can be looked at. */
export async function serveInBackground(kind: DataKind, config: Config, flags: readonly string[]): Promise<number> {
  const log = places.log(config.home);
  mkdirSync(config.home, { recursive: true });
  if (existsSync(log) && statSync(log).size > MAX_LOG_BYTES) renameSync(log, `${log}.1`);
  const before = existsSync(log) ? statSync(log).size : 0;
  const file = openSync(log, 'a', 0o600);
  const command = kind === 'demo' ? 'demo' : 'start';
  const child = spawn(process.execPath, [programOf(PROGRAM), command, ...flags], {
    cwd: ROOT,
    detached: true,
    stdio: ['ignore', file, file, 'ipc'],
  });
  closeSync(file);
  const url = await new Promise<string | undefined>((resolve, reject) => {
    child.on('message', (message) => resolve(greeting.parse(message).url));
    child.on('exit', () => resolve(undefined));
    child.on('error', reject);
  });
  process.stdout.write(readFileSync(log).subarray(before));
  if (url === undefined) {
    console.error(`✗ Stellin did not start; what it printed is in ${log}`);
    return 1;
  }
  child.disconnect();
  child.unref();
  console.log(`It goes on in the background (process ${child.pid}); ./stellin stop${flagOf(kind)} ends it.`);
  return 0;
}

/** Which server is meant. */
interface Which {
  demo?: boolean;
}

/** `./stellin stop`: ends the server and waits until it has ended. */
export async function stopCommand({ demo }: Which): Promise<number> {
  const config = configOf(demo);
  const running = runningProcess(config);
  if (!running) {
    console.log(`Nothing is running for ${config.home}.`);
    return 0;
  }
  process.kill(running.pid, 'SIGTERM');
  await ended(running.pid);
  console.log('Stellin has stopped.');
  return 0;
}

/** `./stellin status`: whether a server runs, and where. */
export function statusCommand({ demo }: Which): number {
  const config = configOf(demo);
  const running = runningProcess(config);
  if (!running) {
    console.log(`Stellin is not running for ${config.home}.`);
    return NOT_RUNNING;
  }
  const { pid, url, since } = running;
  console.log(
    `Stellin ${url === null ? 'is starting' : `is at ${url}`}, since ${since} (process ${pid}), for ${config.home}.`,
  );
  return 0;
}

/** `./stellin logs`: what a server in the background has printed. */
export async function logsCommand({ demo, follow }: Which & { follow?: boolean }): Promise<number> {
  const config = configOf(demo);
  const log = places.log(config.home);
  if (!existsSync(log)) {
    console.log(`There is no log at ${log}; a server in the background, or a service, writes one.`);
    return 0;
  }
  const child = spawn('tail', ['-n', LAST_LINES, ...(follow ? ['-F'] : []), log], { stdio: 'inherit' });
  return new Promise((resolve) => child.on('close', (code) => resolve(code ?? 0)));
}

function configOf(demo: boolean | undefined): Config {
  return readConfig(demo ? 'demo' : 'archive');
}

function placeOf({ url }: ProcessNote): string {
  return url === null ? ', and is starting' : `, at ${url}`;
}

function flagOf(kind: DataKind): string {
  return kind === 'demo' ? ' --demo' : '';
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}

/** Whether a process is there and runs our program: numbers of processes are given again. */
function isOurs(pid: number): boolean {
  try {
    return readFileSync(`/proc/${pid}/cmdline`, 'utf8')
      .split('\0')
      .some((part) => part.endsWith('main.cjs'));
  } catch {
    return false;
  }
}

const LOOK_MS = 50;

/** Resolves when a process is no more. */
function ended(pid: number): Promise<void> {
  return new Promise((resolve) => {
    const timer = setInterval(() => {
      if (isOurs(pid)) return;
      clearInterval(timer);
      resolve();
    }, LOOK_MS);
  });
}
