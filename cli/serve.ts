// `start` and `demo`: the command. What serves is loaded while PostgreSQL starts.

import { freePort } from '@stellin/server/database/cluster';
import { readConfig, type Config, type DataKind } from '@stellin/server/config';
import { markNewFolder, protectFolder, requireFolder } from '@stellin/server/identity';
import { beTheServer, requireNotRunning, serveInBackground } from './background';
import { useDatabase } from './database';
import { offerOptional } from './debian';
import { stopSignal } from './stopSignal';

/** Options of `start` and `demo`. */
export interface ServeFlags {
  background?: boolean;
  /** Of start. */
  adopt?: boolean;
  /** Of the demo. */
  fresh?: boolean;
  small?: boolean;
}

/** Serves until SIGINT or SIGTERM, then closes everything in order. */
export async function serveCommand(kind: DataKind, flags: ServeFlags): Promise<number> {
  const { background, adopt: adopts, fresh, small = false } = flags;
  const config = readConfig(kind);
  requireFolder(config.home, kind);
  requireNotRunning(config);
  await requireFreePort(config);
  if (background) return serveInBackground(kind, config, flagsOf(flags));
  const stopping = stopSignal();
  if (fresh) await (await import('./freshDemo')).beginAnew(config);
  markNewFolder(config.home, kind);
  protectFolder(config.home);
  const process = beTheServer(config);
  try {
    const loading = import('./serving');
    await offerOptional(config.home);
    const database = await useDatabase(config);
    try {
      const { serve } = await loading;
      if (adopts) await (await import('./adopt')).adopt(database.url);
      await serve({ config, databaseUrl: database.url, small, stopping, process });
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

/** The flags of the same command in the foreground. */
function flagsOf({ background: _, ...flags }: ServeFlags): string[] {
  return Object.entries(flags).flatMap(([name, isSet]) => (isSet ? [`--${name}`] : []));
}

async function requireFreePort({ port }: Config): Promise<void> {
  if (port === 0 || (await freePort(port)) !== undefined) return;
  throw new Error(`Port ${port} of 127.0.0.1 is in use. STELLIN_PORT chooses another.`);
}
