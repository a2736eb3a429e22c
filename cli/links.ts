// View links by a process of their own: `./stellin links-role` makes the database role, `./stellin serve-links` serves with it.

import { randomBytes } from 'node:crypto';
import { readConfig } from '@stellin/server/config';
import { openLinkServer } from '@stellin/server/linkServer';
import { openLog } from '@stellin/server/server';
import { makeLinksRole } from '@stellin/server/sharing/grantStore';
import { stopSignal } from './stopSignal';
import { withDatabase } from './withDatabase';

const PASSWORD_BYTES = 24;

/** Makes the role, or gives it a new password, and prints the address to connect with. */
export async function linksRoleCommand({ demo = false }: { demo?: boolean }): Promise<number> {
  const config = readConfig(demo ? 'demo' : 'archive');
  const url = await withDatabase(config, (database) =>
    makeLinksRole(database, randomBytes(PASSWORD_BYTES).toString('base64url')),
  );
  console.log(url);
  return 0;
}

/** Serves view links until it is told to stop. */
export async function serveLinksCommand({ demo = false }: { demo?: boolean }): Promise<number> {
  const config = readConfig(demo ? 'demo' : 'archive');
  if (!config.databaseUrl)
    throw new Error('serve-links needs STELLIN_DATABASE_URL: what ./stellin links-role prints where the catalogue is');
  const stopping = stopSignal();
  const server = await openLinkServer(config, config.databaseUrl, openLog(config.logLevel));
  try {
    console.log(`View links are served on port ${await server.listen()}. Ctrl-C stops.`);
    await stopping.signal;
  } finally {
    await server.close();
  }
  return 0;
}
