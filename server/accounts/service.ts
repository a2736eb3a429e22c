// Who may sign in, and who is signed in. Passwords are kept as argon2id hashes, session tokens as SHA-256 hashes.

import { createHash, randomBytes } from 'node:crypto';
import { hash, verify } from '@node-rs/argon2';
import { Op, type Transaction } from 'sequelize';
import { newPassword, type SignedIn } from '@stellin/contract/accounts';
import type { DataKind } from '../config';
import type { Database } from '../database/database';
import { StellinError } from '../errors';
import { DEMO_ACCOUNTS, isPublished } from './demoAccounts';
import { ACCOUNT, SESSION } from '../database/models/accounts';
import { modelOf, type ModelOf } from '../database/models/table';
import type { NewAccount } from './newAccount';
import { holderOf } from './store';

type AccountModel = InstanceType<ModelOf<typeof ACCOUNT>>;

export const SESSION_HOURS = 12;

/** An account as those see it who look after accounts. */
export interface KnownAccount extends SignedIn {
  disabled: boolean;
}

export type Accounts = ReturnType<typeof accountService>;

/** The accounts of an archive, or of the demo, where passwords may be published ones. */
export function accountService(database: Database, kind: DataKind = 'archive') {
  // One closure for what its functions share; each of them fits a screen.
  const accounts = modelOf(database, ACCOUNT);
  const sessions = modelOf(database, SESSION);
  // Compared with when the name is unknown, so that the time taken tells nothing about which names exist.
  const nobody = hash(randomBytes(16).toString('hex'));

  const requireAccount = async (name: string, transaction?: Transaction): Promise<AccountModel> => {
    const account = await accounts.findOne({ where: { name: name.trim().toLowerCase() }, transaction });
    if (!account) throw new StellinError('accountUnknown', { name });
    return account;
  };

  /** Refuses what is too short, too long, or known to everybody. */
  const requireGood = (password: string): void => {
    const given = newPassword.safeParse(password);
    if (!given.success) throw new StellinError('passwordRefused', { why: given.error.issues[0]?.message ?? '' });
    if (kind === 'archive' && isPublished(password))
      throw new StellinError('passwordRefused', { why: 'everybody can read it: it belongs to the demo' });
  };

  const replacePassword = async (account: AccountModel, password: string): Promise<void> => {
    requireGood(password);
    const passwordHash = await hash(password);
    await database.transaction(async (transaction) => {
      await account.update({ passwordHash }, { transaction });
      await sessions.destroy({ where: { accountId: account.id }, transaction });
    });
  };

  const create = async ({ name, displayName, role, password }: NewAccount): Promise<SignedIn> => {
    requireGood(password);
    return personOf(
      await accounts.create({ name, displayName, role, passwordHash: await hash(password), disabledAt: null }),
    );
  };

  return {
    /** Makes accounts that do not exist yet; those that do stay as they are. */
    async ensure(wanted: readonly NewAccount[]): Promise<void> {
      for (const account of wanted)
        if (!(await accounts.findOne({ where: { name: account.name } }))) await create(account);
    },

    async count(): Promise<number> {
      return accounts.count();
    },

    list: async (): Promise<KnownAccount[]> =>
      (await accounts.findAll({ order: ['name'] })).map((account) => ({
        ...personOf(account),
        disabled: account.disabledAt !== null,
      })),

    /** Adds an account. Refused when there is one of that name. */
    async add(account: NewAccount): Promise<SignedIn> {
      if (await accounts.findOne({ where: { name: account.name } }))
        throw new StellinError('accountExists', { name: account.name });
      return create(account);
    },

    /** Gives an account another password and ends its sessions. */
    async setPassword(name: string, password: string): Promise<void> {
      await replacePassword(await requireAccount(name), password);
    },

    /** Changes the password of somebody who knows the present one; ends all sessions of the account. */
    async changePassword(accountId: number, present: string, password: string): Promise<void> {
      const account = await accounts.findByPk(accountId);
      if (!account || !(await verify(account.passwordHash, present))) throw new StellinError('presentPasswordWrong');
      if (present === password) throw new StellinError('passwordRefused', { why: 'it is the one you have' });
      await replacePassword(account, password);
    },

    /** Lets nobody sign in with an account any more, and ends its sessions. The last keeper stays. */
    async disable(name: string): Promise<void> {
      await database.transaction(async (transaction) => {
        // Two keepers must not disable each other at once.
        const keepers = await accounts.findAll({
          where: { role: 'keeper', disabledAt: null },
          lock: transaction.LOCK.UPDATE,
          transaction,
        });
        const account = await requireAccount(name, transaction);
        if (keepers.length === 1 && keepers[0]?.id === account.id)
          throw new StellinError('lastKeeper', { name: account.name });
        await account.update({ disabledAt: new Date() }, { transaction });
        await sessions.destroy({ where: { accountId: account.id }, transaction });
      });
    },

    async enable(name: string): Promise<void> {
      await (await requireAccount(name)).update({ disabledAt: null });
    },

    /** The names of accounts that still have a published password. */
    async withPublishedPassword(): Promise<string[]> {
      const known = await accounts.findAll({ where: { name: DEMO_ACCOUNTS.map(({ name }) => name) } });
      const published: string[] = [];
      for (const { name, passwordHash } of known) {
        const password = DEMO_ACCOUNTS.find((account) => account.name === name)?.password ?? '';
        if (await verify(passwordHash, password)) published.push(name);
      }
      return published;
    },

    /** Checks name and password and opens a session. */
    async signIn(name: string, password: string): Promise<{ person: SignedIn; token: string }> {
      const account = await accounts.findOne({ where: { name: name.trim().toLowerCase() } });
      const right = await verify(account?.passwordHash ?? (await nobody), password);
      if (!account || !right || account.disabledAt !== null) throw new StellinError('wrongPassword');
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
      return (await holderOf(database, hashOf(token))) ?? null;
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

function personOf({ id, name, displayName, role }: AccountModel): SignedIn {
  return { id, name, displayName, role };
}

function hashOf(token: string): string {
  return createHash('sha256').update(token).digest('hex');
}
