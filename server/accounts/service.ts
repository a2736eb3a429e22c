// Who may sign in, and who is signed in. Passwords are kept as argon2id hashes, session tokens as SHA-256 hashes.

import { createHash, randomBytes } from 'node:crypto';
import { hash, verify } from '@node-rs/argon2';
import { Op } from 'sequelize';
import type { SignedIn } from '@stellin/contract/accounts';
import type { Role } from '@stellin/contract/route';
import type { Database } from '../database/database';
import { StellinError } from '../errors';
import { accountModels, type AccountRow } from './models';

export const SESSION_HOURS = 12;

export interface NewAccount {
  name: string;
  displayName: string;
  role: Role;
  password: string;
}

export type Accounts = ReturnType<typeof accountService>;

export function accountService(database: Database) {
  const { accounts, sessions } = accountModels(database.sequelize);
  // Compared with when the name is unknown, so that the time taken tells nothing about which names exist.
  const nobody = hash(randomBytes(16).toString('hex'));

  return {
    /** Makes accounts that do not exist yet; those that do stay as they are. */
    async ensure(wanted: readonly NewAccount[]): Promise<void> {
      for (const { name, displayName, role, password } of wanted) {
        if (await accounts.findOne({ where: { name } })) continue;
        await accounts.create({ name, displayName, role, passwordHash: await hash(password) });
      }
    },

    async count(): Promise<number> {
      return accounts.count();
    },

    /** Checks name and password and opens a session. */
    async signIn(name: string, password: string): Promise<{ person: SignedIn; token: string }> {
      const account = await accounts.findOne({ where: { name: name.trim().toLowerCase() } });
      const right = await verify(account?.passwordHash ?? (await nobody), password);
      if (!account || !right) throw new StellinError('wrongPassword');
      const token = randomBytes(32).toString('base64url');
      await sessions.destroy({ where: { expiresAt: { [Op.lt]: new Date() } } });
      await sessions.create({
        tokenHash: hashOf(token),
        accountId: account.id,
        expiresAt: new Date(Date.now() + SESSION_HOURS * 3_600_000),
      });
      return { person: personOf(account), token };
    },

    /** Who holds a session token; null when it is unknown or over. */
    async whoHolds(token: string): Promise<SignedIn | null> {
      // Every request asks this, each small picture of the sheet, too.
      const [person] = await database.often<SignedIn>(
        `select a.id, a.name, a.display_name as "displayName", a.role
         from session s join account a on a.id = s.account_id where s.token_hash = $1 and s.expires_at > now()`,
        [hashOf(token)],
      );
      return person ?? null;
    },

    async signOut(token: string): Promise<void> {
      await sessions.destroy({ where: { tokenHash: hashOf(token) } });
    },

    /** The account of a sign-in name. */
    async find(name: string): Promise<SignedIn | null> {
      const account = await accounts.findOne({ where: { name } });
      return account && personOf(account);
    },
  };
}

function personOf({ id, name, displayName, role }: AccountRow): SignedIn {
  return { id, name, displayName, role };
}

function hashOf(token: string): string {
  return createHash('sha256').update(token).digest('hex');
}
