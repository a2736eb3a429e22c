// The SQL of the record of access.

import type { AccessEntry, AccessFilter, AccessKind } from '@stellin/contract/access';
import type { Database } from '../database/database';
import { isoSql } from '../database/isoSql';

export interface AccessNote {
  kind: AccessKind;
  accountId: number | null;
  /** Of a sign-in that was refused: the name that was typed, which is kept only if there is such an account. */
  name?: string | undefined;
  photoId?: number | undefined;
  about?: string | undefined;
  address?: string | undefined;
  at: string;
}

/** Writes some down, in one statement. */
export async function insertAccess(database: Database, notes: readonly AccessNote[]): Promise<void> {
  await database.rows(
    `insert into access_entry (at, account_id, kind, photo_id, about, address)
     select n.at, coalesce(n."accountId", (select a.id from account a where a.name = lower(trim(n.name)))), n.kind, n."photoId",
       coalesce(n.about, ''), coalesce(n.address, '')
     from jsonb_to_recordset($1::jsonb) n (at timestamptz, "accountId" int, name text, kind text, "photoId" int, about text, address text)`,
    [JSON.stringify(notes)],
  );
}

/** Which entries, and of these only those before one. */
export interface AccessAsked extends AccessFilter {
  before?: number | undefined;
}

/** The newest that meet a filter. Days are those of UTC. */
export function listAccess(
  database: Pick<Database, 'rows'>,
  { kind, accountId, photoId, from, to, before }: AccessAsked,
  limit: number,
): Promise<AccessEntry[]> {
  return database.rows<AccessEntry>(
    `select e.id::float8 as id, ${isoSql('e.at')} as at, e.kind, coalesce(a.display_name, '') as by, e.about, e.address,
       case when e.photo_id is not null then json_build_object('photoId', e.photo_id, 'name', p.name) end as photo
     from access_entry e left join account a on a.id = e.account_id left join photo p on p.id = e.photo_id
     where ($1::text is null or e.kind = $1) and ($2::int is null or e.account_id = $2) and ($3::int is null or e.photo_id = $3)
       and ($4::date is null or e.at >= $4::date) and ($5::date is null or e.at < $5::date + 1) and ($6::bigint is null or e.id < $6)
     order by e.id desc limit $7`,
    [kind ?? null, accountId ?? null, photoId ?? null, from ?? null, to ?? null, before ?? null, limit],
  );
}

/**
 * Removes the entries older than a number of days. Entries under one seal go together, once all of them are that old, and the seal
 * with them. Returns how many entries were removed.
 */
export async function forgetAccess(database: Database, days: number): Promise<number> {
  const gone = await database.row<{ count: number }>(
    `with old as (select s.id from ledger_seal s where s.book = 'access' and not exists (
         select 1 from access_entry e where e.seal_id = s.id and e.at >= now() - make_interval(days => $1))),
     entries as (delete from access_entry e using old where e.seal_id = old.id returning 1),
     seals as (delete from ledger_seal s using old where s.id = old.id)
     select count(*)::int as count from entries`,
    [days],
  );
  return gone?.count ?? 0;
}
