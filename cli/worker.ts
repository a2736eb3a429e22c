// Working on jobs: `./stellin worker` on a machine of its own, or the process beside a server (workerBeside.ts).

import { prepareOpening, restJob, secondsOf, startRest } from '@stellin/demo/prepare';
import { readConfig } from '@stellin/server/config';
import { messageOf } from '@stellin/server/errors';
import { openLog } from '@stellin/server/server';
import { openServices, type Services } from '@stellin/server/services';
import { durationText, secondsLeft, step } from './steps';
import { stopSignal, type Stopping } from './stopSignal';
import type { Answer, Assignment } from './workerBeside';

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
      await opened.services?.scanning.release();
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
      if (!demo || !(await openDemo(services, demo.small, stopping))) await services.scanning.release();
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
