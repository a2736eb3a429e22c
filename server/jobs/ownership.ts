// Who works on a job: a process owns its jobs through an advisory lock that a connection of its own holds. When the process
// dies the connection goes with it, at once and for certain; as long as it lives, however long it sleeps or a step takes,
// nobody else takes its jobs up.

import { randomInt } from 'node:crypto';
import { Client } from 'pg';
import { lockOwner } from './ownerStore';

const MAX_KEY = 2 ** 31 - 1;

export interface Ownership {
  /** As it stands in the table of jobs. */
  readonly owner: string;
  /** The connection is gone: others may take the jobs up, so this process must not go on with them. */
  readonly isLost: boolean;
  close(): Promise<void>;
}

/** Opens a connection and takes a lock that no other process has. */
export async function openOwnership(url: string): Promise<Ownership> {
  const client = new Client({ connectionString: url, application_name: 'stellin jobs', keepAlive: true });
  let isLost = false;
  client.on('error', () => (isLost = true));
  client.on('end', () => (isLost = true));
  try {
    await client.connect();
    for (;;) {
      const key = randomInt(1, MAX_KEY);
      if (!(await lockOwner(client, key))) continue;
      return {
        owner: String(key),
        get isLost() {
          return isLost;
        },
        close: () => client.end(),
      };
    }
  } catch (error) {
    await client.end().catch(() => undefined);
    throw error;
  }
}
