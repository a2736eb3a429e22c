// `./stellin account`: looking after accounts on the machine itself. Whoever may run it may do what a keeper may.

import { randomBytes } from 'node:crypto';
import { createInterface } from 'node:readline/promises';
import { Writable } from 'node:stream';
import { parseArgs } from 'node:util';
import { z } from 'zod';
import { accountName } from '@stellin/contract/accounts';
import { ROLES } from '@stellin/contract/route';
import { accountService, type Accounts } from '@stellin/server/accounts/service';
import { readConfig } from '@stellin/server/config';
import { openDatabase } from '@stellin/server/database/database';
import { migrate } from '@stellin/server/database/migrate';
import { requireDatabase, requireFolder } from '@stellin/server/identity';
import { borrowDatabase } from './database';

interface Options {
  role: string;
  display: string | undefined;
  generate: boolean;
}

const ACTIONS: Record<
  string,
  { usage: string; run(accounts: Accounts, name: string, options: Options): Promise<void> }
> = {
  list: {
    usage: 'list                                                          who may sign in',
    async run(accounts) {
      for (const { name, displayName, role, disabled } of await accounts.list())
        console.log(`${name.padEnd(20)} ${role.padEnd(11)} ${displayName}${disabled ? ' (disabled)' : ''}`);
    },
  },
  add: {
    usage: 'add NAME [--role keeper|cataloguer|viewer] [--display NAME]   add an account',
    async run(accounts, given, { role, display, generate }) {
      const name = accountName.parse(given);
      const account = { name, displayName: display ?? given, role: z.enum(ROLES).parse(role) };
      await accounts.add({ ...account, password: await chosenPassword(name, generate) });
      console.log(`${name} may sign in as ${role}.`);
    },
  },
  password: {
    usage: 'password NAME                                                 set another password',
    async run(accounts, name, { generate }) {
      await accounts.setPassword(name, await chosenPassword(name, generate));
      console.log(`The password of ${name} is changed; all its sessions have ended.`);
    },
  },
  disable: {
    usage: 'disable NAME                                                  let nobody sign in with it',
    async run(accounts, name) {
      await accounts.disable(name);
      console.log(`Nobody can sign in as ${name} any more; all its sessions have ended.`);
    },
  },
  enable: {
    usage: 'enable NAME                                                   let it be used again',
    async run(accounts, name) {
      await accounts.enable(name);
      console.log(`${name} may sign in again.`);
    },
  },
};

const HELP = `Usage: ./stellin account
${Object.values(ACTIONS)
  .map(({ usage }) => `  ${usage}`)
  .join('\n')}
A password is asked for, or read from standard input; --generate makes one and shows it.`;

export async function accountCommand(args: string[]): Promise<number> {
  const { values, positionals } = parseArgs({
    args,
    options: {
      role: { type: 'string', default: 'cataloguer' },
      display: { type: 'string' },
      generate: { type: 'boolean', default: false },
    },
    allowPositionals: true,
  });
  const [wanted = '', name = ''] = positionals;
  const action = ACTIONS[wanted];
  if (!action || positionals.length !== (wanted === 'list' ? 1 : 2)) {
    console.error(HELP);
    return 2;
  }
  const config = readConfig();
  requireFolder(config.home, config.kind);
  const used = await borrowDatabase(config);
  const database = openDatabase(used.url);
  try {
    await requireDatabase(database, config.kind);
    await migrate(database);
    await action.run(accountService(database), name, {
      role: values.role,
      display: values.display,
      generate: values.generate,
    });
    return 0;
  } catch (error) {
    if (error instanceof z.ZodError)
      throw new Error(error.issues.map(({ message }) => message).join('; '), { cause: error });
    throw error;
  } finally {
    await database.close();
    await used.stop();
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
