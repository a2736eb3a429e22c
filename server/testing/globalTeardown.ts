import type { Cluster } from '../database/cluster';

declare global {
  var testCluster: Cluster | undefined;
}

export default function tearDown(): void {
  globalThis.testCluster?.stop();
}
