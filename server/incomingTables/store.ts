// The SQL of tables that come in: keeping their rows, finding the photos that these are about, and recording what they say.

import type { ColumnUse, Key } from '@stellin/core/incomingTables/uses';
import { customName, type Target } from '@stellin/core/describing/targets';
import type { IncomingSettings, RowState } from '@stellin/contract/incomingTables';
import { PREVIEW_VERSION } from '../catalogue/photoRow';
import type { SqlCondition } from '../catalogue/compile';
import { sightSql } from '../catalogue/sightSql';
import type { Sight } from '@stellin/core/accounts/sight';
import type { Database, Transaction } from '../database/database';
import { isoSql } from '../database/isoSql';
import { INCOMING_TABLE } from '../database/models/incomingTables';
import { modelOf } from '../database/models/table';

export interface TableRow {
  id: number;
  name: string;
  file: string;
  accountId: number;
  at: string;
  format: string;
  encoding: string;
  separator: string;
  headers: string[];
  rows: number;
  settings: IncomingSettings;
  takenAt: string | null;
  takenTitle: string | null;
  undone: boolean | null;
}

const TABLE = `select t.id, t.name, t.file, t.account_id as "accountId", ${isoSql('t.at')} as at, t.format, t.encoding, t.separator, t.headers,
    t.rows, t.settings, ${isoSql('e.at')} as "takenAt", e.title as "takenTitle", e.undone
  from incoming_table t left join ledger_entry e on e.id = t.entry_id`;

/** The tables of an account, the latest first. */
export function listTables(database: Database, accountId: number): Promise<TableRow[]> {
  return database.rows<TableRow>(`${TABLE} where t.account_id = $1 order by t.at desc, t.id desc limit 200`, [
    accountId,
  ]);
}

export function findTable(
  database: Database,
  tableId: number,
  accountId: number,
  tx?: Transaction,
): Promise<TableRow | undefined> {
  return database.row<TableRow>(`${TABLE} where t.id = $1 and t.account_id = $2`, [tableId, accountId], tx);
}

/** Keeps others from changing a table until the transaction ends. */
export async function lockTable(database: Database, tableId: number, tx: Transaction): Promise<void> {
  await database.rows('select 1 from incoming_table where id = $1 for update', [tableId], tx);
}

export type NewTable = Pick<
  TableRow,
  'name' | 'file' | 'accountId' | 'format' | 'encoding' | 'separator' | 'headers' | 'settings'
>;

export async function keepTable(database: Database, table: NewTable, tx: Transaction): Promise<number> {
  const made = await modelOf(database, INCOMING_TABLE).create({ ...table, rows: 0 }, { transaction: tx });
  return made.id;
}

export async function changeTable(
  database: Database,
  tableId: number,
  changed: Partial<Omit<NewTable, 'accountId'> & { rows: number; entryId: number }>,
  tx?: Transaction,
): Promise<void> {
  await modelOf(database, INCOMING_TABLE).update(changed, { where: { id: tableId }, transaction: tx ?? null });
}

export async function removeTable(database: Database, tableId: number): Promise<void> {
  await modelOf(database, INCOMING_TABLE).destroy({ where: { id: tableId } });
}

/** The files of all tables. */
export function listFiles(database: Database): Promise<{ file: string }[]> {
  return database.rows('select file from incoming_table');
}

/** Removes tables older than some days, and gives the names of their files. */
export function removeOlder(database: Database, days: number): Promise<{ file: string }[]> {
  return database.rows(`delete from incoming_table where at < now() - make_interval(days => $1::int) returning file`, [
    days,
  ]);
}

export async function removeRows(database: Database, tableId: number, tx: Transaction): Promise<void> {
  await database.rows('delete from incoming_row where table_id = $1', [tableId], tx);
}

export async function addRows(
  database: Database,
  tableId: number,
  rows: readonly { position: number; cells: readonly string[] }[],
  tx: Transaction,
): Promise<void> {
  await database.rows(
    `insert into incoming_row (table_id, position, cells)
     select $1, r.position, r.cells from jsonb_to_recordset($2::jsonb) r (position int, cells jsonb)`,
    [tableId, JSON.stringify(rows)],
    tx,
  );
}

