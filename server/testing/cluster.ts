// The PostgreSQL cluster that tests share: one data folder of their own, started unless STELLIN_TEST_SERVER names a server.

import { join } from 'node:path';
import { startCluster, type Cluster } from '../database/cluster';
import { ROOT } from '../root';

export const TEST_HOME = join(ROOT, '.stellin', 'test');

/** Starts the cluster and tells the tests where it is through the environment. */
export async function startTestCluster(): Promise<Cluster | undefined> {
  process.env['STELLIN_TEST_TEMPLATE'] ??= `template_${Date.now()}`;
  if (process.env['STELLIN_TEST_SERVER']) return undefined;
  const cluster = await startCluster(TEST_HOME, { passing: true });
  process.env['STELLIN_TEST_SERVER'] = cluster.url('postgres');
  return cluster;
}
