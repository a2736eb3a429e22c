// Working on jobs: `./stellin worker` on a machine of its own, or a process that the server starts beside itself. That one has
// a lower scheduling priority, so that whoever looks and types never waits for previews, faces or files being written.

import { spawn, type ChildProcess } from 'node:child_process';
import { join } from 'node:path';
import { z } from 'zod';
import { prepareOpening, restJob, secondsOf, startRest } from '@stellin/demo/prepare';
import { readConfig, type Config } from '@stellin/server/config';
import { messageOf } from '@stellin/server/errors';
import { ROOT } from '@stellin/server/root';
import { openLog } from '@stellin/server/server';
import { openServices, type Services } from '@stellin/server/services';
import { programOf } from '@stellin/server/threads/program';
import { durationText, secondsLeft, step } from './steps';
import { stopSignal, type Stopping } from './stopSignal';

/** `./stellin worker`: works on jobs until it is told to stop. */
export async function workerCommand(): Promise<number> {
  const config = readConfig();
  if (!config.databaseUrl) throw new Error('worker needs STELLIN_DATABASE_URL: the database that the server uses');
  const services = await openServices(config, config.databaseUrl, openLog(config.logLevel));
  await services.start();
  console.log('Working on jobs. Ctrl-C stops.');
  await stopSignal().signal;
  await services.close();
  return 0;
}

/** What the process beside a server is told by it. */
interface Assignment {
  config: Config;
  databaseUrl: string;
  /** Set for the demo, which it prepares. */
  demo: { small: boolean } | null;
}

/** What it answers: that the server may open, or why not. */
const answer = z.union([z.object({ open: z.literal(true) }), z.object({ problem: z.string() })]);
type Answer = z.infer<typeof answer>;

const NICENESS = 10;
const RESTART_MS = 2000;

export interface WorkerBeside {
  /** Resolves when what the server serves is ready to be looked at; rejects with what stands in the way. */
  ready: Promise<void>;
  stop(): Promise<void>;
}

/** Starts the process beside a server. Should it die, another is started. */
export function startWorkerBeside(assignment: Assignment, log: Services['log']): WorkerBeside {
  let stopped = false;
  let child: ChildProcess;
  let ended: Promise<void>;
  let timer: NodeJS.Timeout | undefined;
  const start = (): Promise<void> => {
    const started = spawn(
      'nice',
      ['-n', String(NICENESS), process.execPath, programOf(join(ROOT, 'cli', 'main.ts')), 'beside'],
      { cwd: ROOT, stdio: ['ignore', 'inherit', 'inherit', 'ipc'] },
    );
    child = started;
    const ready = new Promise<void>((resolve, reject) => {
      started.on('message', (message) => {
        const given = answer.parse(message);
        if ('open' in given) resolve();
        else reject(new Error(given.problem));
      });
      started.on('error', reject);
      started.on('exit', (code) => reject(new Error(`the process that works on jobs has ended with ${code}`)));
    });
    ended = new Promise((resolve) =>
      started.on('exit', (code, signal) => {
        resolve();
        if (stopped) return;
        log.warn(`the process that works on jobs has ended with ${signal ?? code}; another is started`);
        timer = setTimeout(() => void start().catch((error: unknown) => log.warn(messageOf(error))), RESTART_MS);
      }),
    );
    started.send(assignment);
    return ready;
  };
  return {
    ready: start(),
    async stop() {
      stopped = true;
      clearTimeout(timer);
      child.kill('SIGTERM');
      await ended;
    },
  };
}

/** The process beside a server: works on jobs, and prepares the demo if it is one. Ends with the server. */
export async function besideCommand(): Promise<number> {
  if (!process.send) throw new Error('this command is for the server only');
  const reply = (given: Answer) => process.send?.(given);
  const stopping = stopSignal({ endsWithParent: true });
  const { config, databaseUrl, demo } = await new Promise<Assignment>((resolve) =>
    process.once('message', (message) => resolve(message as Assignment)),
  );
  const opened: { services?: Services } = {};
  const rest = restJob(
    () => {
      if (!opened.services) throw new Error('the services are not open yet');
      return opened.services;
    },
    async () => {
      console.log('All of the demo is there now.');
      await opened.services?.scanning.release(opened.services.jobs);
    },
  );
  try {
    const services = await openServices(
      config,
      databaseUrl,
      openLog(config.logLevel === 'info' ? 'warn' : config.logLevel),
      {
        jobs: demo ? [rest] : [],
      },
    );
    opened.services = services;
    try {
      services.scanning.hold();
      await services.startJobs();
      if (!demo || !(await openDemo(services, demo.small, stopping))) await services.scanning.release(services.jobs);
      if (!stopping.stopped) reply({ open: true });
      await stopping.signal;
    } finally {
      await services.close();
    }
    return 0;
  } catch (error) {
    if (stopping.stopped) return 130;
    reply({ problem: messageOf(error) });
    throw error;
  }
}

/** Prepares what the demo opens with and starts the rest. Resolves to whether there is a rest. */
async function openDemo(services: Services, small: boolean, stopping: Stopping): Promise<boolean> {
  await prepareOpening(services, {
    small,
    isStopped: () => stopping.stopped,
    perform: ({ title, seconds }, after, work) =>
      step(title, ({ progress }) => work(progress), {
        left: (progress, gone) => {
          const now = secondsLeft(progress, gone, seconds) ?? seconds;
          return `opens in about ${durationText(now + secondsOf(after))}`;
        },
      }),
  });
  return startRest(services, small);
}
