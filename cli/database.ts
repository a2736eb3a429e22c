// The database a command works with: the one it is given, or our own cluster's, started and stopped with the command.

import { startCluster } from '@stellin/server/database/cluster';
import type { Config } from '@stellin/server/config';
import { ensureInstalled, NEEDS } from './debian';
import { step } from './steps';

export interface UsedDatabase {
  url: string;
  stop(): Promise<void>;
}

const DATABASE = 'stellin';

/** The server's database: its cluster is started if it does not run, and stopped in the end. */
export async function useDatabase(config: Config): Promise<UsedDatabase> {
  if (config.databaseUrl) return { url: config.databaseUrl, stop: () => Promise.resolve() };
  await ensureInstalled([NEEDS.postgres]);
  return step('Starting PostgreSQL', () => ownDatabase(config), { seconds: 4 });
}

/** The database for a command beside a server that may be running: its cluster is left as it was found. */
export async function borrowDatabase(config: Config): Promise<UsedDatabase> {
  if (config.databaseUrl) return { url: config.databaseUrl, stop: () => Promise.resolve() };
  const { url, stop, wasRunning } = await ownDatabase(config);
  return { url, stop: wasRunning ? () => Promise.resolve() : stop };
}

async function ownDatabase({ home }: Config): Promise<UsedDatabase & { wasRunning: boolean }> {
  const cluster = await startCluster(home);
  await cluster.ensureDatabase(DATABASE);
  return { url: cluster.url(DATABASE), stop: () => cluster.stop(), wasRunning: cluster.wasRunning };
}
