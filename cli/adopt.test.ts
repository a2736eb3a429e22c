import { DEMO_ACCOUNTS } from '@stellin/server/accounts/demoAccounts';
import { accountService } from '@stellin/server/accounts/service';
import { writeSetting } from '@stellin/server/database/settings';
import { kindOfDatabase } from '@stellin/server/identity';
import { openWorld, type World } from '@stellin/server/testing/world';
import { adopt } from './adopt';

let world: World;
beforeEach(async () => (world = await openWorld({ working: false })));
afterEach(() => world.close());

test('what an earlier version mixed becomes an archive in which no published password opens anything', async () => {
  const { database, accounts } = world.services;
  for (const { name, password } of DEMO_ACCOUNTS) await accountService(database, 'demo').setPassword(name, password);
  await database.rows(`delete from setting where name = 'holds'`);
  await writeSetting(database, 'demo', ['index Vault 1']);

  const said: string[] = [];
  const log = jest.spyOn(console, 'log').mockImplementation((text: string) => void said.push(text));
  await adopt(world.databaseUrl);
  log.mockRestore();

  expect(await kindOfDatabase(database)).toBe('archive');
  for (const { name, password } of DEMO_ACCOUNTS)
    await expect(accounts.signIn(name, password)).rejects.toThrow('do not belong together');
  const [, password = ''] = /new password of keeper: (\S+)/.exec(said.join('\n')) ?? [];
  expect((await accounts.signIn('keeper', password)).account.name).toBe('keeper');
  expect((await accounts.list()).filter(({ disabled }) => disabled).map(({ name }) => name)).toEqual([
    'cataloguer',
    'viewer',
  ]);
});

test('an archive is not adopted: nothing in it changes', async () => {
  await expect(adopt(world.databaseUrl)).rejects.toThrow('this is none');
  expect((await world.services.accounts.list()).every(({ disabled }) => !disabled)).toBe(true);
});