/** Some values of each column, among the first rows. */
export async function samplesOf(
  database: Database,
  tableId: number,
  columns: number,
  each: number,
  tx?: Transaction,
): Promise<string[][]> {
  const rows = await database.rows<{ position: number; texts: string[] }>(
    `select s.position::int, array_agg(s.text order by s.first) as texts from (
       select c.position, left(c.text, 200) as text, min(r.position) as first,
         row_number() over (partition by c.position order by min(r.position)) as place
       from incoming_row r cross join jsonb_array_elements_text(r.cells) with ordinality c (text, position)
       where r.table_id = $1 and r.position <= 500 and btrim(c.text) <> '' group by c.position, left(c.text, 200)) s
     where s.place <= $2 group by s.position`,
    [tableId, each],
    tx,
  );
  const known = new Map(rows.map(({ position, texts }) => [position - 1, texts]));
  return Array.from({ length: columns }, (_, i) => known.get(i) ?? []);
}

/** What columns were for in the tables that an account took in, by their headers; the latest says it. */
export function usesBefore(
  database: Database,
  accountId: number,
  tx: Transaction,
): Promise<{ header: string; use: unknown }[]> {
  return database.rows(
    `select distinct on (h.header) h.header, t.settings -> 'uses' -> (h.place::int - 1) as use
     from incoming_table t cross join jsonb_array_elements_text(t.headers) with ordinality h (header, place)
     where t.account_id = $1 and t.entry_id is not null and jsonb_array_length(t.settings -> 'uses') >= h.place
     order by h.header, t.id desc`,
    [accountId],
    tx,
  );
}

/** The texts of a field or a project's own field `$name` of `photo_text t`, in their default language, as rows of one column. */
function fieldTexts(target: Target, name: string): string {
  const value =
    customName(target) === undefined
      ? `select t.fields -> ${name} as value`
      : `select own -> 'Value' as value from jsonb_array_elements(case jsonb_typeof(t.fields -> 'custom') when 'array' then t.fields -> 'custom' else '[]' end) own where own ->> 'Name' = ${name}`;
  return `select distinct case jsonb_typeof(e.value) when 'object' then e.value ->> 'x-default' else e.value #>> '{}' end as text
    from (${value}) v cross join lateral jsonb_array_elements(case jsonb_typeof(v.value) when 'array' then v.value when 'null' then '[]' else jsonb_build_array(v.value) end) e
    where v.value is not null`;
}

/** How a key is read: the photos by it, as rows of id and key; and what of a cell is compared with it. */
interface KeySql {
  photos: string;
  /** `cell` stands for its text. */
  cell: (cell: string) => string;
}

const PLACED = 'from photo p join folder f on f.id = p.folder_id join drive d on d.id = p.drive_id';
const path = (parts: string) => `lower(concat_ws('/', ${parts}))`;
const KEYS: Readonly<Record<Key, KeySql>> = {
  id: {
    photos: 'select p.id, p.id::text as key from photo p',
    cell: (cell) => `ltrim(btrim(${cell}), '0')`,
  },
  // With the drive or without it.
  path: {
    photos: `select p.id, ${path(`d.label, nullif(f.path, ''), p.name`)} as key ${PLACED}
      union select p.id, ${path(`nullif(f.path, ''), p.name`)} ${PLACED}`,
    cell: (cell) => `lower(btrim(btrim(replace(${cell}, '\\', '/')), '/'))`,
  },
  // With its extension or without it.
  name: {
    photos: `select p.id, lower(p.name) as key from photo p union select p.id, regexp_replace(lower(p.name), '\\.[^.]*$', '') from photo p`,
    cell: (cell) => `lower(btrim(${cell}))`,
  },
  sha256: {
    photos: `select x.photo_id as id, encode(x.sha256, 'hex') as key from photo_fixity x where x.sha256 is not null`,
    cell: (cell) => `lower(btrim(${cell}))`,
  },
};

/**
 * Finds the photos that rows are about: those for which all columns that find photos say so, within what somebody sees and may change.
 */
