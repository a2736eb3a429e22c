// The trial of a backup: it is restored beside the catalogue, compared, and dropped.

import type { Passed } from './bag';
import * as store from './catalogueStore';
import type { Contents } from './contents';
import { requireKnownSchema, restoreCatalogue } from './restore';

const TRIAL = '-trial';

/** Restores a checked backup for trial on the server that a database is on; returns how many tables it has. What an earlier trial left that was cut off goes first. */
export async function trialOf(path: string, contents: Contents, databaseUrl: string, passed?: Passed): Promise<number> {
  requireKnownSchema(path, contents);
  const name = `${decodeURIComponent(new URL(databaseUrl).pathname.slice(1))}${TRIAL}`;
  const adminUrl = store.databaseUrl(databaseUrl, 'postgres');
  const drop = () => store.withClient(adminUrl, (admin) => store.dropDatabase(admin, name));
  await drop();
  const tables = await restoreCatalogue(path, contents, adminUrl, name, passed);
  await drop();
  return tables;
}
