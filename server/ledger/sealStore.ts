// The SQL of seals.

import type { Database, Transaction } from '../database/database';

/** Keeps others from sealing meanwhile. */
const LOCK = 5_306_418;

export const BOOKS = ['changes', 'access'] as const;
export type Book = (typeof BOOKS)[number];

const TIME = (column: string) => `to_char(${column} at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.US')`;
const sha256 = (text: string) => `sha256(convert_to(${text}, 'UTF8'))`;
/** The digests of rows, one behind the other. */
const rows = (columns: string, from: string, order: string) =>
  `coalesce((select string_agg(${sha256(`jsonb_build_array(${columns})::text`)}, ''::bytea order by ${order}) from ${from}), ''::bytea)`;

/**
 * The table of each book, which of its rows `e` will not change any more, and the digest of one. Whether an entry was taken back is
 * told by the one that did.
 */
const TABLES: Readonly<Record<Book, { table: string; isSettled: string; digest: string }>> = {
  changes: {
    table: 'ledger_entry',
    // What could not be done to files is taken out of the entry, and where they went is put right.
    isSettled: `not exists (select 1 from filing_step s where s.entry_id = e.id) and not exists (select 1 from copy_back c where c.entry_id = e.id)`,
    digest: `sha256(${sha256(`jsonb_build_array(e.id, e.account_id, ${TIME('e.at')}, e.kind, e.title, e.parameters, e.photos, e.object_id, e.reverses, e.step)::text`)}
      || ${rows(
        'l.photo_id, l.aspect, l.key, l.before, l.after',
        `(select * from ledger_photo where entry_id = e.id union all select * from ledger_photo_gone where entry_id = e.id) l`,
        'l.photo_id, l.aspect, l.key',
      )}
      || ${rows('o.kind, o.object_id, o.before, o.after', 'ledger_object o where o.entry_id = e.id', 'o.kind, o.object_id')})`,
  },
  access: {
    table: 'access_entry',
    isSettled: 'true',
    digest: sha256(
      `jsonb_build_array(e.id, e.account_id, ${TIME('e.at')}, e.kind, e.photo_id, e.about, e.address)::text`,
    ),
  },
};

/** The most entries that one seal closes. */
export const ENTRIES_PER_SEAL = 5000;

/** Seals the first that are not sealed yet; how many entries that were. None while another process seals. */
export async function sealSome(database: Database, book: Book, tx: Transaction): Promise<number> {
  const lock = await database.row<{ free: boolean }>('select pg_try_advisory_xact_lock($1) as free', [LOCK], tx);
  if (!lock?.free) return 0;
  const { table, isSettled, digest } = TABLES[book];
  const row = await database.row<{ entries: number }>(
    `with open as (select e.id, ${digest} as digest from (select * from ${table} e where seal_id is null and ${isSettled} order by id limit ${ENTRIES_PER_SEAL}) e),
     whole as (select count(*)::int as entries, sha256(string_agg(digest, ''::bytea order by id)) as digest from open),
     last as (select coalesce((select chain from ledger_seal where book = $1 order by id desc limit 1), ''::bytea) as chain),
     seal as (insert into ledger_seal (book, entries, digest, previous, chain)
       select $1, whole.entries, whole.digest, last.chain, sha256(last.chain || whole.digest) from whole cross join last
       where whole.entries > 0 returning id)
     , marked as (update ${table} t set digest = open.digest, seal_id = seal.id from open cross join seal where t.id = open.id)
     select entries from whole`,
    [book],
    tx,
  );
  return row?.entries ?? 0;
}

interface SealRow {
  id: number;
  /** How many entries it closed, and how many are there. */
  entries: number;
  found: number;
  chain: string;
  /** Its digest is that of its entries; its chain that of its digest; it follows the seal before. */
  holds: boolean;
  links: boolean;
  follows: boolean;
}

/** The seals of a book in their order. The record of access may begin anywhere: what is older was removed as the policy says. */
export function listSeals(database: Database, book: Book): Promise<SealRow[]> {
  return database.rows<SealRow>(
    `select s.id, s.entries, coalesce(e.found, 0)::int as found, encode(s.chain, 'hex') as chain,
       s.digest = coalesce(e.digest, ''::bytea) as holds, s.chain = sha256(s.previous || s.digest) as links,
       s.previous = coalesce(lag(s.chain) over (order by s.id), case $1 when 'access' then s.previous else ''::bytea end) as follows
     from ledger_seal s left join (select seal_id, count(*) as found, sha256(string_agg(digest, ''::bytea order by id)) as digest
       from ${TABLES[book].table} where seal_id is not null group by seal_id) e on e.seal_id = s.id
     where s.book = $1 order by s.id`,
    [book],
  );
}

/** Sealed entries that are not what their digest says, the first of them. */
export function listAltered(database: Database, book: Book, limit: number): Promise<{ id: number }[]> {
  const { table, digest } = TABLES[book];
  return database.rows<{ id: number }>(
    `select e.id::float8 as id from ${table} e where e.seal_id is not null and e.digest is distinct from ${digest} order by e.id limit $1`,
    [limit],
  );
}

/** How many entries name a seal that is not there. */
export async function countLoose(database: Database, book: Book): Promise<number> {
  const row = await database.row<{ count: number }>(
    `select count(*)::int as count from ${TABLES[book].table} e
     where e.seal_id is not null and not exists (select 1 from ledger_seal s where s.id = e.seal_id and s.book = $1)`,
    [book],
  );
  return row?.count ?? 0;
}