export async function matchRows(
  database: Database,
  tableId: number,
  uses: readonly ColumnUse[],
  sights: readonly Sight[],
  tx: Transaction,
): Promise<void> {
  const bind: unknown[] = [tableId];
  const joins: string[] = [];
  const keys: string[] = [];
  uses.forEach((use, column) => {
    if (use.to !== 'key' && use.to !== 'keyField') return;
    const name = `k${keys.length}`;
    const cell = `r.cells ->> ${column}`;
    if (use.to === 'key') {
      const { photos, cell: compared } = KEYS[use.key];
      keys.push(`${name} as (${photos})`);
      joins.push(
        `join ${name} on ${name}.key = ${compared(`(${cell})`)} ${joins.length > 0 ? `and ${name}.id = k0.id` : ''}`,
      );
    } else {
      const field = `$${bind.push(customName(use.target) ?? use.target)}::text`;
      keys.push(
        `${name} as (select t.photo_id as id, lower(btrim(x.text)) as key from photo_text t cross join lateral (${fieldTexts(use.target, field)}) x where x.text is not null)`,
      );
      joins.push(
        `join ${name} on ${name}.key = lower(btrim(${cell})) and ${name}.key <> '' ${joins.length > 0 ? `and ${name}.id = k0.id` : ''}`,
      );
    }
  });
  await database.rows(
    `update incoming_row set photos = 0, photo_id = null where table_id = $1 and (photos is distinct from 0 or photo_id is not null)`,
    [tableId],
    tx,
  );
  if (joins.length === 0) return;
  const within = withinSights(sights, bind);
  await database.rows(
    `with ${keys.join(', ')},
     found as (select r.position, count(distinct k0.id)::int as photos, min(k0.id) as photo_id
       from incoming_row r ${joins.join(' ')} join photo p on p.id = k0.id
       where r.table_id = $1 and p.shown and ${within.sql} group by r.position)
     update incoming_row r set photos = found.photos, photo_id = case found.photos when 1 then found.photo_id end
     from found where r.table_id = $1 and r.position = found.position`,
    within.bind,
    tx,
  );
}

/** The condition on a photo `p` that it is within all of some sights. */
function withinSights(sights: readonly Sight[], bind: readonly unknown[]): SqlCondition {
  return sights.reduce<SqlCondition>(
    (all, sight) => {
      const one = sightSql(sight, all.bind);
      return { sql: `${all.sql} and ${one.sql}`, bind: one.bind };
    },
    { sql: 'true', bind: [...bind] },
  );
}

const VALUES_PER_PAGE = 5000;
const ROWS_PER_PAGE = 2000;

/** The different values of a column, some at a time. */
export async function* valuesOf(
  database: Database,
  tableId: number,
  column: number,
  tx: Transaction,
): AsyncGenerator<string[]> {
  await database.rows(
    `declare incoming_values no scroll cursor for select distinct r.cells ->> $2::int as text from incoming_row r
     where r.table_id = $1 and r.cells ->> $2::int <> ''`,
    [tableId, column],
    tx,
  );
  for (;;) {
    const rows = await database.rows<{ text: string }>(`fetch ${VALUES_PER_PAGE} from incoming_values`, [], tx);
    if (rows.length === 0) break;
    yield rows.map(({ text }) => text);
  }
  await database.rows('close incoming_values', [], tx);
}

export async function forgetProblems(database: Database, tableId: number, tx: Transaction): Promise<void> {
  await database.rows(
    'update incoming_row set problem = null where table_id = $1 and problem is not null',
    [tableId],
    tx,
  );
}

/** Notes what can't be taken of a column, by its values. */
export async function noteProblems(
  database: Database,
  tableId: number,
  column: number,
  problems: readonly { text: string; problem: string }[],
  tx: Transaction,
): Promise<void> {
  if (problems.length === 0) return;
  await database.rows(
    `update incoming_row r set problem = concat_ws('; ', r.problem, x.problem)
     from jsonb_to_recordset($3::jsonb) x (text text, problem text) where r.table_id = $1 and r.cells ->> $2::int = x.text`,
    [tableId, column, JSON.stringify(problems)],
    tx,
  );
}

/** Rows by what is the matter with them. */
const STATES: Readonly<Record<RowState, string>> = {
  found: 'r.photos = 1 and r.photo_id is not null',
  none: '(coalesce(r.photos, 0) = 0 or (r.photos = 1 and r.photo_id is null))',
  several: 'r.photos > 1',
  again: `r.photos = 1 and r.photo_id is not null and exists (select 1 from incoming_row o
    where o.table_id = r.table_id and o.photo_id = r.photo_id and o.position < r.position)`,
  partly: 'r.problem is not null and r.photos = 1',
};

