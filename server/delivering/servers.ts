// Servers that copies are delivered to: kept with their passwords, tried, and signed in to.

import { randomUUID } from 'node:crypto';
import { Readable } from 'node:stream';
import type { DeliveryServer, DescribedServer, ServerShape } from '@stellin/contract/deliveryServers';
import type { Database } from '../database/database';
import { messageOf, StellinError } from '../errors';
import type { Secrets } from '../files/secrets';
import type { Destination } from './destination';
import { hashOf, serverDestination, type ServerClient } from './serverDestination';
import * as store from './serverStore';
import { OtherKey } from './otherKey';

export type DeliveryServers = ReturnType<typeof deliveryServerService>;

const GONE = { what: 'such server (it may have been removed meanwhile)' };

/** Signs in to a server. What speaks its protocol is loaded when it is first needed: it is large, and most never need it. */
async function signIn(
  server: ServerShape,
  secret: string,
  noted: (hostKey: string) => void = () => undefined,
): Promise<ServerClient> {
  if (server.kind === 's3') return (await import('./s3Client')).s3Client(server, secret);
  return (await import('./sftpClient')).sftpClient(server, secret, noted);
}

export function deliveryServerService(database: Database, secrets: Secrets) {
  const required = async (id: number): Promise<store.ServerRow> => {
    const row = await store.findServer(database, id);
    if (!row) throw new StellinError('notFound', GONE);
    return row;
  };
  const secretOf = async ({ settings, secret }: store.ServerRow): Promise<string> => {
    const text = await secrets.open(secret);
    if (text === undefined)
      throw new StellinError('serverRefused', {
        name: settings.name,
        why: 'its password was kept with the key of another data folder. Type it again',
      });
    return text;
  };
  /** What was typed, or what is kept of the server already. */
  const secretFor = async ({ serverId, server, secret }: DescribedServer): Promise<string> => {
    if (secret !== null) return secret;
    if (serverId === null) throw new StellinError('serverRefused', { name: server.name, why: 'it needs a password' });
    return secretOf(await required(serverId));
  };

  return {
    async list(): Promise<DeliveryServer[]> {
      return (await store.listServers(database)).map(({ id, settings }) => ({ id, server: settings }));
    },

    /** Writes a file on a server, reads it back and removes it. */
    async try(described: DescribedServer): Promise<{ problem: string | null; hostKey: string | null }> {
      let hostKey: string | null = null;
      try {
        const client = await signIn(described.server, await secretFor(described), (shown) => (hostKey = shown));
        try {
          await writeAndRemove(client);
        } finally {
          await client.close();
        }
        return { problem: null, hostKey };
      } catch (error) {
        return { problem: messageOf(error), hostKey: error instanceof OtherKey ? error.shown : hostKey };
      }
    },

    async save(described: DescribedServer): Promise<DeliveryServer> {
      const { serverId, server } = described;
      const all = await store.listServers(database);
      if (all.some(({ id, settings }) => id !== serverId && settings.name === server.name))
        throw new StellinError('preparedExists', { what: 'a server', name: server.name });
      if (serverId !== null) await required(serverId);
      const secret = await secrets.seal(await secretFor(described));
      const id = await store.keepServer(database, serverId, { settings: server, secret });
      await database.notify(['deliveries']);
      return { id, server };
    },

    async remove(id: number): Promise<void> {
      if ((await store.removeServer(database, id)) === 0) throw new StellinError('notFound', GONE);
      await database.notify(['deliveries']);
    },

    required: async (id: number): Promise<ServerShape> => (await required(id)).settings,

    /** Signs in, for copies to be put into a folder. */
    async destination(id: number, folder: string): Promise<Destination> {
      const row = await required(id);
      const { settings } = row;
      const secret = await secretOf(row);
      try {
        return serverDestination(await signIn(settings, secret), settings.name, folder);
      } catch (error) {
        throw new StellinError('serverRefused', { name: settings.name, why: messageOf(error) });
      }
    },
  };
}

async function writeAndRemove(client: ServerClient): Promise<void> {
  const path = `.stellin-try-${randomUUID()}`;
  const bytes = Buffer.from('Stellin tries whether files can be written here. This one can be removed.\n');
  const open = () => Readable.from([bytes]);
  const sha256 = await hashOf(open());
  await client.put(path, { bytes: bytes.length, sha256, open }, 'try');
  if ((await hashOf(await client.read(path))) !== sha256)
    throw new Error('a file that was written there was read back otherwise');
  await client.remove(path);
}
