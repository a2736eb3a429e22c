// Who may sign in: accounts, their passwords, and the links with which somebody chooses one.

import { LRUCache } from 'lru-cache';
import { Op, type Transaction } from 'sequelize';
import { PRESET_ROLES, PRESET_ROLE_IDS, type PresetRole } from '@stellin/core/accounts/permissions';
import type { DataKind } from '../config';
import type { Theme } from '@stellin/contract/accounts';
import type { Database } from '../database/database';
import { ACCOUNT, HELD_RIGHT, INVITATION, ROLE } from '../database/models/accounts';
import { modelOf, type ModelOf } from '../database/models/table';
import { StellinError } from '../errors';
import { DEMO_ACCOUNTS } from './demoAccounts';
import type { NewAccount } from './newAccount';
import { hashOf, isPasswordOf } from './passwords';
import { secondFactorService } from './secondFactor';
import { newToken, sessionService, tokenHash } from './sessions';
import * as store from './store';

type AccountModel = InstanceType<ModelOf<typeof ACCOUNT>>;

/** How long a link to choose a password with is good. */
const INVITATION_DAYS = 7;

const MAX_FAILURES = 20;
const FAILURES_MS = 10 * 60_000;
const NAMES_WATCHED = 10_000;

/** An account by its names. */
export interface NamedAccount {
  id: number;
  name: string;
  displayName: string;
}

export type Accounts = ReturnType<typeof accountService>;

