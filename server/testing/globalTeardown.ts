// After all tests: their PostgreSQL is stopped.

import type { Cluster } from '../database/cluster';

declare global {
  var testCluster: Cluster | undefined;
}

export default async function tearDown(): Promise<void> {
  await globalThis.testCluster?.stop();
}
