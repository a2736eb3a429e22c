// Live changes: one connection listens to PostgreSQL, everybody in this process who wants to know subscribes here.

import { Client } from 'pg';
import type { Logger } from 'pino';
import { liveEvent, type LiveEvent } from '@stellin/contract/events';
import { CHANNEL } from '../database/database';
import { messageOf } from '../errors';

export interface EventHub {
  /** Calls back for every commit; returns the way to stop. */
  subscribe(listener: (event: LiveEvent) => void): () => void;
  close(): Promise<void>;
}

const RECONNECT_MS = 1000;

export async function openEventHub(url: string, log: Logger): Promise<EventHub> {
  const listeners = new Set<(event: LiveEvent) => void>();
  let closed = false;
  let client: Client | undefined;

  const connect = async (): Promise<void> => {
    const next = new Client({ connectionString: url, application_name: 'stellin events' });
    next.on('notification', ({ payload }) => {
      const event = liveEvent.safeParse(JSON.parse(payload ?? '{}'));
      if (event.success) for (const listener of listeners) listener(event.data);
    });
    next.on('error', (error) => log.warn(`live changes: connection lost (${error.message})`));
    next.on('end', () => {
      if (!closed) setTimeout(() => void reconnect(), RECONNECT_MS);
    });
    await next.connect();
    await next.query(`listen ${CHANNEL}`);
    client = next;
  };
  const reconnect = async (): Promise<void> => {
    try {
      if (!closed) await connect();
    } catch (error) {
      log.warn(`live changes: ${messageOf(error)}`);
      if (!closed) setTimeout(() => void reconnect(), RECONNECT_MS);
    }
  };

  await connect();
  return {
    subscribe(listener) {
      listeners.add(listener);
      return () => void listeners.delete(listener);
    },
    async close() {
      closed = true;
      await client?.end();
    },
  };
}
