// `start` and `demo`: the command. What serves is loaded while PostgreSQL starts.

import { parseArgs } from 'node:util';
import { freePort } from '@stellin/server/database/cluster';
import { readConfig, type Config, type DataKind } from '@stellin/server/config';
import { markNewFolder, requireFolder } from '@stellin/server/identity';
import { beTheServer, requireNotRunning, serveInBackground } from './background';
import { useDatabase } from './database';
import { stopSignal } from './stopSignal';

const FLAGS: Record<DataKind, readonly string[]> = {
  archive: ['background', 'adopt'],
  demo: ['background', 'fresh', 'small'],
};

/** Serves until SIGINT or SIGTERM, then closes everything in order. */
export async function serveCommand(kind: DataKind, args: string[]): Promise<number> {
  const options = Object.fromEntries(FLAGS[kind].map((flag) => [flag, { type: 'boolean' as const }]));
  const { values } = parseArgs({ args, options });
  const config = readConfig(kind);
  requireFolder(config.home, kind);
  requireNotRunning(config);
  await requireFreePort(config);
  if (values['background']) return serveInBackground(kind, config, args);
  const stopping = stopSignal();
  if (values['fresh']) await (await import('./freshDemo')).beginAnew(config);
  markNewFolder(config.home, kind);
  const process = beTheServer(config);
  try {
    const loading = import('./serving');
    const database = await useDatabase(config);
    try {
      const { serve } = await loading;
      if (values['adopt']) await (await import('./adopt')).adopt(database.url);
      await serve({ config, databaseUrl: database.url, small: values['small'] === true, stopping, process });
      return 0;
    } finally {
      await database.stop();
    }
  } catch (error) {
    if (stopping.stopped) return 130;
    throw error;
  } finally {
    process.ended();
  }
}

async function requireFreePort({ port }: Config): Promise<void> {
  if (port === 0 || (await freePort(port)) !== undefined) return;
  throw new Error(`Port ${port} of 127.0.0.1 is in use. STELLIN_PORT chooses another.`);
}
