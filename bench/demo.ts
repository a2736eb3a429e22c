// `bench demo`: the first minutes. How long a new demo takes to open, how quickly it answers each key while the rest of it is
// prepared behind, and when all of it is there.

import { spawn, type ChildProcess } from 'node:child_process';
import { chmod, mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { DEMO_ACCOUNTS } from '@stellin/server/accounts/demoAccounts';
import { freePort } from '@stellin/server/database/cluster';
import { ROOT } from '@stellin/server/root';
import { signedIn, type Ask } from './asking';
import { atMost, quantiles, report, type Report } from './report';

const OPEN_AIM_SECONDS = 75;
const SMALL_OPEN_AIM_SECONDS = 40;
const KEY_AIM_MS = 150;
/** As quickly as somebody types. */
const KEY_PAUSE_MS = 220;
const TYPED = [
  'rokkaku',
  'kite festival',
  'term:Delta',
  'rating:>=3',
  'box kite harbour',
  'vault',
  'person',
  'taken:2011',
];

export async function benchDemo(): Promise<Report> {
  const small = await firstMinutes(true);
  const whole = await firstMinutes(false);
  const rows = [
    { id: 'small demo opens', value: small.opened, unit: 's' },
    { id: 'demo opens', value: whole.opened, unit: 's' },
    { id: 'all of the demo is there', value: whole.complete, unit: 's' },
    ...quantiles('key to suggestions meanwhile', whole.keys, 'ms'),
    ...quantiles('Enter to a page and its count meanwhile', whole.enters, 'ms'),
  ];
  const worst = Math.max(...rows.filter(({ id }) => id.endsWith('p95')).map(({ value }) => value));
  return report('demo', rows, [
    atMost('small demo opens, seconds', small.opened, SMALL_OPEN_AIM_SECONDS),
    atMost('demo opens, seconds', whole.opened, OPEN_AIM_SECONDS),
    atMost('key to answer meanwhile, ms (p95)', worst, KEY_AIM_MS),
  ]);
}

interface FirstMinutes {
  /** Seconds until it could be looked at, and until all of it was there. */
  opened: number;
  complete: number;
  /** Milliseconds of each answer between the two. */
  keys: number[];
  enters: number[];
}

/** A demo from an empty data folder to its end; of the small one only the opening is waited for. */
async function firstMinutes(small: boolean): Promise<FirstMinutes> {
  const home = await mkdtemp(join(tmpdir(), 'stellin-bench-'));
  await chmod(home, 0o755);
  const port = await freePort(0);
  const began = performance.now();
  const seconds = () => (performance.now() - began) / 1000;
  const child = spawn('./stellin', ['demo', ...(small ? ['--small'] : [])], {
    cwd: ROOT,
    env: { ...process.env, STELLIN_HOME: home, STELLIN_PORT: String(port), STELLIN_DATABASE_URL: undefined },
    stdio: ['ignore', 'pipe', 'ignore'],
  });
  const ended = new Promise<void>((resolve) => child.on('exit', () => resolve()));
  try {
    const complete = printed(child, 'All of the demo is there').then(seconds);
    await Promise.race([
      printed(child, 'Stellin is at'),
      ended.then(() => Promise.reject(new Error('the demo ended'))),
    ]);
    const opened = seconds();
    if (small) return { opened, complete: 0, keys: [], enters: [] };
    const [keeper] = DEMO_ACCOUNTS;
    const ask = await signedIn(`http://127.0.0.1:${port}`, keeper);
    return { opened, ...(await typeUntil(complete, ask)) };
  } finally {
    child.kill('SIGINT');
    await ended;
    await rm(home, { recursive: true, force: true });
  }
}

/** Types one query after the other until something has happened. */
async function typeUntil(complete: Promise<number>, ask: Ask): Promise<Omit<FirstMinutes, 'opened'>> {
  const keys: number[] = [];
  const enters: number[] = [];
  let at: number | undefined;
  void complete.then((seconds) => (at = seconds));
  for (let i = 0; at === undefined; i++) {
    const text = TYPED[i % TYPED.length] ?? '';
    for (let length = 1; length <= text.length && at === undefined; length++) {
      const typed = encodeURIComponent(text.slice(0, length));
      keys.push(await ask(`/api/suggestions?text=${typed}&query=`));
      await pause(KEY_PAUSE_MS);
    }
    const query = encodeURIComponent(text);
    const asked = [`/api/photos?query=${query}&sort=taken-desc&offset=0&limit=200`, `/api/photos/count?query=${query}`];
    enters.push(Math.max(...(await Promise.all(asked.map((path) => ask(path))))));
  }
  return { complete: at, keys, enters };
}

function printed(child: ChildProcess, text: string): Promise<void> {
  let output = '';
  return new Promise((resolve) =>
    child.stdout?.on('data', (chunk: Buffer) => {
      output += chunk.toString();
      if (output.includes(text)) resolve();
    }),
  );
}
