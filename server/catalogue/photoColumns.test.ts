import { openWorld, type World } from '../testing/world';
import { PHOTO_COLUMNS, PHOTO_TABLES, SEARCHED_COLUMNS, TEXT_COLUMNS } from './photoColumns';

let world: World;
beforeAll(async () => {
  world = await openWorld({ working: false });
});
afterAll(() => world.close());

async function columnsOf(table: string): Promise<Record<string, string>> {
  const rows = await world.services.database.rows<{ name: string; type: string }>(
    `select attname as name, format_type(atttypid, atttypmod) as type from pg_attribute
     where attrelid = $1::regclass and attnum > 0 and not attisdropped`,
    [table],
  );
  return Object.fromEntries(rows.map(({ name, type }) => [name, type]));
}

test('the table of columns is that of the database, with its types', async () => {
  expect(Object.fromEntries(Object.entries(PHOTO_COLUMNS).map(([name, { type }]) => [name, type]))).toEqual(
    await columnsOf('photo'),
  );
  expect({ photo_id: 'integer', ...TEXT_COLUMNS }).toEqual(await columnsOf('photo_text'));
});

test('every table that belongs to a photo says what becomes of it in a copy, in columns that are there', async () => {
  const rows = await world.services.database.rows<{ name: string }>(
    `select c.conrelid::regclass::text as name from pg_constraint c
     join pg_attribute a on a.attrelid = c.conrelid and a.attnum = c.conkey[1]
     where c.contype = 'f' and c.confrelid = 'photo'::regclass and a.attname = 'photo_id'`,
  );
  expect(Object.keys(PHOTO_TABLES).sort()).toEqual(rows.map(({ name }) => name).sort());
  for (const [table, { copied }] of Object.entries(PHOTO_TABLES))
    expect(Object.keys(await columnsOf(table))).toEqual(expect.arrayContaining([...copied]));
});

test('the finder index follows the columns that searches look at', async () => {
  const row = await world.services.database.row<{ source: string }>(
    `select prosrc as source from pg_proc where proname = 'note_photo_rows'`,
  );
  const compared = [...new Set([...(row?.source ?? '').matchAll(/\bn\.(\w+)/g)].map(([, name]) => name))];
  expect(new Set(compared)).toEqual(new Set(['id', ...SEARCHED_COLUMNS]));
});
