import { openDatabase, type Database } from './database';
import { ACCOUNT } from './models/accounts';
import { modelOf } from './models/table';
import { openWorld, type World } from '../testing/world';

// Two databases that differ, so that each answer tells where it comes from.
let [first, second]: World[] = [];
let database: Database;

beforeAll(async () => {
  [first, second] = [await openWorld(), await openWorld()];
  await second?.services.database.rows(`update account set display_name = 'Behind' where name = 'keeper'`, []);
  database = openDatabase(first?.databaseUrl ?? '', { replicaUrl: second?.databaseUrl });
});
afterAll(async () => {
  await database.close();
  await first?.close();
  await second?.close();
});

const ASKED = `select display_name as name from account where name = 'keeper'`;

test('only what may be a moment behind is asked of the replica', async () => {
  expect(await database.behind(ASKED, [])).toEqual([{ name: 'Behind' }]);
  expect(await database.rows(ASKED, [])).toEqual([{ name: 'The keeper' }]);
  expect(await database.often(ASKED, [])).toEqual([{ name: 'The keeper' }]);
  expect(await database.transaction((tx) => database.rows(ASKED, [], tx))).toEqual([{ name: 'The keeper' }]);
  expect(await database.beside((connection) => connection.rows(ASKED))).toEqual([{ name: 'The keeper' }]);
});

test('models read and write what is true now', async () => {
  const accounts = modelOf(database, ACCOUNT);
  const found = await accounts.findOne({ where: { name: 'keeper' } });
  expect(found?.displayName).toBe('The keeper');
  await found?.update({ displayName: 'The new keeper' });
  expect(await accounts.count({ where: { displayName: 'The new keeper' } })).toBe(1);
  expect((await accounts.findByPk(found?.id ?? 0))?.displayName).toBe('The new keeper');
  expect(await database.behind(ASKED, [])).toEqual([{ name: 'Behind' }]);
});

test('without a replica all of it is answered by the database', async () => {
  const alone = openDatabase(first?.databaseUrl ?? '');
  expect(await alone.behind(ASKED, [])).toEqual(await alone.rows(ASKED, []));
  await alone.close();
});
