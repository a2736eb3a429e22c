import { openWorld, type World } from '../../testing/world';
import * as tables from '.';
import { modelOf } from './table';

let world: World;
beforeAll(async () => {
  world = await openWorld({ working: false });
});
afterAll(() => world.close());

const snake = (name: string) => name.replace(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`);

test('the tables described are those of the database, with the types of their columns, keys and what may be empty', async () => {
  const columns = await world.services.database.rows<{ table: string; name: string; said: string }>(
    `select c.relname as table, a.attname as name,
       format_type(a.atttypid, a.atttypmod) || case when a.attnotnull then '' else ' or null' end
       || case when exists (select 1 from pg_index i where i.indrelid = c.oid and i.indisprimary and a.attnum = any(i.indkey)) then ', key' else '' end
       || coalesce((select ', of ' || k.confrelid::regclass::text from pg_constraint k
                    where k.conrelid = c.oid and k.contype = 'f' and k.conkey = array[a.attnum] limit 1), '') as said
     from pg_class c join pg_namespace n on n.oid = c.relnamespace
     join pg_attribute a on a.attrelid = c.oid and a.attnum > 0 and not a.attisdropped
     where n.nspname = 'public' and c.relkind = 'r'`,
  );
  const there: Record<string, Record<string, string>> = {};
  for (const { table, name, said } of columns) (there[table] ??= {})[name] = said;
  const described = Object.fromEntries(
    Object.values(tables).map((each) => [
      each.name,
      Object.fromEntries(
        Object.entries(each.columns).map(([column, { given }]) => [
          snake(column),
          `${typeOf(each, column)}${'orNull' in given ? ' or null' : ''}${'key' in given ? ', key' : ''}${'of' in given ? `, of ${given.of}` : ''}`,
        ]),
      ),
    ]),
  );
  expect(described).toEqual(there);
});

/** The type of a column as PostgreSQL calls it. */
function typeOf(of: (typeof tables)[keyof typeof tables], column: string): string {
  const { type } = modelOf(world.services.database, of as typeof tables.SETTING).getAttributes()[column as 'name'];
  const name = typeof type === 'string' ? type : (type as unknown as { toSql(): string }).toSql();
  return name.toLowerCase().replace('varchar', 'character varying');
}
