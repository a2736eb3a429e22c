// The database a command works with: the one it is given, or our own cluster's, started and stopped with the command.

import { startCluster } from '@stellin/server/database/cluster';
import type { Config } from '@stellin/server/config';
import { ensureInstalled, NEEDS } from './debian';
import { step } from './steps';

export interface UsedDatabase {
  url: string;
  stop(): void;
}

const DATABASE = 'stellin';

export async function useDatabase(config: Config): Promise<UsedDatabase> {
  if (config.databaseUrl) return { url: config.databaseUrl, stop: () => undefined };
  await ensureInstalled([NEEDS.postgres]);
  return step('Starting PostgreSQL', async () => {
    const cluster = await startCluster(config.home);
    await cluster.ensureDatabase(DATABASE);
    return { url: cluster.url(DATABASE), stop: () => cluster.stop() };
  });
}
