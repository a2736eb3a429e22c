// Serving: the server, and beside it the process that works on jobs.

import { startStandIns } from '@stellin/demo/standIns';
import type { StandIn } from '@stellin/server/standIn';
import { DEMO_ACCOUNTS } from '@stellin/server/accounts/demoAccounts';
import type { Config, DataKind } from '@stellin/server/config';
import { markFolder } from '@stellin/server/identity';
import { listen, openLog, type RunningServer } from '@stellin/server/server';
import { openServices } from '@stellin/server/services';
import type { ServingProcess } from './background';
import { firstAccount } from './firstAccount';
import type { Stopping } from './stopSignal';
import { startWorkerBeside, type WorkerBeside } from './workerBeside';

interface Serving {
  config: Config;
  databaseUrl: string;
  small: boolean;
  stopping: Stopping;
  process: ServingProcess;
}

/** Opens the server, and beside it the process that works on jobs; serves until the wish to stop. */
export async function serve({ config, databaseUrl, small, stopping, process }: Serving): Promise<void> {
  const { kind, home, logLevel } = config;
  const services = await openServices(config, databaseUrl, openLog(logLevel === 'info' ? 'warn' : logLevel));
  let server: RunningServer | undefined;
  let worker: WorkerBeside | undefined;
  let standIns: StandIn[] = [];
  try {
    markFolder(home, kind);
    await services.drives.refresh();
    if (kind === 'demo') {
      worker = startWorkerBeside({ config, databaseUrl, demo: { small } }, services.log);
      await Promise.race([worker.ready, stopping.signal]);
      if (stopping.stopped) return;
      standIns = await startStandIns(services.deliveryServers, home);
    } else await firstAccount(services);
    server = await listen(services, config);
    process.serves(server.url);
    greet(kind, server.url);
    // An archive is there before the process that works on its jobs, which takes its time to start.
    worker ??= startWorkerBeside({ config, databaseUrl, demo: null }, services.log);
    worker.ready.catch((error: unknown) => services.log.error(error, 'the process that works on jobs did not start'));
    services.startWatching();
    await stopping.signal;
    console.log('Stopping …');
  } finally {
    for (const standIn of standIns) await standIn.close();
    await worker?.stop();
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