export async function countStates(
  database: Database,
  tableId: number,
): Promise<{ counts: Record<RowState, number>; photos: number }> {
  const parts = Object.entries(STATES).map(([state, sql]) => `count(*) filter (where ${sql})::int as ${state}`);
  const row = await database.row<Record<RowState | 'distinct', number>>(
    `select ${parts.join(', ')}, count(distinct r.photo_id)::int as "distinct" from incoming_row r where r.table_id = $1`,
    [tableId],
  );
  const { distinct, ...counts } = row ?? { distinct: 0, found: 0, none: 0, several: 0, again: 0, partly: 0 };
  return { counts, photos: distinct };
}

export interface RowFound {
  position: number;
  cells: string[];
  photos: number;
  photoId: number | null;
  problem: string | null;
}

const ROW = 'r.position, r.cells, coalesce(r.photos, 0) as photos, r.photo_id as "photoId", r.problem';

export function rowsOf(
  database: Database,
  tableId: number,
  { state, offset, limit }: { state: RowState; offset: number; limit: number },
): Promise<RowFound[]> {
  return database.rows<RowFound>(
    `select ${ROW} from incoming_row r where r.table_id = $1 and ${STATES[state]} order by r.position limit $2 offset $3`,
    [tableId, limit, offset],
  );
}

/** Rows that were not taken in, or not wholly, some at a time. */
export async function* rest(database: Database, tableId: number): AsyncGenerator<RowFound[]> {
  for (let after = 0; ;) {
    const rows = await database.rows<RowFound>(
      `select ${ROW} from incoming_row r where r.table_id = $1 and r.position > $2
         and (${STATES.none} or ${STATES.several} or ${STATES.partly}) order by r.position limit ${ROWS_PER_PAGE}`,
      [tableId, after],
    );
    if (rows.length === 0) return;
    yield rows;
    after = rows.at(-1)?.position ?? after;
  }
}

/** Photos that rows are about, in the order of these: of those that were found the ones that are within all of the sights now. */
export async function photosOf(
  database: Database,
  tableId: number,
  sights: readonly Sight[],
  { offset, limit }: { offset: number; limit: number },
): Promise<{ photos: { id: number; name: string; previewVersion: number }[]; total: number }> {
  const within = withinSights(sights, [tableId]);
  const found = `from (select r.photo_id, min(r.position) as first from incoming_row r where r.table_id = $1 and r.photo_id is not null group by r.photo_id) x
    join photo p on p.id = x.photo_id where p.shown and ${within.sql}`;
  const count = await database.row<{ total: number }>(`select count(*)::int as total ${found}`, within.bind);
  const bind = [...within.bind];
  const photos = await database.rows<{ id: number; name: string; previewVersion: number }>(
    `select p.id, p.name, ${PREVIEW_VERSION} as "previewVersion" from (select x.first, p.id as photo_id ${found}
       order by x.first limit $${bind.push(limit)} offset $${bind.push(offset)}) page
     join photo p on p.id = page.photo_id join drive d on d.id = p.drive_id order by page.first`,
    bind,
  );
  return { photos, total: count?.total ?? 0 };
}

/** The rows about some photos, by photo and place in the table. */
export function rowsAbout(
  database: Database,
  tableId: number,
  photoIds: readonly number[],
  tx?: Transaction,
): Promise<(RowFound & { photoId: number })[]> {
  return database.rows(
    `select ${ROW} from incoming_row r where r.table_id = $1 and r.photo_id = any($2::int[]) order by r.photo_id, r.position`,
    [tableId, photoIds],
    tx,
  );
}

/** All photos that rows are about, as a statement. */
export function photosSql(tableId: number): SqlCondition {
  return {
    sql: 'select distinct photo_id as id from incoming_row where table_id = $1 and photo_id is not null',
    bind: [tableId],
  };
}

/** Where texts are taken for words there may be as many as rows: nobody decides on more. */
const MAX_WORDS = 20_000;

/** The words of some columns as they are written, with how many rows have them; the most frequent ones. */
export function wordsOf(
  database: Database,
  tableId: number,
  columns: readonly number[],
  separator: string,
): Promise<{ word: string; rows: number }[]> {
  return database.rows(
    `select w.word, count(distinct r.position)::int as rows
     from incoming_row r cross join unnest($2::int[]) c (place)
     cross join lateral (select btrim(part) as word from unnest(string_to_array(r.cells ->> c.place, $3)) part) w
     where r.table_id = $1 and w.word <> '' group by w.word order by rows desc, w.word limit ${MAX_WORDS}`,
    [tableId, columns, separator],
  );
}
