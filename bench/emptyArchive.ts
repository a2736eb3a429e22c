// An archive of its own for a benchmark that works on files: a data folder with a PostgreSQL cluster and one drive, deleted after.

import { execFileSync } from 'node:child_process';
import { chmod, mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { LOOPBACK, places, type Config } from '@stellin/server/config';
import { startCluster } from '@stellin/server/database/cluster';
import { openLog } from '@stellin/server/server';
import { openServices, type Services } from '@stellin/server/services';

/** `fill` makes the files of the drives, by the folder of a drive. The services work on jobs. */
export async function withEmptyArchive<Result>(
  fill: (driveOf: (label: string) => string) => Promise<void>,
  work: (services: Services, driveOf: (label: string) => string) => Promise<Result>,
): Promise<Result> {
  const home = await mkdtemp(join(tmpdir(), 'stellin-bench-'));
  await chmod(home, 0o755);
  const driveOf = (label: string) => join(places.mounts(home), label);
  const cluster = await startCluster(home);
  try {
    await cluster.ensureDatabase('bench');
    await fill(driveOf);
    // Nobody pays for what this left to be written.
    execFileSync('sync');
    const config: Config = {
      kind: 'archive',
      home,
      port: 0,
      databaseUrl: undefined,
      mountRoots: [places.mounts(home)],
      mountTable: false,
      largeBytes: 1e9,
      leastFreeBytes: 0,
      network: LOOPBACK,
      faces: false,
      logLevel: 'silent',
    };
    const services = await openServices(config, cluster.url('bench'), openLog('silent'));
    await services.start();
    try {
      return await work(services, driveOf);
    } finally {
      await services.close();
    }
  } finally {
    await cluster.stop();
    await rm(home, { recursive: true, force: true });
  }
}

/** Resolves when a commit has made something true. */
export async function until(services: Services, isSo: () => Promise<boolean>): Promise<void> {
  await new Promise<void>((resolve, reject) => {
    let looking = false;
    let changedMeanwhile = false;
    const look = async (): Promise<void> => {
      changedMeanwhile = looking;
      if (looking) return;
      looking = true;
      const so = await isSo();
      looking = false;
      if (!so) return changedMeanwhile ? look() : undefined;
      unsubscribe();
      resolve();
    };
    const unsubscribe = services.events.subscribe(() => void look().catch(reject));
    void look().catch(reject);
  });
}
