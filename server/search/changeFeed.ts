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
