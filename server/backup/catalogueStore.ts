// The catalogue as a whole: a snapshot of it, what tells whether two hold the same, databases to restore into, and what is
// settled in one that was restored.

import { Client } from 'pg';
import { z } from 'zod';
import { countText } from '@stellin/contract/wording';

const figure = z.object({ rows: z.number(), sum: z.string() });
/** By table. */
export const tableFigures = z.record(z.string(), figure);
export type TableFigures = z.infer<typeof tableFigures>;

/** As values are written in rows: the same in every session. */
const SETTINGS = `set timezone to 'UTC'; set datestyle to 'ISO'; set intervalstyle to 'iso_8601'; set bytea_output to 'hex'; set extra_float_digits to 1`;

/**
 * How rows are summed up: as texts, as backups of the first version do, or as they are, which takes a third of the time. Types
 * that PostgreSQL has no hash of are texts there as well.
 */
export type SummedAs = 'texts' | 'records';
const WITHOUT_HASH = ['tsvector'];

/** The figures of all tables, as the connection’s transaction sees them. */
export async function readFigures(client: Client, summed: SummedAs): Promise<TableFigures> {
  await client.query(SETTINGS);
  const { rows: tables } = await client.query<{ name: string; columns: { name: string; type: string }[] }>(
    `select c.relname as name, json_agg(json_build_object('name', a.attname, 'type', a.atttypid::regtype) order by a.attnum) as columns
     from pg_class c join pg_attribute a on a.attrelid = c.oid and a.attnum > 0 and not a.attisdropped
     where c.relnamespace = 'public'::regnamespace and c.relkind = 'r' group by c.relname order by 1`,
  );
  const figures: TableFigures = {};
  for (const { name, columns } of tables) {
    const values = columns.map((column) => {
      const value = `t.${client.escapeIdentifier(column.name)}`;
      return WITHOUT_HASH.includes(column.type) ? `${value}::text` : value;
    });
    const hash =
      summed === 'texts' ? 'hashtextextended(t::text, 0)' : `hash_record_extended(row(${values.join(', ')}), 0)`;
    const { rows } = await client.query<{ rows: string; sum: string | null }>(
      `select count(*) as rows, sum(${hash})::text as sum from ${client.escapeIdentifier(name)} t`,
    );
    figures[name] = { rows: Number(rows[0]?.rows), sum: rows[0]?.sum ?? '0' };
  }
  return figures;
}

/** Sentences of what differs. */
export function figureDifferences(expected: TableFigures, found: TableFigures): string[] {
  return Object.entries(expected).flatMap(([name, { rows, sum }]) => {
    const there = found[name];
    if (!there) return [`the table ${name} is missing`];
    if (there.rows !== rows)
      return [`${name} has ${countText(there.rows, 'row')} instead of ${countText(rows, 'row')}`];
    return there.sum === sum ? [] : [`rows of ${name} are others than they were`];
  });
}

/** The migrations that made the tables. */
export async function migrationsOf(client: Client): Promise<string[]> {
  const { rows } = await client.query<{ name: string }>('select name from migration order by name');
  return rows.map(({ name }) => name);
}

/** Works in a transaction that sees the catalogue as it is now, whatever others do meanwhile; others can be let into its snapshot by name. */
export function inSnapshot<Result>(
  url: string,
  work: (client: Client, snapshot: string) => Promise<Result>,
): Promise<Result> {
  return withClient(url, async (client) => {
    await client.query('begin isolation level repeatable read read only');
    const { rows } = await client.query<{ snapshot: string }>('select pg_export_snapshot() as snapshot');
    return work(client, rows[0]?.snapshot ?? '');
  });
}

/** The same server's database of another name. */
export function databaseUrl(url: string, name: string): string {
  const other = new URL(url);
  other.pathname = `/${name}`;
  return other.href;
}

export async function createDatabase(client: Client, name: string): Promise<void> {
  await client.query(`create database ${client.escapeIdentifier(name)} template template0`);
}

export async function dropDatabase(client: Client, name: string): Promise<void> {
  await client.query(`drop database if exists ${client.escapeIdentifier(name)} with (force)`);
}

/** Gives a database the name of another, which gets a third one: both, or neither. */
export async function exchangeDatabases(
  client: Client,
  { name, by, before }: { name: string; by: string; before: string },
): Promise<void> {
  const rename = (from: string, to: string) =>
    client.query(`alter database ${client.escapeIdentifier(from)} rename to ${client.escapeIdentifier(to)}`);
  await client.query('begin');
  await rename(name, before);
  await rename(by, name);
  await client.query('commit');
}

/** How many others are connected to a database. */
export async function countConnections(client: Client, name: string): Promise<number> {
  const { rows } = await client.query<{ count: number }>(
    'select count(*)::int as count from pg_stat_activity where datname = $1 and pid <> pg_backend_pid()',
    [name],
  );
  return rows[0]?.count ?? 0;
}

/** How many photos and accounts a database holds; undefined where it has no tables of ours. */
export async function holdingsOf(client: Client): Promise<{ photos: number; accounts: number } | undefined> {
  const { rows } = await client.query<{ found: boolean }>(`select to_regclass('public.photo') is not null as found`);
  if (!rows[0]?.found) return undefined;
  const counted = await client.query<{ photos: number; accounts: number }>(
    'select (select count(*) from photo)::int as photos, (select count(*) from account)::int as accounts',
  );
  return counted.rows[0];
}

/**
 * What was under way when the backup was made is not gone on with: files have moved on since. Sessions end, and all drives are
 * to be looked through before anything is written to them by itself.
 */
export async function settleRestored(client: Client, at: string): Promise<void> {
  await client.query('begin');
  await client.query(
    `update job_run set state = 'cancelled', finished_at = now(), owner = null, waits_for = null,
       current = 'under way when the backup was made, and not gone on with'
     where state in ('queued', 'running', 'paused', 'waiting')`,
  );
  await client.query('delete from session');
  await client.query('update drive set attached = false, mount_point = null');
  await client.query('delete from drive_seen');
  await client.query(
    `insert into setting (name, value) values ('restored', $1::jsonb)
     on conflict (name) do update set value = excluded.value`,
    [JSON.stringify({ at, drives: null })],
  );
  await client.query('commit');
  await client.query('analyze');
}

/** Opens a connection, works with it, and closes it whatever happens. */
export async function withClient<Result>(url: string, work: (client: Client) => Promise<Result>): Promise<Result> {
  const client = new Client({ connectionString: url, application_name: 'stellin backup' });
  await client.connect();
  try {
    return await work(client);
  } finally {
    await client.end();
  }
}
