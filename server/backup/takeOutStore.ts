// The SQL of taking all of the catalogue out and of filling another one with it: tables as lines of JSON, and lists for people.

import type { Client } from 'pg';
import type { DescribedPhoto } from '@stellin/core/backup/sidecar';
import { FIXITY_SQL } from '../catalogue/fixity';
import type { TableFigures } from './catalogueStore';

/** Tables that stay: they mean nothing elsewhere. */
export const LEFT_OUT: ReadonlySet<string> = new Set([
  'migration',
  // Who is signed in here, or may choose a password.
  'session',
  'onlooker',
  'invitation',
  'api_token',
  'recovery_code',
  // Raised by changes here.
  'rights_version',
  // What the finder index here has still to read.
  'catalogue_change',
  // Files on disks of this machine.
  'backup',
  // Which process here sees which drive.
  'drive_seen',
]);

/** Columns that stay: secrets. Elsewhere nobody can sign in before a password was set. */
const SECRET: Readonly<Record<string, readonly string[]>> = { account: ['password_hash', 'totp_secret', 'totp_step'] };

export interface TakenTable {
  name: string;
  columns: readonly string[];
  /** Of these, null in JSON is a value, and one that is not there is none. */
  json: readonly string[];
  key: readonly string[];
  /** Secrets that were not taken out and can’t be empty: those of earlier schemas. */
  needed: readonly string[];
}

/** All tables that are taken out, with their columns but for what PostgreSQL makes of others. */
export async function takenTables(client: Client): Promise<TakenTable[]> {
  const { rows } = await client.query<Omit<TakenTable, 'needed'> & { never: string[] }>(
    `select c.relname as name,
       array(select attname::text from pg_attribute a where a.attrelid = c.oid and attnum > 0 and not attisdropped and attgenerated = '' order by attnum) as columns,
       array(select attname::text from pg_attribute a where a.attrelid = c.oid and attnum > 0 and not attisdropped and atttypid = 'jsonb'::regtype) as json,
       array(select attname::text from pg_attribute a where a.attrelid = c.oid and attnum > 0 and not attisdropped and attnotnull) as never,
       array(select a.attname::text from pg_index i cross join unnest(i.indkey) with ordinality k (attnum, place)
         join pg_attribute a on a.attrelid = c.oid and a.attnum = k.attnum where i.indrelid = c.oid and i.indisprimary order by k.place) as key
     from pg_class c where c.relnamespace = 'public'::regnamespace and c.relkind = 'r' order by 1`,
  );
  return rows
    .filter(({ name }) => !LEFT_OUT.has(name))
    .map(({ never, ...table }) => ({
      ...table,
      columns: table.columns.filter((column) => !SECRET[table.name]?.includes(column)),
      needed: never.filter((column) => SECRET[table.name]?.includes(column)),
    }));
}

/** Rows as text in the same way in every session. */
export async function settle(client: Client): Promise<void> {
  await client.query(`set timezone to 'UTC'; set extra_float_digits to 1; set bytea_output to 'hex'`);
}

/** A row `t` of a table as JSON: what is null has no name in it. */
function lineSql(client: Client, { name, columns, json }: TakenTable): { line: string; from: string } {
  const id = (column: string) => client.escapeIdentifier(column);
  const absent = json.map((column) => `case when t.${id(column)} is null then ${client.escapeLiteral(column)} end`);
  const without = absent.length > 0 ? ` - array_remove(array[${absent.join(', ')}]::text[], null)` : '';
  return {
    line: `to_jsonb(t)${without}`,
    from: `(select ${columns.map(id).join(', ')} from ${id(name)}) t`,
  };
}

/** How many rows a table has, and what tells whether two tables hold the same. */
export async function figuresOf(client: Client, tables: readonly TakenTable[]): Promise<TableFigures> {
  const figures: TableFigures = {};
  for (const table of tables) {
    const { line, from } = lineSql(client, table);
    const { rows } = await client.query<{ rows: string; sum: string | null }>(
      `select count(*) as rows, sum(hashtextextended((${line})::text, 0))::text as sum from ${from}`,
    );
    figures[table.name] = { rows: Number(rows[0]?.rows), sum: rows[0]?.sum ?? '0' };
  }
  return figures;
}

