import type { SavedSearch, Suggestion } from '@stellin/contract/search';
import type { Database, Transaction } from '../database/database';
import { outsideTrash } from '../filing/trash';
import { foundSql } from './found';

/** A row of the saved_search table as the ledger keeps it. */
export interface SavedSearchRow {
  id: number;
  name: string;
  query: string;
  sort: SavedSearch['sort'];
  note: string;
  created_by: number | null;
}

export async function countQuery(database: Database, text: string): Promise<number> {
  const condition = foundSql(text);
  const row = await database.row<{ count: number }>(
    `select count(*)::int as count from photo p where ${condition.sql}`,
    condition.bind,
  );
  return row?.count ?? 0;
}

export async function countFolded(database: Database, text: string): Promise<number> {
  const condition = foundSql(text);
  const row = await database.row<{ count: number }>(
    `select count(*)::int as count from photo m where m.folded_into is not null
       and exists (select 1 from photo p where p.id = m.folded_into and ${condition.sql})`,
    condition.bind,
  );
  return row?.count ?? 0;
}

export async function listSearches(database: Database, tx?: Transaction): Promise<SavedSearchRow[]> {
  return database.rows<SavedSearchRow>(
    'select id, name, query, sort, note, created_by from saved_search order by lower(name)',
    [],
    tx,
  );
}

export async function findSearch(database: Database, id: number, tx: Transaction): Promise<SavedSearchRow | undefined> {
  return database.row<SavedSearchRow>(
    'select id, name, query, sort, note, created_by from saved_search where id = $1',
    [id],
    tx,
  );
}

export async function findSearchByName(
  database: Database,
  name: string,
  tx: Transaction,
): Promise<SavedSearchRow | undefined> {
  return database.row<SavedSearchRow>(
    'select id, name, query, sort, note, created_by from saved_search where name = $1',
    [name],
    tx,
  );
}

export async function nextSearchId(database: Database, tx: Transaction): Promise<number> {
  const row = await database.row<{ id: string }>(
    `select nextval(pg_get_serial_sequence('saved_search', 'id')) as id`,
    [],
    tx,
  );
  return Number(row?.id);
}

export async function recordSearch(
  database: Database,
  entryId: number,
  before: SavedSearchRow | null,
  after: SavedSearchRow | null,
  tx: Transaction,
): Promise<void> {
  await database.rows(
    `insert into ledger_object (entry_id, kind, object_id, before, after) values ($1, 'saved_search', $2, $3, $4)`,
    [entryId, (after ?? before)?.id, before && JSON.stringify(before), after && JSON.stringify(after)],
    tx,
  );
}

/** Folders and drives whose name begins with the text. */
export async function suggestFolders(
  database: Database,
  text: string,
  limit: number,
): Promise<Pick<Suggestion, 'label' | 'detail'>[]> {
  return database.rows(
    `select case when f.path = '' then d.label else f.name end as label, d.label || case when f.path = '' then '' else '/' || f.path end as detail
     from folder f join drive d on d.id = f.drive_id
     where lower(case when f.path = '' then d.label else f.name end) like lower($1) and ${outsideTrash('f')} order by length(f.path), f.path limit $2`,
    [`${text.replace(/[\\%_]/g, '\\$&')}%`, limit],
  );
}