/** The accounts of an archive, or of the demo, where passwords may be published ones. */
export function accountService(database: Database, kind: DataKind = 'archive') {
  // One closure for what its functions share; each of them fits a screen.
  const accounts = modelOf(database, ACCOUNT);
  const invitations = modelOf(database, INVITATION);
  const sessions = sessionService(database);
  const secondFactor = secondFactorService(database);
  /** Wrong passwords by sign-in name, from wherever they came: many machines can guess at one account. */
  const failures = new LRUCache<string, number>({ max: NAMES_WATCHED, ttl: FAILURES_MS });

  /** An account by its sign-in name or its number. */
  const requireAccount = async (who: string | number, transaction?: Transaction): Promise<AccountModel> => {
    const where = typeof who === 'number' ? { id: who } : { name: who.trim().toLowerCase() };
    const account = await accounts.findOne({ where, transaction });
    if (account) return account;
    throw typeof who === 'number'
      ? new StellinError('notFound', { what: 'such account' })
      : new StellinError('accountUnknown', { name: who });
  };

  /** Gives an account another password: its sessions end, and so do links to choose one. */
  const replacePassword = async (account: AccountModel, password: string): Promise<void> => {
    const passwordHash = await hashOf(password, account.name, kind);
    await database.transaction(async (transaction) => {
      await account.update({ passwordHash }, { transaction });
      await sessions.endAll(account.id, undefined, transaction);
      await invitations.destroy({ where: { accountId: account.id }, transaction });
    });
  };

  const create = async (
    { name, displayName, role }: Omit<NewAccount, 'password'>,
    passwordHash: string | null,
  ): Promise<NamedAccount> =>
    database.transaction(async (transaction) => {
      if (await accounts.findOne({ where: { name }, transaction })) throw new StellinError('accountExists', { name });
      const account = await accounts.create({ name, displayName, passwordHash }, { transaction });
      if (role !== null) {
        const held = await modelOf(database, ROLE).findOne({ where: { preset: role }, transaction });
        await modelOf(database, HELD_RIGHT).create({ accountId: account.id, roleId: held?.id ?? 0 }, { transaction });
      }
      await database.notify(['accounts'], transaction);
      return named(account);
    });

  return {
    /** Makes accounts that do not exist yet; those that do stay as they are. */
    async ensure(wanted: readonly NewAccount[]): Promise<void> {
      for (const account of wanted)
        if (!(await accounts.findOne({ where: { name: account.name } })))
          await create(account, await hashOf(account.password, account.name, kind));
    },

    async count(): Promise<number> {
      return accounts.count();
    },

    /** All accounts, with what people call their roles. */
    async list(): Promise<(NamedAccount & { role: string; disabled: boolean })[]> {
      const [known, roles] = await Promise.all([store.listAccounts(database), store.rolesByAccount(database)]);
      const names = new Map(roles.map(({ accountId, roles: held }) => [accountId, held]));
      return known.map(({ id, name, displayName, disabled }) => ({
        id,
        name,
        displayName,
        disabled,
        role: names.get(id) ?? '',
      }));
    },

    /** Adds an account with a password. Refused when there is one of that name. */
    add: async (account: NewAccount): Promise<NamedAccount> =>
      create(account, await hashOf(account.password, account.name, kind)),

    /** Adds an account that somebody is invited to; nobody signs in to it before a password was chosen. */
    invite: (account: Omit<NewAccount, 'password'>): Promise<NamedAccount> => create(account, null),

    /** A secret for a link with which a password is chosen, once; earlier ones are no longer good. */
    async link(accountId: number, madeBy: number | null): Promise<{ token: string; until: string }> {
      const token = newToken();
      const expiresAt = new Date(Date.now() + INVITATION_DAYS * 24 * 3_600_000);
      await database.transaction(async (transaction) => {
        const account = await requireAccount(accountId, transaction);
        if (account.disabledAt !== null) throw new StellinError('accountDisabled', { name: account.name });
        await invitations.destroy({
          where: { [Op.or]: [{ accountId }, { expiresAt: { [Op.lt]: new Date() } }] },
          transaction,
        });
        await invitations.create({ tokenHash: tokenHash(token), accountId, madeBy, expiresAt }, { transaction });
        await database.notify(['accounts'], transaction);
      });
      return { token, until: expiresAt.toISOString() };
    },

    /** Whose link a secret is of. */
    async invited(token: string): Promise<NamedAccount> {
      return named(await requireInvited(token));
    },

    /** Chooses the password of the account that a link is of, which is used up by that. */
    async accept(token: string, password: string): Promise<NamedAccount> {
      const account = await requireInvited(token);
      await replacePassword(account, password);
      await database.notify(['accounts']);
      return named(account);
    },

    /** Gives an account another password and ends its sessions. */
    async setPassword(name: string, password: string): Promise<void> {
      await replacePassword(await requireAccount(name), password);
    },

    /** Changes the password of somebody who knows the present one; ends all sessions of the account. */
    async changePassword(accountId: number, present: string, password: string): Promise<void> {
      const account = await requireAccount(accountId);
      if (!(await isPasswordOf(account.passwordHash, present))) throw new StellinError('presentPasswordWrong');
      if (present === password) throw new StellinError('passwordRefused', { why: 'it is the one you have' });
      await replacePassword(account, password);
    },

    /** How the interface looks for somebody, wherever they sign in. */
    async changeTheme(accountId: number, theme: Theme): Promise<void> {
      await (await requireAccount(accountId)).update({ theme });
      await database.notify(['accounts']);
    },

    /** In which language somebody likes to read texts and terms; null: none is preferred. */
    async changeLanguage(accountId: number, language: string | null): Promise<void> {
      await (await requireAccount(accountId)).update({ language });
      await database.notify(['accounts']);
    },

    /** Calls somebody otherwise. */
    async rename(accountId: number, displayName: string): Promise<void> {
      await (await requireAccount(accountId)).update({ displayName });
      await database.notify(['accounts']);
    },

    /** Lets nobody sign in with an account any more, and ends its sessions. Somebody who administers stays. */
    disable: (who: string | number): Promise<void> =>
      withAnAdministrator(database, async (transaction) => {
        const account = await requireAccount(who, transaction);
        await account.update({ disabledAt: new Date() }, { transaction });
        await sessions.endAll(account.id, undefined, transaction);
        return account.name;
      }),

    async enable(who: string | number): Promise<void> {
      await (await requireAccount(who)).update({ disabledAt: null });
      await database.notify(['accounts']);
    },

    /** The names of accounts that still have a published password. */
    async withPublishedPassword(): Promise<string[]> {
      const known = await accounts.findAll({ where: { name: DEMO_ACCOUNTS.map(({ name }) => name) } });
      const published: string[] = [];
      for (const { name, passwordHash } of known) {
        const password = DEMO_ACCOUNTS.find((account) => account.name === name)?.password ?? '';
        if (await isPasswordOf(passwordHash, password)) published.push(name);
      }
      return published;
    },

    /** Checks name and password, and the code of a second factor where there is one, and opens a session. `device`: how the browser names itself. */
    async signIn(
      name: string,
      password: string,
      { device = '', code }: { device?: string | undefined; code?: string | undefined } = {},
    ): Promise<{ account: NamedAccount; token: string }> {
      const key = name.trim().toLowerCase();
      if ((failures.get(key) ?? 0) >= MAX_FAILURES) throw new StellinError('tooManyTries', { wait: 'some minutes' });
      const account = await accounts.findOne({ where: { name: key } });
      const right = await isPasswordOf(account?.passwordHash, password);
      if (!account || !right || account.disabledAt !== null) {
        failures.set(key, (failures.get(key) ?? 0) + 1);
        throw new StellinError('wrongPassword');
      }
      await secondFactor.require(account, code).catch((error: unknown) => {
        // That a code is asked for is no failure; guessing at one is.
        if (code !== undefined) failures.set(key, (failures.get(key) ?? 0) + 1);
        throw error;
      });
      failures.delete(key);
      return { account: named(account), token: await sessions.open(account.id, device) };
    },

    /** The account of a sign-in name. */
    async find(name: string): Promise<NamedAccount | null> {
      const account = await accounts.findOne({ where: { name } });
      return account && named(account);
    },
  };

  async function requireInvited(token: string): Promise<AccountModel> {
    const invitation = await invitations.findOne({
      where: { tokenHash: tokenHash(token), expiresAt: { [Op.gt]: new Date() } },
    });
    const account = invitation && (await accounts.findByPk(invitation.accountId));
    if (!account || account.disabledAt !== null) throw new StellinError('linkUsedUp');
    return account;
  }
}

/** The roles that have a permission of themselves. */
const administering: readonly PresetRole[] = PRESET_ROLE_IDS.filter((id) =>
  (PRESET_ROLES[id].permissions as readonly string[]).includes('administer'),
);

/** Changes accounts, roles or rights; refused when nobody could administer the archive after it. The work returns what it was done to. */
export async function withAnAdministrator(
  database: Database,
  work: (transaction: Transaction) => Promise<string>,
): Promise<void> {
  await database.transaction(async (transaction) => {
    // Two keepers must not disable each other at once.
    await store.lockRights(database, transaction);
    const had = await store.countHolders(database, 'administer', administering, transaction);
    const name = await work(transaction);
    if (had > 0 && (await store.countHolders(database, 'administer', administering, transaction)) === 0)
      throw new StellinError('lastKeeper', { name });
    await database.notify(['accounts'], transaction);
  });
}

function named({ id, name, displayName }: AccountModel): NamedAccount {
  return { id, name, displayName };
}
