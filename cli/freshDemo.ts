// `demo --fresh`: removes the demo, and nothing that does not say it is one.

import { existsSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import type { Config } from '@stellin/server/config';
import { clusterFolder, postgresPrograms, startCluster } from '@stellin/server/database/cluster';
import { openDatabase } from '@stellin/server/database/database';
import { contentsOf, eraseDemo, kindOfFolder } from '@stellin/server/identity';
import { step } from './steps';

/** Removes the demo: what is in its folder, or its tables from the database that is given. Nothing that does not say it holds a demo is touched. */
export async function beginAnew(config: Config): Promise<void> {
  const { home, databaseUrl } = config;
  const entries = contentsOf(home);
  if (entries.length > 0 && kindOfFolder(home) !== 'demo')
    throw new Error(
      `${home} does not say that it holds a demo; --fresh leaves it alone. Remove it yourself if it does.`,
    );
  await step('Removing the old demo', async () => {
    if (databaseUrl) await emptyGivenDatabase(databaseUrl);
    else await removeCluster(home);
    for (const name of entries) rmSync(join(home, name), { recursive: true, force: true });
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
  await (await startCluster(home)).stop();
  rmSync(folder, { recursive: true, force: true });
}
