// After all tests: their PostgreSQL is stopped, and their files go.

import type { Cluster } from '../database/cluster';

declare global {
  var testCluster: Cluster | undefined;
  var removeScratch: (() => void) | undefined;
}

export default async function tearDown(): Promise<void> {
  await globalThis.testCluster?.stop();
  globalThis.removeScratch?.();
}
