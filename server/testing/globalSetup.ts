import type { Cluster } from '../database/cluster';
import { startTestCluster } from './cluster';

declare global {
  var testCluster: Cluster | undefined;
}

export default async function setUp(): Promise<void> {
  globalThis.testCluster = await startTestCluster();
}
