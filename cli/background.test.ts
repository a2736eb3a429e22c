import { execFile } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { chmod, mkdir, readdir, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { places } from '@stellin/server/config';
import { freePort } from '@stellin/server/database/cluster';
import { ROOT } from '@stellin/server/root';
import { programOf } from '@stellin/server/threads/program';

const home = mkdtempSync(join(tmpdir(), 'stellin-background-'));
let port = 0;
beforeAll(async () => {
  await chmod(home, 0o755);
  port = (await freePort(0)) ?? 0;
});
afterAll(async () => {
  await run('stop');
  await rm(home, { recursive: true, force: true });
});

interface Ran {
  code: number;
  output: string;
}

/** A command as a process of its own, with what it is given on standard input. */
function run(command: string, args: readonly string[] = [], input = ''): Promise<Ran> {
  const env = {
    ...process.env,
    NODE_OPTIONS: '',
    STELLIN_HOME: home,
    STELLIN_PORT: String(port),
    STELLIN_MOUNTS: 'off',
    STELLIN_DATABASE_URL: undefined,
  };
  return new Promise((resolve) => {
    const child = execFile(
      process.execPath,
      [programOf(join(ROOT, 'cli', 'main.ts')), command, ...args],
      { env },
      (error, stdout, stderr) => resolve({ code: Number(error?.code ?? 0), output: stdout + stderr }),
    );
    child.stdin?.end(input);
  });
}

/** The processes that a server has started. */
async function workersOf(server: number): Promise<number[]> {
  // Of each line of stat (proc(5)) the fourth field is the parent; the second, in brackets, may hold anything.
  const numbers = (await readdir('/proc')).map(Number).filter((pid) => pid > 0);
  return numbers.filter((pid) => {
    try {
      const stat = readFileSync(`/proc/${pid}/stat`, 'utf8');
      return Number(stat.slice(stat.lastIndexOf(')') + 2).split(' ')[1]) === server;
    } catch {
      return false;
    }
  });
}

const signIn = async (name: string, password: string) =>
  (
    await fetch(`http://127.0.0.1:${port}/api/session`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ name, password }),
    })
  ).status;

describe('a server in the background', () => {
  let password = '';

  test('starts, shows the first password, and is found by status', async () => {
    expect(await run('status')).toMatchObject({ code: 3 });
    const started = await run('start', ['--background']);
    expect(started).toMatchObject({ code: 0 });
    password = /sign in as keeper with the password (\S+)/.exec(started.output)?.[1] ?? '';
    expect(await signIn('keeper', password)).toBe(200);
    const status = await run('status');
    expect(status).toMatchObject({ code: 0 });
    expect(status.output).toContain(`Stellin is at http://127.0.0.1:${port}, since `);
    expect((await run('logs')).output).toContain(`Stellin is at http://127.0.0.1:${port}`);
    expect(readFileSync(places.identity(home), 'utf8')).toBe('{"holds":"archive"}\n');
  });

  test('is not started twice for one data folder', async () => {
    const again = await run('start', ['--background']);
    expect(again).toMatchObject({ code: 1 });
    expect(again.output).toContain('Stellin is running already, at');
  });

  test('starts another process for its jobs when that one is killed', async () => {
    const { pid } = JSON.parse(readFileSync(places.processFile(home), 'utf8')) as { pid: number };
    const [worker] = await workersOf(pid);
    if (worker === undefined) throw new Error('no process works on jobs');
    process.kill(worker, 'SIGKILL');
    const others = async () => (await workersOf(pid)).filter((other) => other !== worker);
    while ((await others()).length === 0) await run('status');
    expect((await run('logs')).output).toContain('has ended with SIGKILL; another is started');
  });

  test('takes accounts of the machine while it runs, and ends sessions whose password changes', async () => {
    expect((await run('account', ['add', 'ida', '--role', 'viewer'], 'over the dunes\n')).output).toContain(
      'ida may sign in as viewer',
    );
    expect(await signIn('ida', 'over the dunes')).toBe(200);
    expect((await run('account', ['list'])).output).toMatch(/ida +Viewer +ida\nkeeper +Keeper +Keeper/);
    expect(await run('account', ['password', 'keeper'], 'short\n')).toMatchObject({ code: 1 });
    expect(await run('account', ['password', 'keeper'], 'saltmarsh-keeper\n')).toMatchObject({ code: 1 });
    expect((await run('account', ['password', 'keeper'], 'a longer one, mine\n')).output).toContain(
      'all its sessions have ended',
    );
    expect([await signIn('keeper', password), await signIn('keeper', 'a longer one, mine')]).toEqual([401, 200]);
    expect((await run('account', ['disable', 'keeper'])).output).toContain('nobody would be left who may administer');
    expect(await run('account', ['disable', 'ida'])).toMatchObject({ code: 0 });
    expect(await signIn('ida', 'over the dunes')).toBe(401);
  });

  test('ends when it is told to, and its database with it', async () => {
    expect((await run('stop')).output).toContain('Stellin has stopped.');
    expect(await run('status')).toMatchObject({ code: 3 });
    await expect(signIn('keeper', password)).rejects.toThrow();
    expect((await run('account', ['list'])).output).toContain('ida');
  });

  test('is not taken for running when its note is left and its number is another’s', async () => {
    writeFileSync(
      places.processFile(home),
      JSON.stringify({ pid: process.pid, url: 'http://127.0.0.1:1', since: new Date().toISOString() }),
    );
    expect(await run('status')).toMatchObject({ code: 3 });
    writeFileSync(places.processFile(home), 'half a no');
    expect(await run('status')).toMatchObject({ code: 3 });
  });
});

describe('demo and archive', () => {
  test('a folder that says it holds the other is refused, and left as it is', async () => {
    const demo = places.demo(home);
    await mkdir(demo, { recursive: true });
    writeFileSync(places.identity(demo), '{"holds":"archive"}');
    const refused = await run('demo');
    expect(refused).toMatchObject({ code: 1 });
    expect(refused.output).toContain('holds an archive, which ./stellin start opens');
    expect(await run('demo', ['--fresh'])).toMatchObject({ code: 1 });
    expect(readFileSync(places.identity(demo), 'utf8')).toBe('{"holds":"archive"}');
    // Without a word of what it holds it is not erased either.
    await rm(places.identity(demo));
    writeFileSync(join(demo, 'mine.txt'), 'mine');
    expect((await run('demo', ['--fresh'])).output).toContain('--fresh leaves it alone');
    expect(readFileSync(join(demo, 'mine.txt'), 'utf8')).toBe('mine');
  });
});
