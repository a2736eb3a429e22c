// The record of access. What happens often is collected for a moment and written down together; whoever looks at the same photo
// again within a while has looked once.

import { LRUCache } from 'lru-cache';
import type { Logger } from 'pino';
import { accessPolicy, ALWAYS_RECORDED, type AccessEntry, type AccessPolicy } from '@stellin/contract/access';
import type { Database } from '../database/database';
import { readSetting, writeSetting } from '../database/settings';
import { messageOf } from '../errors';
import * as store from './accessStore';
import { newestFirst } from './newestFirst';

export type AccessRecord = ReturnType<typeof accessRecord>;

const SETTING = 'accessPolicy';
const COLLECTED_MS = 500;
const MAX_COLLECTED = 500;
/** What waits for a database that is away, at most. */
const MAX_WAITING = 10_000;
const ONE_LOOK_MS = 30 * 60_000;
const POLICY_MS = 5000;

export function accessRecord(database: Database, log: Logger) {
  // One closure for what its functions share; each of them fits a screen.
  const looks = new LRUCache<string, true>({ max: 20_000, ttl: ONE_LOOK_MS });
  let collected: store.AccessNote[] = [];
  let timer: NodeJS.Timeout | undefined;
  let writing: Promise<void> = Promise.resolve();
  let known: { at: number; policy: AccessPolicy } | undefined;

  const policy = async (): Promise<AccessPolicy> => {
    if (known && Date.now() - known.at < POLICY_MS) return known.policy;
    const found = accessPolicy.safeParse(await readSetting(database, SETTING));
    known = { at: Date.now(), policy: found.data ?? { leftOut: [], keepDays: null } };
    return known.policy;
  };

  const flush = (): Promise<void> => {
    clearTimeout(timer);
    timer = undefined;
    writing = writing.then(async () => {
      const notes = collected;
      collected = [];
      if (notes.length === 0) return;
      try {
        const { leftOut } = await policy();
        const meant = notes.filter(({ kind }) => ALWAYS_RECORDED.has(kind) || !leftOut.includes(kind));
        if (meant.length > 0) await store.insertAccess(database, meant);
      } catch (error) {
        // A database that is away for a while takes them when it is back.
        const waiting = [...notes, ...collected];
        collected = waiting.slice(-MAX_WAITING);
        const dropped = waiting.length - collected.length;
        const lost = dropped > 0 ? `; the oldest ${dropped} of what waited were dropped` : '';
        log.warn(`the record of access can't be written: ${messageOf(error)}${lost}`);
      }
    });
    return writing;
  };

  return {
    /** Notes what somebody does. */
    note(noted: Omit<store.AccessNote, 'at'>): void {
      const { kind, accountId, photoId } = noted;
      if (kind === 'looked') {
        const look = `${accountId} ${photoId}`;
        if (looks.has(look)) return;
        looks.set(look, true);
      }
      collected.push({ ...noted, at: new Date().toISOString() });
      if (collected.length >= MAX_COLLECTED) void flush();
      else timer ??= setTimeout(() => void flush(), COLLECTED_MS);
    },

    /** Writes down what is collected. */
    flush,

    async list(filter: store.AccessAsked, limit: number): Promise<AccessEntry[]> {
      await flush();
      return store.listAccess(database, filter, limit);
    },

    /** All that meets a filter, the newest first, some at a time. */
    async *all(filter: store.AccessAsked): AsyncGenerator<AccessEntry> {
      await flush();
      yield* newestFirst(filter.before, (before, limit) =>
        store.listAccess({ rows: database.behind }, { ...filter, before }, limit),
      );
    },

    policy,
    async setPolicy(wanted: AccessPolicy): Promise<void> {
      await writeSetting(database, SETTING, wanted);
      known = undefined;
    },

    /** Removes what is older than the policy keeps, and records that. */
    async forgetOld(): Promise<number> {
      const { keepDays } = await policy();
      if (keepDays === null) return 0;
      const count = await store.forgetAccess(database, keepDays);
      if (count > 0)
        this.note({ kind: 'forgotten', accountId: null, about: `${count} entries older than ${keepDays} days` });
      return count;
    },

    close: flush,
  };
}
