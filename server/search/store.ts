// The SQL of saved searches and of folders that are suggested.

import type { SavedSearch, Suggestion } from '@stellin/contract/search';
import type { CriterionQuery } from '@stellin/core/query/query';
import { RECENT_SEARCH } from '../database/models/search';
import { modelOf } from '../database/models/table';
import type { Database, Transaction } from '../database/database';
import { isoSql } from '../database/isoSql';
import { outsideTrash } from '../files/trash';
import { sightSql } from '../catalogue/sightSql';
import type { Viewer } from '../catalogue/viewer';
import { dossierNamed } from '../catalogue/compile';

/** A row as the ledger keeps it. */
export interface SavedSearchRow {
  id: number;
  name: string;
  query: string;
  sort: SavedSearch['sort'];
  note: string;
  folder: string;
  pinned: boolean;
  scope: string;
  size: number | null;
  created_by: number | null;
  dossier_id: number | null;
}

const COLUMNS = 'id, name, query, sort, note, folder, pinned, scope, size, created_by, dossier_id';

export async function listSearches(database: Database, tx?: Transaction): Promise<SavedSearchRow[]> {
  return database.rows<SavedSearchRow>(`select ${COLUMNS} from saved_search order by folder, lower(name)`, [], tx);
}

export async function findSearch(database: Database, id: number, tx: Transaction): Promise<SavedSearchRow | undefined> {
  return database.row<SavedSearchRow>(`select ${COLUMNS} from saved_search where id = $1`, [id], tx);
}

export async function nextSearchId(database: Database, tx: Transaction): Promise<number> {
  const row = await database.row<{ id: string }>(
    `select nextval(pg_get_serial_sequence('saved_search', 'id')) as id`,
    [],
    tx,
  );
  return Number(row?.id);
}

/** Folders and drives whose name begins with the text. */
export async function suggestFolders(
  database: Database,
  text: string,
  limit: number,
): Promise<Pick<Suggestion, 'label' | 'detail'>[]> {
  return database.rows(
    `select label, detail from (
       select d.label, d.label as detail, '' as path from drive d join folder f on f.drive_id = d.id and f.path = '' where lower(d.label) like lower($1)
       union all
       select f.name, d.label || '/' || f.path, f.path from folder f join drive d on d.id = f.drive_id
       where lower(f.name) like lower($1) and f.path <> '' and ${outsideTrash('f')}) found
     order by length(path), path limit $2`,
    [`${text.replace(/[\\%_]/g, '\\$&')}%`, limit],
  );
}

const RECENT_SEARCHES_KEPT = 30;

/** Keeps a query as the one that somebody asked last. */
export async function rememberQuery(
  database: Database,
  accountId: number,
  query: string,
  sort: SavedSearch['sort'],
): Promise<void> {
  await modelOf(database, RECENT_SEARCH).upsert({ accountId, query, sort, at: new Date() });
  await database.rows(
    `delete from recent_search where account_id = $1 and query not in
       (select query from recent_search where account_id = $1 order by at desc limit ${RECENT_SEARCHES_KEPT})`,
    [accountId],
  );
}

/** What somebody asked last, the latest first. */
export async function recentQueries(
  database: Database,
  accountId: number,
): Promise<{ query: string; sort: SavedSearch['sort']; at: string }[]> {
  return database.rows(
    `select query, sort, ${isoSql('at')} as at from recent_search where account_id = $1 order by recent_search.at desc`,
    [accountId],
  );
}

/** Photos by id, or by their folded name, or drive and path. */
export async function photosCalled(
  database: Database,
  photo: number | string,
  limit: number,
  { sight }: Viewer,
): Promise<{ photoId: number; path: string }[]> {
  const byId = typeof photo === 'number';
  const name = byId ? '' : (photo.split('/').at(-1) ?? '');
  const seen = sightSql(
    sight,
    byId || !photo.includes('/')
      ? [byId ? photo : name, limit]
      : [name, limit, photo, `%/${photo.replace(/[\\%_]/g, '\\$&')}`],
  );
  return database.rows(
    `select "photoId", path from (
       select p.id as "photoId", concat_ws('/', d.label, nullif(f.path, ''), p.name) as path
       from photo p join photo_text t on t.photo_id = p.id join folder f on f.id = p.folder_id join drive d on d.id = p.drive_id
       where ${byId ? 'p.id = $1::int' : 't.name_folded = $1'} and ${seen.sql}) found
     where ${byId || !photo.includes('/') ? 'true' : 'lower(path) = lower($3) or lower(path) like $4'} order by path limit $2`,
    seen.bind,
  );
}

/** Photos of the dossier that a condition names, in the order made by hand; those of dossiers below come after. */
export async function photosByHand(database: Database, query: CriterionQuery): Promise<number[]> {
  const { sql, bind } = dossierNamed('named', query.value);
  const rows = await database.rows<{ id: number }>(
    `select p.photo_id as id from dossier_photo p join dossier d on d.id = p.dossier_id
     where p.dossier_id in (select within.id from dossier named join dossier_above within on within.above_id = named.id where ${sql})
     order by d.parent_id nulls first, d.position, d.id, p.position`,
    bind,
  );
  return rows.map(({ id }) => id);
}

/** Dossiers whose folded name has a text. */
export async function suggestDossiers(
  database: Database,
  text: string,
  limit: number,
): Promise<{ name: string; path: string }[]> {
  return database.rows(
    `with recursive path (id, parent_id, name, path) as (
       select id, parent_id, name, name from dossier where name_folded like $1
       union all
       select p.id, d.parent_id, p.name, d.name || '/' || p.path from path p join dossier d on d.id = p.parent_id)
     select name, path from path where parent_id is null order by length(name), path limit $2`,
    [`%${text.replace(/[\\%_]/g, '\\$&')}%`, limit],
  );
}

/** Rules of what counts as described. */
export function listRules(
  database: Database,
  tx?: Transaction,
): Promise<{ name: string; query: string; requires: string[] }[]> {
  return database.rows('select name, query, requires from quality_rule order by name', [], tx);
}
