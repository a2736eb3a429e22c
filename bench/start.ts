// `bench start`: how long a second start takes, from the command to the first answer, beside what Node.js alone takes.

import { spawn, spawnSync } from 'node:child_process';
import { mkdtemp, rm, chmod } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ROOT } from '@stellin/server/root';
import { freePort } from '@stellin/server/database/cluster';
import { atMost, quantiles, report, type Report } from './report';

const ROUNDS = 10;
/** A second start is to take seconds: at most this many. */
const SECONDS_AIM = 3;

export async function benchStart(): Promise<Report> {
  const home = await mkdtemp(join(tmpdir(), 'stellin-bench-'));
  await chmod(home, 0o755);
  try {
    const first = await startOnce(home);
    const starts: number[] = [];
    const stops: number[] = [];
    const bare: number[] = [];
    for (let i = 0; i < ROUNDS; i++) {
      const { start, stop } = await startOnce(home);
      starts.push(start);
      stops.push(stop);
      bare.push(bareStart());
    }
    const rows = [
      { id: 'first start, cluster made', value: first.start, unit: 'ms' },
      ...quantiles('second start', starts, 'ms'),
      ...quantiles('stop', stops, 'ms'),
      ...quantiles('node alone', bare, 'ms'),
    ];
    return report('start', rows, [
      atMost(
        'second start, seconds (p95)',
        (rows.find(({ id }) => id === 'second start p95')?.value ?? 0) / 1000,
        SECONDS_AIM,
      ),
    ]);
  } finally {
    await rm(home, { recursive: true, force: true });
  }
}

async function startOnce(home: string): Promise<{ start: number; stop: number }> {
  const port = await freePort(0);
  const began = performance.now();
  const child = spawn('./stellin', ['start'], {
    cwd: ROOT,
    env: { ...process.env, STELLIN_HOME: home, STELLIN_PORT: String(port) },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  const ended = new Promise<void>((resolve) => child.on('exit', () => resolve()));
  await new Promise<void>((resolve, reject) => {
    child.stdout.on('data', (chunk: Buffer) => chunk.toString().includes('Stellin is at') && resolve());
    void ended.then(() => reject(new Error('the server ended before it was there')));
  });
  await fetch(`http://127.0.0.1:${port}/api/session`);
  const start = performance.now() - began;
  const stopping = performance.now();
  child.kill('SIGINT');
  await ended;
  return { start, stop: performance.now() - stopping };
}

function bareStart(): number {
  const began = performance.now();
  spawnSync(process.execPath, ['-e', '0'], { cwd: ROOT });
  return performance.now() - began;
}
