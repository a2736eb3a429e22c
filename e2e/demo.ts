// A running demo for the tests: `./stellin demo --small` in a data folder of its own, started once, stopped at the end.

import { execFile, spawn, type ChildProcess } from 'node:child_process';
import { chmod, mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { places } from '@stellin/server/config';
import { freePort } from '@stellin/server/database/cluster';

export interface RunningDemo {
  url: string;
  /** The data folder it was started with, and the demo's own below it. */
  base: string;
  home: string;
  /** Resolves when it has printed a text. */
  printed(text: string): Promise<void>;
  /** What it printed so far. */
  output(): string;
  /** Sends Ctrl-C and waits; returns the exit code. */
  stop(): Promise<number | null>;
}

const ROOT = join(__dirname, '..');
const run = promisify(execFile);

/** A data folder with the demo prepared in it. */
export async function makeHome(): Promise<string> {
  const prepared = process.env['STELLIN_E2E_HOME'];
  if (!prepared) throw new Error('there is no prepared demo; run the tests through playwright or ./stellin test');
  const home = await makeEmptyHome();
  // With owners and times: PostgreSQL's user owns its part, and the catalogue knows the times of files.
  await run('cp', ['-a', `${prepared}/.`, home]);
  // Copies that start side by side each take a port of their own.
  await rm(join(places.demo(home), 'postgres-port'), { force: true });
  return home;
}

/** A data folder that PostgreSQL's user may enter. */
export async function makeEmptyHome(): Promise<string> {
  const home = await mkdtemp(join(tmpdir(), 'stellin-e2e-'));
  await chmod(home, 0o755);
  return home;
}

/** Removes the data folder of a demo with the one above it. */
export function removeHome(home: string): Promise<void> {
  return rm(join(home, '..'), { recursive: true, force: true });
}

/** Starts the demo and resolves when it says that it is there. */
export async function startDemo(home: string): Promise<RunningDemo> {
  const port = await freePort(0);
  const child = spawn('./stellin', ['demo', '--small'], {
    cwd: ROOT,
    env: {
      ...process.env,
      NODE_OPTIONS: '',
      STELLIN_HOME: home,
      STELLIN_PORT: String(port),
      // Pictures are looked at for faces when a test asks for it.
      STELLIN_FACES: 'off',
      STELLIN_DATABASE_URL: undefined,
    },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  let output = '';
  const ended = new Promise<number | null>((resolve) => child.on('exit', resolve));
  const waiting = new Set<() => void>();
  for (const stream of [child.stdout, child.stderr])
    stream.on('data', (chunk: Buffer) => {
      output += chunk.toString();
      for (const look of waiting) look();
    });
  const printed = (text: string) =>
    new Promise<void>((resolve, reject) => {
      const look = () => {
        if (!output.includes(text)) return;
        waiting.delete(look);
        resolve();
      };
      waiting.add(look);
      look();
      void ended.then((code) => reject(new Error(`the demo ended with ${code}:\n${output}`)));
    });
  await printed('Stellin is at');
  return {
    url: `http://127.0.0.1:${port}`,
    base: home,
    home: places.demo(home),
    printed,
    output: () => output,
    stop: () => stop(child, ended),
  };
}

function stop(child: ChildProcess, ended: Promise<number | null>): Promise<number | null> {
  child.kill('SIGINT');
  return ended;
}
