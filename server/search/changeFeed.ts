// The change feed that the finder index follows: triggers write a row of what each statement touched, with its transaction;
// whoever knows the catalogue up to a snapshot reads what was committed since.

import type { Client } from 'pg';
import { localSql } from '../catalogue/clock';
import type { PartName } from './indexStore';

/** What has changed: a part of photos by their ids, folders by theirs, or something that is read whole. */
export interface CommittedChange {
  part: PartName | 'gone' | 'given' | 'taken' | 'folders' | 'drives' | 'dossierFacts';
  ids: number[];
  /** Of given and taken. */
  termId: number | null;
  /** Of changes that one entry made: who did, null for the program, and when, in seconds since 1970 of local time. */
  entry: { by: string | null; at: number } | null;
}

const SQL = `select pg_current_snapshot()::text as snapshot, (select version from vocabulary_version) as version,
  (select json_agg(json_build_object('part', c.part, 'ids', c.ids, 'termId', c.term_id, 'entry', case when e.id is not null then
       json_build_object('by', a.display_name, 'at', extract(epoch from ${localSql('e.at')})::float8) end) order by c.id)
   from catalogue_change c left join ledger_entry e on e.id = c.entry_id left join account a on a.id = e.account_id
   where c.xid >= pg_snapshot_xmin($1::pg_snapshot) and not pg_visible_in_snapshot(c.xid, $1::pg_snapshot)) as changes`;

/** What was committed since a snapshot, in the order in which it was done, and up to which snapshot that is. */
export async function readChanges(
  client: Client,
  since: string | undefined,
): Promise<{ snapshot: string | undefined; vocabularyVersion: number; changes: CommittedChange[] }> {
  const { rows } = await client.query<{ snapshot: string; version: string; changes: CommittedChange[] | null }>({
    // Asked before every answer: so PostgreSQL plans it once.
    name: 'changeFeed',
    text: SQL,
    values: [since],
  });
  const [row] = rows;
  return { snapshot: row?.snapshot, vocabularyVersion: Number(row?.version), changes: row?.changes ?? [] };
}

/** The setting that tells until when rows of the change feed were deleted; a time as text. */
const CHANGES_DELETED = 'changesForgotten';

/** Deletes rows of the change feed older than some hours: no snapshot that was written before can follow them any more. */
export async function deleteOldChanges(client: Client, hours: number): Promise<void> {
  const until = new Date(Date.now() - hours * 3_600_000);
  await client.query(
    `with forgotten as (insert into setting (name, value) values ($1, to_jsonb($2::text)) on conflict (name) do update set value = excluded.value)
     delete from catalogue_change where at < $2::timestamptz`,
    [CHANGES_DELETED, until.toISOString()],
  );
}

export async function deletedUntil(client: Client): Promise<string> {
  const { rows } = await client.query<{ at: string }>(`select value #>> '{}' as at from setting where name = $1`, [
    CHANGES_DELETED,
  ]);
  return rows[0]?.at ?? '';
}

/** What tells a catalogue from all others, and from what it was before it was restored. */
export async function catalogueOf(client: Client): Promise<string> {
  const { rows } = await client.query<{ catalogue: string }>(
    `select concat_ws('/', (select system_identifier from pg_control_system()), (select timeline_id from pg_control_checkpoint()),
       (select oid from pg_database where datname = current_database()), (select string_agg(name, ' ' order by name) from migration)) as catalogue`,
  );
  return rows[0]?.catalogue ?? '';
}

/** What is committed now, as PostgreSQL writes snapshots. */
export async function currentSnapshot(client: Client): Promise<string | undefined> {
  const { rows } = await client.query<{ snapshot: string }>('select pg_current_snapshot()::text as snapshot');
  return rows[0]?.snapshot;
}
