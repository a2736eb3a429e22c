// Who is signed in: sessions with their devices. Tokens are kept as SHA-256 hashes.

import { createHash, randomBytes } from 'node:crypto';
import { Op } from 'sequelize';
import type { Session } from '@stellin/contract/accounts';
import type { Database, Transaction } from '../database/database';
import { SESSION } from '../database/models/accounts';
import { modelOf } from '../database/models/table';
import { StellinError } from '../errors';
import * as store from './store';

export const SESSION_HOURS = 12;
const MAX_DEVICE_LETTERS = 300;

export type Sessions = ReturnType<typeof sessionService>;

export function sessionService(database: Database) {
  const sessions = modelOf(database, SESSION);
  return {
    /** Opens a session; returns its token, which is kept nowhere else. */
    async open(accountId: number, device: string): Promise<string> {
      const token = newToken();
      await sessions.destroy({ where: { expiresAt: { [Op.lt]: new Date() } } });
      await sessions.create({
        tokenHash: tokenHash(token),
        accountId,
        expiresAt: new Date(Date.now() + SESSION_HOURS * 3_600_000),
        device: device.slice(0, MAX_DEVICE_LETTERS),
      });
      return token;
    },

    /** Who holds a token; undefined when it is unknown or over. */
    async holderOf(token: string): Promise<store.HolderRow | undefined> {
      // Every request asks this, each small picture of the sheet, too.
      const holder = await store.holderOf(database, tokenHash(token));
      if (holder?.rested) await store.noteUse(database, holder.sessionId);
      return holder;
    },

    /** Whether a token is of an open session; asking is no use of it. */
    async isOpen(token: string): Promise<boolean> {
      return (await store.holderOf(database, tokenHash(token))) !== undefined;
    },

    async close(token: string): Promise<void> {
      await sessions.destroy({ where: { tokenHash: tokenHash(token) } });
      await database.notify(['accounts']);
    },

    /** The sessions of an account, the one used last first; `sessionId` is the one that asks. */
    async list(accountId: number, sessionId: string): Promise<Session[]> {
      const open = await sessions.findAll({
        where: { accountId, expiresAt: { [Op.gt]: new Date() } },
        order: [['lastUsedAt', 'desc']],
      });
      return open.map(({ id, device, createdAt, lastUsedAt }) => ({
        id,
        device,
        since: createdAt.toISOString(),
        lastUsed: lastUsedAt.toISOString(),
        isThis: id === sessionId,
      }));
    },

    /** Ends one of somebody’s sessions. */
    async end(accountId: number, id: string): Promise<void> {
      if ((await sessions.destroy({ where: { accountId, id } })) === 0)
        throw new StellinError('notFound', { what: 'such session' });
      await database.notify(['accounts']);
    },

    /** Ends the sessions of an account, but for one that stays. */
    async endAll(accountId: number, but?: string, transaction?: Transaction): Promise<void> {
      const others = but === undefined ? {} : { id: { [Op.ne]: but } };
      await sessions.destroy({ where: { accountId, ...others }, transaction: transaction ?? null });
      await database.notify(['accounts'], transaction);
    },
  };
}

/** A secret of 256 bits, as it stands in cookies and links. */
export function newToken(): string {
  return randomBytes(32).toString('base64url');
}

export function tokenHash(token: string): string {
  return createHash('sha256').update(token).digest('hex');
}