const ROWS_PER_FETCH = 1000;

/** The rows of a statement, some at a time. */
async function* pagesOf<Row extends object>(client: Client, sql: string): AsyncGenerator<Row[]> {
  await client.query(`declare taken no scroll cursor for ${sql}`);
  for (;;) {
    const { rows } = await client.query<Row>(`fetch ${ROWS_PER_FETCH} from taken`);
    if (rows.length === 0) break;
    yield rows;
  }
  await client.query('close taken');
}

/** A table as lines of JSON, in the order of its key; many lines at a time. */
export async function* linesOf(client: Client, table: TakenTable): AsyncGenerator<string> {
  const { line, from } = lineSql(client, table);
  const order = table.key.map((column) => `t.${client.escapeIdentifier(column)}`).join(', ');
  for await (const rows of pagesOf<{ line: string }>(
    client,
    `select (${line})::text as line from ${from}${order ? ` order by ${order}` : ''}`,
  ))
    yield rows.map(({ line: text }) => `${text}\n`).join('');
}

/** Where sequences stand. */
export async function sequencesOf(client: Client): Promise<Record<string, number>> {
  const { rows } = await client.query<{ name: string; last: string | null }>(
    `select sequencename as name, last_value as last from pg_sequences where schemaname = 'public'`,
  );
  return Object.fromEntries(rows.flatMap(({ name, last }) => (last === null ? [] : [[name, Number(last)]])));
}

export interface TakenPhoto extends DescribedPhoto {
  id: number;
  drive: string;
  driveId: string;
  folder: string;
  name: string;
}

/** What the catalogue says of all photos, by drive and folder. */
export function describedPhotos(client: Client): AsyncGenerator<TakenPhoto[]> {
  return pagesOf<TakenPhoto>(
    client,
    `select p.id, d.label as drive, d.id as "driveId", f.path as folder, p.name, p.rating, p.mark, t.fields,
       array(select keyword from (
         select k.keyword, 0 as side, k.position as place from photo_keyword k where k.photo_id = p.id
         union all select n.keyword, 1, row_number() over (order by n.keyword) from wanted_keyword n where n.photo_id = p.id) said
         group by keyword order by min(side), min(place)) as keywords,
       array(select g.term_id from photo_term g where g.photo_id = p.id order by 1) as "termIds"
     from photo p join photo_text t on t.photo_id = p.id join folder f on f.id = p.folder_id join drive d on d.id = p.drive_id
     order by d.label, d.id, f.path, p.name, p.id`,
  );
}

type Value = string | number | null;

interface TakenList {
  columns: readonly string[];
  sql: string;
}

const PHOTO_PATH = `concat_ws('/', d.label, nullif(f.path, ''), p.name)`;
const PHOTO_PLACE = 'join folder f on f.id = p.folder_id join drive d on d.id = p.drive_id';

/** Lists for people and other programs, a CSV each. */
export const LISTS: Readonly<Record<string, TakenList>> = {
  photos: {
    columns: ['id', 'file', 'kind', 'bytes', 'taken', 'rating', 'mark', 'private', 'fixity', 'sha256', 'state'],
    sql: `select p.id, ${PHOTO_PATH}, p.kind, p.size_bytes::float8, p.taken_at::text, p.rating, p.mark, p.private::text, ${FIXITY_SQL}, encode(x.sha256, 'hex'),
        case when p.removed then 'removed' when p.trashed_from is not null then 'trashed' else '' end
      from photo p ${PHOTO_PLACE} left join photo_fixity x on x.photo_id = p.id order by 2, 1`,
  },
  dossiers: {
    columns: ['dossier', 'position', 'photo id', 'file'],
    sql: `with recursive named as (
        select id, name::text as path from dossier where parent_id is null
        union all select c.id, n.path || '/' || c.name from dossier c join named n on n.id = c.parent_id)
      select n.path, g.position, p.id, ${PHOTO_PATH} from named n left join dossier_photo g on g.dossier_id = n.id
      left join photo p on p.id = g.photo_id left join folder f on f.id = p.folder_id left join drive d on d.id = p.drive_id order by 1, 2, 3`,
  },
  searches: {
    columns: ['folder', 'name', 'query', 'order', 'note'],
    sql: 'select folder, name, query, sort, note from saved_search order by 1, 2',
  },
  persons: {
    columns: ['id', 'name', 'photos with a face of theirs', 'photos named without a face'],
    sql: `select p.id, p.name, (select count(distinct f.photo_id)::int from face f where f.person_id = p.id),
        (select count(*)::int from photo_person g where g.person_id = p.id) from person p order by 2, 1`,
  },
  faces: {
    columns: ['photo id', 'file', 'person', 'state', 'left', 'top', 'width', 'height'],
    sql: `select p.id, ${PHOTO_PATH}, n.name, c.state, c.box_left, c.box_top, c.box_width, c.box_height
      from face c join photo p on p.id = c.photo_id ${PHOTO_PLACE} left join person n on n.id = c.person_id order by 2, 5`,
  },
  ledger: {
    columns: ['id', 'at', 'by', 'what'],
    sql: `select e.id, e.at::text, coalesce(a.display_name, ''), e.title from ledger_entry e left join account a on a.id = e.account_id order by 1`,
  },
};

