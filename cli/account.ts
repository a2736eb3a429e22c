// `./stellin account`: looking after accounts on the machine itself. Whoever may run it may do what a keeper may.

import { randomBytes } from 'node:crypto';
import { createInterface } from 'node:readline/promises';
import { Writable } from 'node:stream';
import { z } from 'zod';
import { accountName } from '@stellin/contract/accounts';
import { PRESET_ROLE_IDS } from '@stellin/core/accounts/permissions';
import { secondFactorService } from '@stellin/server/accounts/secondFactor';
import { accountService, type Accounts } from '@stellin/server/accounts/service';
import { readConfig } from '@stellin/server/config';
import { withDatabase } from './withDatabase';

export function listAccounts(): Promise<number> {
  return withAccounts(async (accounts) => {
    for (const { name, displayName, role, disabled } of await accounts.list())
      console.log(`${name.padEnd(20)} ${role.padEnd(11)} ${displayName}${disabled ? ' (disabled)' : ''}`);
  });
}

interface NewAccount {
  role: string;
  display?: string;
  /** Whether a password is made and shown, instead of asked for. */
  generate: boolean;
}

export function addAccount(given: string, { role, display, generate }: NewAccount): Promise<number> {
  return withAccounts(async (accounts) => {
    const name = accountName.parse(given);
    const account = { name, displayName: display ?? given, role: z.enum(PRESET_ROLE_IDS).parse(role) };
    await accounts.add({ ...account, password: await chosenPassword(name, generate) });
    console.log(`${name} may sign in as ${role}.`);
  });
}

export function changePassword(name: string, generate: boolean): Promise<number> {
  return withAccounts(async (accounts) => {
    await accounts.setPassword(name, await chosenPassword(name, generate));
    console.log(`The password of ${name} is changed; all its sessions have ended.`);
  });
}

export function resetSecondFactor(name: string): Promise<number> {
  return withDatabase(readConfig(), async (database) => {
    const account = await accountService(database).find(name);
    if (!account) throw new Error(`there is no account “${name}”`);
    await secondFactorService(database).reset(account.id);
    console.log(`${name} signs in with the password alone.`);
    return 0;
  });
}

export function disableAccount(name: string): Promise<number> {
  return withAccounts(async (accounts) => {
    await accounts.disable(name);
    console.log(`Nobody can sign in as ${name} any more; all its sessions have ended.`);
  });
}

export function enableAccount(name: string): Promise<number> {
  return withAccounts(async (accounts) => {
    await accounts.enable(name);
    console.log(`${name} may sign in again.`);
  });
}

/** Works on the accounts of the archive, whether it is served meanwhile or not. */
async function withAccounts(work: (accounts: Accounts) => Promise<void>): Promise<number> {
  try {
    await withDatabase(readConfig(), (database) => work(accountService(database)));
    return 0;
  } catch (error) {
    if (error instanceof z.ZodError)
      throw new Error(error.issues.map(({ message }) => message).join('; '), { cause: error });
    throw error;
  }
}

/** The password for an account: made here, typed twice at a terminal, or the first line of the input. */
async function chosenPassword(name: string, generate: boolean): Promise<string> {
  if (generate) {
    const password = randomBytes(12).toString('base64url');
    console.log(`The password of ${name}: ${password}`);
    return password;
  }
  if (!process.stdin.isTTY) {
    for await (const line of createInterface({ input: process.stdin })) return line;
    throw new Error('no password was given on standard input');
  }
  const password = await typedSecret(`Password for ${name}: `);
  if ((await typedSecret('Once more: ')) !== password)
    throw new Error('these were two different passwords; nothing was changed');
  return password;
}

/** What is typed at the terminal, without showing it. */
async function typedSecret(question: string): Promise<string> {
  process.stdout.write(question);
  const silent = new Writable({ write: (_chunk, _encoding, done) => done() });
  const terminal = createInterface({ input: process.stdin, output: silent, terminal: true });
  try {
    return await terminal.question('');
  } finally {
    terminal.close();
    process.stdout.write('\n');
  }
}
