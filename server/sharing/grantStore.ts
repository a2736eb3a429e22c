// The database role of a process that serves nothing but view links: it reads what pages show of photos that are not private, counts viewings,
// takes answers and writes down who came. Of accounts it knows no passwords, of settings only those it needs, of private photos nothing.

import type { Database } from '../database/database';

interface Granted {
  /** Columns that are read; all where none are named. */
  reads?: readonly string[] | 'all';
  /** Columns that are changed. */
  changes?: readonly string[];
  adds?: true;
}

const wholly = (...tables: string[]): Readonly<Record<string, Granted>> =>
  Object.fromEntries(tables.map((table) => [table, { reads: 'all' }]));

/** What is granted, by table. Rows that exist for nobody but the owner are held back by policies of the tables (migration 0053). */
const GRANTS: Readonly<Record<string, Granted>> = {
  view_link: { reads: 'all', changes: ['views', 'viewed_at'] },
  link_answer: { reads: ['id', 'link_id', 'photo_id'], adds: true },
  access_entry: { adds: true },
  setting: { reads: 'all' },
  account: { reads: ['id', 'name', 'display_name', 'theme', 'language', 'disabled_at'] },
  person: { reads: ['id', 'name', 'other_names', 'term_id', 'private'] },
  drive: { reads: ['id', 'label'] },
  ...wholly(
    'photo',
    'photo_text',
    'photo_term',
    'photo_keyword',
    'folder',
    'dossier',
    'dossier_above',
    'dossier_photo',
    'project',
  ),
  ...wholly('term', 'term_above', 'term_keyword', 'term_relation', 'vocabulary', 'vocabulary_version'),
  ...wholly('rights_version', 'held_right', 'role', 'team_member', 'saved_search', 'quality_rule'),
};
/** Whoever can do one of these is another role than ours. */
const FORBIDDEN = ['session', 'api_token', 'ledger_entry', 'delivery_server', 'letter', 'contact', 'job_run'] as const;

const MAX_SECONDS = 15;
const quoted = (name: string) => `"${name.replaceAll('"', '""')}"`;

/** What the role of a database is called. */
const linksRole = (database: string): string => `links_of_${database}`;

/** Makes the role of view links, or gives it another password; what it may do is settled anew. Gives the address with which the process connects. */
export async function makeLinksRole(database: Database, password: string): Promise<string> {
  const { name = '' } = (await database.row<{ name: string }>('select current_database() as name')) ?? {};
  const role = linksRole(name);
  const known = await database.row('select 1 from pg_roles where rolname = $1', [role]);
  await database.transaction(async (tx) => {
    const run = (sql: string) => database.rows(sql, [], tx);
    await run(
      `${known ? 'alter' : 'create'} role ${quoted(role)} login nosuperuser nocreatedb nocreaterole noinherit connection limit 20 password '${password.replaceAll("'", "''")}'`,
    );
    await run(`alter role ${quoted(role)} set statement_timeout = '${MAX_SECONDS}s'`);
    await run(`revoke all on all tables in schema public from ${quoted(role)}`);
    await run(`grant usage on schema public to ${quoted(role)}`);
    for (const [table, { reads, changes, adds }] of Object.entries(GRANTS)) {
      const grant = (what: string, columns: readonly string[] | 'all') =>
        run(`grant ${what}${columns === 'all' ? '' : ` (${columns.join(', ')})`} on ${table} to ${quoted(role)}`);
      if (reads) await grant('select', reads);
      if (changes) await grant('update', changes);
      if (adds) {
        await grant('insert', 'all');
        await run(`grant usage on sequence ${table}_id_seq to ${quoted(role)}`);
      }
    }
  });
  const url = new URL(database.url);
  url.username = role;
  url.password = encodeURIComponent(password);
  return url.href;
}

/** Refuses a connection whose role may do more than show view links. */
export async function requireLinksRole(database: Database): Promise<void> {
  const found = await database.row<{ more: boolean; less: boolean }>(
    `select r.rolsuper or r.rolcreaterole or exists (select 1 from unnest($1::text[]) t (name) where has_any_column_privilege(t.name, 'select'))
        or has_table_privilege('photo', 'update') or has_column_privilege('account', 'password_hash', 'select') as more,
       not has_table_privilege('view_link', 'select') as less
     from pg_roles r where r.rolname = current_user`,
    [FORBIDDEN],
  );
  if (!found || found.more)
    throw new Error('the database role may do more than show view links: ./stellin links-role makes the one for it');
  if (found.less)
    throw new Error('the database role may not show view links: ./stellin links-role makes the one that may');
}
