// The second factor: codes of an app that change with time (TOTP, RFC 6238), and recovery codes for when it is lost.

import { randomInt } from 'node:crypto';
import { Secret, TOTP } from 'otpauth';
import { ACCOUNT, RECOVERY_CODE } from '../database/models/accounts';
import { modelOf } from '../database/models/table';
import type { Database, Transaction } from '../database/database';
import { StellinError } from '../errors';
import { isPasswordOf } from './passwords';
import { tokenHash } from './sessions';
import * as store from './store';

/** How many steps of 30 seconds an app’s clock may be ahead or behind. */
const STEPS_ASIDE = 1;
const STEP_SECONDS = 30;
const RECOVERY_CODES = 10;
/** Nothing that is easily taken for something else. */
const LETTERS = 'abcdefghjkmnpqrstuvwxyz23456789';

export type SecondFactor = ReturnType<typeof secondFactorService>;

export function secondFactorService(database: Database) {
  const accounts = modelOf(database, ACCOUNT);
  const codes = modelOf(database, RECOVERY_CODE);

  const requireAccount = async (id: number) => {
    const account = await accounts.findByPk(id);
    if (!account) throw new StellinError('notFound', { what: 'such account' });
    return account;
  };

  const takeOff = async (accountId: number, transaction: Transaction): Promise<void> => {
    await accounts.update({ totpSecret: null, totpStep: null }, { where: { id: accountId }, transaction });
    await codes.destroy({ where: { accountId }, transaction });
    await database.notify(['accounts'], transaction);
  };

  return {
    /** Whether an account has one, and how many recovery codes are left. */
    async state(accountId: number): Promise<{ on: boolean; recoveryCodes: number }> {
      const { totpSecret } = await requireAccount(accountId);
      return { on: totpSecret !== null, recoveryCodes: await codes.count({ where: { accountId } }) };
    },

    /** A new secret, and the address with which an app takes it up; nothing is kept until it is confirmed. */
    async propose(accountId: number): Promise<{ secret: string; uri: string }> {
      const { name } = await requireAccount(accountId);
      const totp = totpOf(new Secret({ size: 20 }).base32, name);
      return { secret: totp.secret.base32, uri: totp.toString() };
    },

    /** Takes a secret up once its app shows the right code; returns the recovery codes, which are kept as hashes only. */
    async confirm(accountId: number, secret: string, code: string): Promise<string[]> {
      const { totpSecret } = await requireAccount(accountId);
      if (totpSecret !== null) throw new StellinError('secondFactorThere');
      const step = stepOf(secret, code);
      if (step === undefined) throw new StellinError('secondFactorWrong');
      const made = Array.from({ length: RECOVERY_CODES }, recoveryCode);
      await database.transaction(async (transaction) => {
        await accounts.update(
          { totpSecret: secret, totpStep: String(step) },
          { where: { id: accountId }, transaction },
        );
        await codes.destroy({ where: { accountId }, transaction });
        await codes.bulkCreate(
          made.map((one) => ({ accountId, codeHash: tokenHash(one) })),
          { transaction },
        );
        await database.notify(['accounts'], transaction);
      });
      return made;
    },

    /** Somebody takes their own off; refused without their password. */
    async remove(accountId: number, password: string): Promise<void> {
      const { passwordHash } = await requireAccount(accountId);
      if (!(await isPasswordOf(passwordHash, password))) throw new StellinError('presentPasswordWrong');
      await database.transaction((transaction) => takeOff(accountId, transaction));
    },

    /** Takes it off for somebody who lost the app and the recovery codes. */
    reset: (accountId: number): Promise<void> => database.transaction((transaction) => takeOff(accountId, transaction)),

    /** Refuses to sign somebody in without the code that their account asks for; a code that was right is used up. */
    async require(account: { id: number; totpSecret: string | null }, code: string | undefined): Promise<void> {
      if (account.totpSecret === null) return;
      if (code === undefined || code.trim() === '') throw new StellinError('secondFactorNeeded');
      const given = code.replace(/[\s-]/g, '').toLowerCase();
      const step = stepOf(account.totpSecret, given);
      if (step !== undefined && (await store.useStep(database, account.id, step))) return;
      if ((await codes.destroy({ where: { accountId: account.id, codeHash: tokenHash(given) } })) > 0) return;
      throw new StellinError('secondFactorWrong');
    },
  };
}

function totpOf(secret: string, name: string): TOTP {
  return new TOTP({ issuer: 'Stellin', label: name, secret: Secret.fromBase32(secret), period: STEP_SECONDS });
}

/** The step of time that a code is of; undefined when it is of none near now. */
function stepOf(secret: string, code: string): number | undefined {
  if (!/^\d{6}$/.test(code)) return undefined;
  const delta = totpOf(secret, '').validate({ token: code, window: STEPS_ASIDE });
  return delta === null ? undefined : Math.floor(Date.now() / 1000 / STEP_SECONDS) + delta;
}

function recoveryCode(): string {
  return Array.from({ length: 12 }, () => LETTERS[randomInt(LETTERS.length)]).join('');
}
