// The SQL of servers that copies are delivered to.

import type { ServerShape } from '@stellin/contract/deliveryServers';
import type { Database } from '../database/database';
import { DELIVERY_SERVER } from '../database/models/delivering';
import { modelOf } from '../database/models/table';

export interface ServerRow {
  id: number;
  settings: ServerShape;
  secret: Buffer;
}

export async function listServers(database: Database): Promise<ServerRow[]> {
  const rows = await modelOf(database, DELIVERY_SERVER).findAll({ order: ['id'] });
  return rows.map((row) => row.get() as ServerRow);
}

export async function findServer(database: Database, id: number): Promise<ServerRow | undefined> {
  const row = await modelOf(database, DELIVERY_SERVER).findByPk(id);
  return row ? (row.get() as ServerRow) : undefined;
}

/** Keeps a server, a new one where no number is given; gives its number. */
export async function keepServer(database: Database, id: number | null, given: Omit<ServerRow, 'id'>): Promise<number> {
  const servers = modelOf(database, DELIVERY_SERVER);
  if (id === null) return (await servers.create(given)).id;
  await servers.update(given, { where: { id } });
  return id;
}

export async function removeServer(database: Database, id: number): Promise<number> {
  return modelOf(database, DELIVERY_SERVER).destroy({ where: { id } });
}