/** The rows of a list, many at a time. */
export async function* rowsOfList(client: Client, { columns, sql }: TakenList): AsyncGenerator<Value[][]> {
  const names = columns.map((_, i) => `c${i}`);
  for await (const rows of pagesOf<Record<string, Value>>(client, `select * from (${sql}) l (${names.join(', ')})`))
    yield rows.map((row) => names.map((name) => row[name] ?? null));
}

interface Guard {
  table: string;
  name: string;
  definition: string;
}

/**
 * Works on tables whose rows need not fit each other meanwhile, and whose triggers rest; afterwards they do, or it throws an Error of
 * PostgreSQL that names what does not.
 */
export async function withoutGuards(client: Client, work: () => Promise<void>): Promise<void> {
  const { rows: guards } = await client.query<Guard>(
    `select conrelid::regclass::text as table, conname as name, pg_get_constraintdef(oid) as definition
     from pg_constraint where contype = 'f' and connamespace = 'public'::regnamespace`,
  );
  const { rows: tables } = await client.query<{ name: string }>(
    `select oid::regclass::text as name from pg_class where relkind = 'r' and relnamespace = 'public'::regnamespace`,
  );
  for (const { table, name } of guards)
    await client.query(`alter table ${table} drop constraint ${client.escapeIdentifier(name)}`);
  for (const { name } of tables) await client.query(`alter table ${name} disable trigger user`);
  await work();
  for (const { name } of tables) await client.query(`alter table ${name} enable trigger user`);
  for (const { table, name, definition } of guards)
    await client.query(`alter table ${table} add constraint ${client.escapeIdentifier(name)} ${definition}`);
}

/** Empties the tables that are filled: migrations have put rows into some. */
export async function emptyTables(client: Client, tables: readonly TakenTable[]): Promise<void> {
  await client.query(`truncate ${tables.map(({ name }) => client.escapeIdentifier(name)).join(', ')} cascade`);
}

/** Fills a table with rows as lines of JSON. `passwordHash` is that of a password nobody knows. */
export async function fillTable(
  client: Client,
  { name, columns, json, needed }: TakenTable,
  lines: readonly string[],
  passwordHash: string,
): Promise<void> {
  const id = (column: string) => client.escapeIdentifier(column);
  const values = columns.map((column) =>
    json.includes(column) ? `e -> ${client.escapeLiteral(column)}` : `x.${id(column)}`,
  );
  await client.query(
    `insert into ${id(name)} (${[...columns, ...needed].map(id).join(', ')}) overriding system value
     select ${[...values, ...needed.map(() => client.escapeLiteral(passwordHash))].join(', ')}
     from jsonb_array_elements($1::jsonb) e cross join lateral jsonb_populate_record(null::${id(name)}, e) x`,
    [`[${lines.join(',')}]`],
  );
}

export async function setSequences(client: Client, sequences: Readonly<Record<string, number>>): Promise<void> {
  for (const [name, last] of Object.entries(sequences))
    await client.query('select setval($1::regclass, $2)', [client.escapeIdentifier(name), last]);
}
