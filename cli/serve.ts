// `start` and `demo`: everything up, served until it is told to stop.

import { existsSync, rmSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { DEMO_ACCOUNTS } from '@stellin/server/accounts/demoAccounts';
import { clusterFolder, freePort, postgresPrograms, startCluster } from '@stellin/server/database/cluster';
import { openDatabase } from '@stellin/server/database/database';
import { readConfig, type Config, type DataKind } from '@stellin/server/config';
import { eraseDemo, kindOfFolder, markFolder, requireFolder } from '@stellin/server/identity';
import { openServices } from '@stellin/server/services';
import { listen, openLog, type RunningServer } from '@stellin/server/server';
import { adopt } from './adopt';
import { beTheServer, requireNotRunning, serveInBackground, type ServingProcess } from './background';
import { useDatabase } from './database';
import { firstAccount } from './firstAccount';
import { step } from './steps';
import { stopSignal, type Stopping } from './stopSignal';
import { startWorkerBeside } from './worker';

const FLAGS: Record<DataKind, readonly string[]> = {
  archive: ['background', 'adopt'],
  demo: ['background', 'fresh', 'small'],
};

/** Serves until SIGINT or SIGTERM, then closes everything in order. */
export async function serveCommand(kind: DataKind, args: string[]): Promise<number> {
  const options = Object.fromEntries(FLAGS[kind].map((flag) => [flag, { type: 'boolean' as const }]));
  const { values } = parseArgs({ args, options });
  const config = readConfig(kind);
  requireFolder(config.home, kind);
  requireNotRunning(config);
  await requireFreePort(config);
  if (values['background']) return serveInBackground(kind, config, args);
  const stopping = stopSignal();
  if (values['fresh']) await beginAnew(config);
  const process = beTheServer(config);
  try {
    const database = await useDatabase(config);
    try {
      if (values['adopt']) await adopt(database.url);
      await serve({ config, databaseUrl: database.url, small: values['small'] === true, stopping, process });
      return 0;
    } finally {
      database.stop();
    }
  } catch (error) {
    if (stopping.stopped) return 130;
    throw error;
  } finally {
    process.ended();
  }
}

interface Serving {
  config: Config;
  databaseUrl: string;
  small: boolean;
  stopping: Stopping;
  process: ServingProcess;
}

/** Opens the server and the process that works on jobs beside it, and serves until the wish to stop. */
async function serve({ config, databaseUrl, small, stopping, process }: Serving): Promise<void> {
  const { kind, home } = config;
  const services = await openServices(
    config,
    databaseUrl,
    openLog(config.logLevel === 'info' ? 'warn' : config.logLevel),
  );
  let server: RunningServer | undefined;
  try {
    markFolder(home, kind);
    if (kind === 'archive') await firstAccount(services);
    await services.drives.refresh();
    const worker = startWorkerBeside({ config, databaseUrl, demo: kind === 'demo' ? { small } : null }, services.log);
    try {
      // An archive need not wait for who works on its jobs.
      const ready = worker.ready.catch((error: unknown) => {
        if (kind === 'demo') throw error;
        services.log.error(error);
      });
      if (kind === 'demo') await Promise.race([ready, stopping.signal]);
      if (stopping.stopped) return;
      services.startWatching();
      server = await listen(services, config);
      process.serves(server.url);
      greet(kind, server.url);
      await stopping.signal;
      console.log('Stopping …');
    } finally {
      await worker.stop();
    }
  } finally {
    await (server ?? services).close();
  }
}

function greet(kind: DataKind, url: string): void {
  console.log(`\nStellin is at ${url}`);
  if (kind === 'demo')
    for (const { name, password, role } of DEMO_ACCOUNTS)
      console.log(`  sign in as ${name} with the password ${password} (${role})`);
  console.log('Ctrl-C stops it.\n');
}

async function requireFreePort({ port }: Config): Promise<void> {
  if (port === 0 || (await freePort(port)) !== undefined) return;
  throw new Error(`Port ${port} of 127.0.0.1 is in use. STELLIN_PORT chooses another.`);
}

/** Removes the demo: its folder, or its tables from the database that is given. Nothing that does not say it holds a demo is touched. */
async function beginAnew(config: Config): Promise<void> {
  const { home, databaseUrl } = config;
  if (existsSync(home) && kindOfFolder(home) !== 'demo')
    throw new Error(
      `${home} does not say that it holds a demo; --fresh leaves it alone. Remove it yourself if it does.`,
    );
  await step('Removing the old demo', async () => {
    if (databaseUrl) await emptyGivenDatabase(databaseUrl);
    else await removeCluster(home);
    rmSync(home, { recursive: true, force: true });
  });
}

async function emptyGivenDatabase(url: string): Promise<void> {
  const database = openDatabase(url);
  try {
    await eraseDemo(database);
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
