// Live changes: one connection listens to PostgreSQL, everybody in this process who wants to know subscribes here.

import { Client } from 'pg';
import type { Logger } from 'pino';
import { liveEvent, TOPICS, type LiveEvent } from '@stellin/contract/events';
import { CHANNEL } from '../database/database';
import { messageOf } from '../errors';

export interface EventHub {
  /** Calls back for every commit; returns the way to stop. */
  subscribe(listener: (event: LiveEvent) => void): () => void;
  close(): Promise<void>;
}

const RECONNECT_MS = 1000;

/** The event of a message; undefined where somebody else has sent something else. */
function eventOf(payload: string | undefined): LiveEvent | undefined {
  try {
    return liveEvent.safeParse(JSON.parse(payload ?? '')).data;
  } catch {
    return undefined;
  }
}

export async function openEventHub(url: string, log: Logger): Promise<EventHub> {
  const listeners = new Set<(event: LiveEvent) => void>();
  let closed = false;
  let client: Client | undefined;
  let timer: NodeJS.Timeout | undefined;

  const tell = (event: LiveEvent) => {
    for (const listener of listeners) listener(event);
  };
  const connect = async (): Promise<void> => {
    const next = new Client({ connectionString: url, application_name: 'stellin events' });
    next.on('notification', ({ payload }) => {
      const event = eventOf(payload);
      if (event) tell(event);
      else log.warn(`live changes: a message that is none of ours (${payload})`);
    });
    next.on('error', (error) => log.warn(`live changes: connection lost (${error.message})`));
    // One that never came to be has ended, too: only the one that listened is followed by another.
    next.on('end', () => {
      if (client === next) again();
    });
    try {
      await next.connect();
      await next.query(`listen ${CHANNEL}`);
    } catch (error) {
      void next.end().catch(() => undefined);
      throw error;
    }
    client = next;
  };
  const again = () => {
    client = undefined;
    if (!closed) timer = setTimeout(() => void reconnect(), RECONNECT_MS);
  };
  const reconnect = async (): Promise<void> => {
    try {
      await connect();
    } catch (error) {
      log.warn(`live changes: ${messageOf(error)}`);
      return again();
    }
    // Nobody was told of what was committed meanwhile.
    if (closed) await client?.end();
    else tell({ topics: [...TOPICS] });
  };

  await connect();
  return {
    subscribe(listener) {
      listeners.add(listener);
      return () => void listeners.delete(listener);
    },
    async close() {
      closed = true;
      clearTimeout(timer);
      await client?.end();
    },
  };
}
