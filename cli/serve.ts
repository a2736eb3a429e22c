// `start` and `demo`: everything up, served until it is told to stop; `worker`: only jobs.

import { existsSync, mkdirSync, rmSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { DEMO_ACCOUNTS } from '@stellin/demo/accounts';
import { forgetManifest } from '@stellin/demo/archive/make';
import { forgetDemo, prepareDemo } from '@stellin/demo/prepare';
import { clusterFolder, freePort, postgresPrograms, startCluster } from '@stellin/server/database/cluster';
import { openDatabase } from '@stellin/server/database/database';
import { places, readConfig, type Config } from '@stellin/server/config';
import { openServices, type Services } from '@stellin/server/services';
import { listen, openLog } from '@stellin/server/server';
import { useDatabase } from './database';
import { firstAccount } from './firstAccount';
import { step } from './steps';

/** Serves until SIGINT or SIGTERM, then closes everything in order. */
export async function serveCommand(mode: 'start' | 'demo', args: string[]): Promise<number> {
  const { values } = parseArgs({
    args,
    options: { fresh: { type: 'boolean', default: false }, small: { type: 'boolean', default: false } },
  });
  const found = readConfig();
  // The demo shows its own drives, not those of the machine.
  const config = { ...found, mountTable: found.mountTable && mode === 'start' };
  await requireFreePort(config);
  mkdirSync(config.home, { recursive: true });
  if (mode === 'demo' && values.fresh) await beginAnew(config);
  const stopping = stopSignal();
  const database = await useDatabase(config);
  try {
    const services = await openServices(
      config,
      database.url,
      openLog(config.logLevel === 'info' ? 'warn' : config.logLevel),
    );
    try {
      services.scanning.hold();
      await services.start();
      if (mode === 'demo')
        await prepareDemo(services, { small: values.small, step, isStopped: () => stopping.stopped });
      else await firstAccount(services);
      await services.scanning.release(services.jobs);
    } catch (error) {
      await services.close();
      if (stopping.stopped) return 130;
      throw error;
    }
    await serveUntilStopped(services, config, mode, stopping.signal);
    return 0;
  } finally {
    database.stop();
  }
}

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

async function serveUntilStopped(
  services: Services,
  config: Config,
  mode: 'start' | 'demo',
  signal: Promise<void>,
): Promise<void> {
  const server = await listen(services, config);
  console.log(`\nStellin is at ${server.url}`);
  if (mode === 'demo')
    for (const { name, password, role } of DEMO_ACCOUNTS)
      console.log(`  sign in as ${name} with the password ${password} (${role})`);
  console.log('Ctrl-C stops it.\n');
  await signal;
  console.log('Stopping …');
  await server.close();
}

interface Stopping {
  stopped: boolean;
  signal: Promise<void>;
}

/** The wish to stop, be it uttered once; a second time ends the process at once. */
function stopSignal(): Stopping {
  const stopping: Stopping = { stopped: false, signal: Promise.resolve() };
  stopping.signal = new Promise((resolve) => {
    for (const name of ['SIGINT', 'SIGTERM'] as const) {
      process.on(name, () => {
        if (stopping.stopped) process.exit(130);
        stopping.stopped = true;
        resolve();
      });
    }
  });
  return stopping;
}

async function requireFreePort({ port }: Config): Promise<void> {
  if (port === 0 || (await freePort(port)) !== undefined) return;
  throw new Error(`Port ${port} of 127.0.0.1 is in use. Is Stellin running already? STELLIN_PORT chooses another.`);
}

/** Removes the demo: its drives, previews and database. A database that is not ours is only emptied when it holds a demo. */
async function beginAnew(config: Config): Promise<void> {
  await step('Removing the old demo', async () => {
    if (config.databaseUrl) await forgetGivenDatabase(config.databaseUrl);
    else await removeCluster(config.home);
    await forgetManifest(config.home);
    for (const folder of [places.mounts(config.home), places.shelf(config.home), places.previews(config.home)])
      rmSync(folder, { recursive: true, force: true });
  });
}

async function forgetGivenDatabase(url: string): Promise<void> {
  const database = openDatabase(url);
  try {
    await forgetDemo(database);
  } finally {
    await database.close();
  }
}

async function removeCluster(home: string): Promise<void> {
  if (!postgresPrograms()) return;
  const folder = clusterFolder(home);
  if (!existsSync(folder)) return;
  (await startCluster(home)).stop();
  rmSync(folder, { recursive: true, force: true });
}
