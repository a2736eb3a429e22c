// Before all tests: what they run is built, and their PostgreSQL started.

import { execFileSync } from 'node:child_process';
import { join } from 'node:path';
import type { Cluster } from '../database/cluster';
import { ROOT } from '../root';
import { startTestCluster } from './cluster';
import { scratchInMemory } from './scratch';

declare global {
  var testCluster: Cluster | undefined;
  var removeScratch: (() => void) | undefined;
}

export default async function setUp(): Promise<void> {
  // Worker threads run what was built; it has to be what the tests are about.
  execFileSync(join(ROOT, 'stellin'), ['build'], { stdio: 'inherit' });
  globalThis.removeScratch = scratchInMemory();
  globalThis.testCluster = await startTestCluster();
}
