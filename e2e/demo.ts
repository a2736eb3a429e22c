// A running demo for the tests: `./stellin demo --small` in a data folder of its own, started once, stopped at the end.

import { execFile, spawn, type ChildProcess } from 'node:child_process';
import { chmod, mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { freePort } from '@stellin/server/database/cluster';

export interface RunningDemo {
  url: string;
  home: string;
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
  await rm(join(home, 'postgres-port'), { force: true });
  return home;
}

/** A data folder that PostgreSQL's user may enter. */
export async function makeEmptyHome(): Promise<string> {
  const home = await mkdtemp(join(tmpdir(), 'stellin-e2e-'));
  await chmod(home, 0o755);
  return home;
}

export function removeHome(home: string): Promise<void> {
  return rm(home, { recursive: true, force: true });
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
  await new Promise<void>((resolve, reject) => {
    const read = (chunk: Buffer) => {
      output += chunk.toString();
      if (output.includes('Stellin is at')) resolve();
    };
    child.stdout.on('data', read);
    child.stderr.on('data', read);
    void ended.then((code) => reject(new Error(`the demo ended with ${code}:\n${output}`)));
  });
  return { url: `http://127.0.0.1:${port}`, home, output: () => output, stop: () => stop(child, ended) };
}

function stop(child: ChildProcess, ended: Promise<number | null>): Promise<number | null> {
  child.kill('SIGINT');
  return ended;
}
