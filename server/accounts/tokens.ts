// Tokens with which scripts ask in somebody's name. They are kept as SHA-256 hashes.

import { Op } from 'sequelize';
import type { Permission } from '@stellin/core/accounts/permissions';
import type { ApiToken } from '@stellin/contract/tokens';
import type { Database } from '../database/database';
import { API_TOKEN } from '../database/models/accounts';
import { modelOf } from '../database/models/table';
import { StellinError } from '../errors';
import { newToken, tokenHash } from './sessions';
import * as store from './store';

/** What a token begins with, so that people and programs that look for secrets know it. */
const PREFIX = 'stellin_';
const DAY_MS = 24 * 3_600_000;

export type Tokens = ReturnType<typeof tokenService>;

export function tokenService(database: Database) {
  const tokens = modelOf(database, API_TOKEN);
  return {
    /** The tokens of an account that are still good, the newest first. */
    async list(accountId: number): Promise<ApiToken[]> {
      const good = await tokens.findAll({
        where: { accountId, expiresAt: { [Op.gt]: new Date() } },
        order: [['id', 'desc']],
      });
      return good.map(({ id, name, permissions, createdAt, expiresAt, lastUsedAt }) => ({
        id,
        name,
        permissions: permissions as Permission[],
        createdAt: createdAt.toISOString(),
        expiresAt: expiresAt.toISOString(),
        lastUsedAt: lastUsedAt?.toISOString() ?? null,
      }));
    },

    /** Makes a token that is good for some days; it is kept nowhere else than in the answer. */
    async make(
      accountId: number,
      { name, permissions, days }: { name: string; permissions: readonly Permission[]; days: number },
    ): Promise<{ id: number; token: string }> {
      const token = `${PREFIX}${newToken()}`;
      const { id } = await tokens.create({
        accountId,
        name,
        tokenHash: tokenHash(token),
        permissions: [...new Set<Permission>(['see', ...permissions])],
        expiresAt: new Date(Date.now() + days * DAY_MS),
      });
      await database.notify(['accounts']);
      return { id, token };
    },

    async revoke(accountId: number, id: number): Promise<void> {
      if ((await tokens.destroy({ where: { accountId, id } })) === 0)
        throw new StellinError('notFound', { what: 'such token' });
      await database.notify(['accounts']);
    },

    /** Whose a token is, and what it is good for; undefined when it is unknown or over. */
    async holderOf(token: string): Promise<store.TokenRow | undefined> {
      const found = await store.tokenHolder(database, tokenHash(token));
      if (found?.rested) await store.noteTokenUse(database, found.tokenId);
      return found;
    },
  };
}
