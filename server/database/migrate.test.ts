import { openWorld, type World } from '../testing/world';
import { openDatabase, type Database } from './database';
import { migrate, MIGRATION_NAMES } from './migrate';

let world: World;
let others: Database[] = [];
beforeEach(async () => (world = await openWorld({ working: false })));
afterEach(async () => {
  for (const other of others) await other.close();
  others = [];
  await world.close();
});

function open(): Database {
  const database = openDatabase(world.databaseUrl);
  others.push(database);
  return database;
}

const step = (name: string, sql: string) => ({ name, sql });
const known = () => MIGRATION_NAMES.map((name) => step(name, 'select 1'));
const slow = [
  ...known(),
  step('9001-a', 'create table first_thing (id int); select pg_sleep(0.05)'),
  step('9002-b', 'create table other_thing (id int)'),
];

test('of processes that start together one migrates, and the others find it done', async () => {
  const ran = await Promise.all([open(), open(), open(), open()].map((database) => migrate(database, slow)));
  expect(ran.flat().sort()).toEqual(['9001-a', '9002-b']);
  expect(await migrate(open(), slow)).toEqual([]);
});

test('a migration that fails leaves nothing behind, and runs again once it is mended', async () => {
  const broken = [...known(), step('9001-a', 'create table first_thing (id int); select 1 / 0')];
  await expect(migrate(open(), broken)).rejects.toThrow('division by zero');
  expect(await open().row(`select to_regclass('first_thing')::text as found`)).toEqual({ found: null });
  expect(await migrate(open(), slow)).toEqual(['9001-a', '9002-b']);
});

test('tables of a newer version are refused by name and left alone', async () => {
  await migrate(open(), slow);
  await expect(migrate(open())).rejects.toThrow('used by a newer version of Stellin (its schema has “9001-a”)');
});
