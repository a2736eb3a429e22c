// The SQL of photos as lists and details show them.

import type { FileKind } from '@stellin/core/metadata/containers/index';
import type { Photo, PhotoDetails, Selection } from '@stellin/contract/photos';
import { FIXITY_SQL } from '../catalogue/fixity';
import { alsoSeen, photoColumns, PHOTO_JOINS } from '../catalogue/photoRow';
import { sightSql } from '../catalogue/sightSql';
import type { Viewer } from '../catalogue/viewer';
import type { Database, Transaction } from '../database/database';
import { isoSql } from '../database/isoSql';
import { selectionSql } from '../catalogue/selection';
import { recordPhotos } from '../ledger/recordStore';

/** Photos by their ids, in the order of these. */
export async function photosById(database: Database, { sight }: Viewer, ids: readonly number[]): Promise<Photo[]> {
  if (ids.length === 0) return [];
  const seen = sightSql(sight, [ids]);
  const sql = `select ${photoColumns(seen.sql)} from unnest($1::int[]) with ordinality found (id, place)
     join photo p on p.id = found.id ${PHOTO_JOINS} where ${seen.sql} order by found.place`;
  // The statement for whom all exist is asked again and again; others are as various as rights are.
  return sight === null ? database.often<Photo>(sql, seen.bind) : database.rows<Photo>(sql, seen.bind);
}

export async function findPhoto(
  database: Database,
  { sight }: Viewer,
  id: number,
): Promise<Omit<PhotoDetails, 'dossiers'> | undefined> {
  const seen = sightSql(sight, [id]);
  return database.row<Omit<PhotoDetails, 'dossiers'>>(
    `select ${photoColumns(seen.sql)}, d.label as "driveLabel", f.path as "folderPath",
       case when d.attached then concat_ws('/', d.mount_point, nullif(f.path, ''), p.name) end as path, p.size_bytes::float8 as "sizeBytes",
       t.facts, t.fields, t.issues, t.disagreements,
       array(select keyword from photo_keyword k where k.photo_id = p.id order by position) as keywords,
       array(select term_id from photo_term g where g.photo_id = p.id) as "termIds",
       coalesce((select json_agg(json_build_object('photoId', o.id, 'path', concat_ws('/', od.label, nullif(of.path, ''), o.name)) order by o.id)
         from photo o join folder of on of.id = o.folder_id join drive od on od.id = o.drive_id
         where o.picture_hash = p.picture_hash and o.id <> p.id and o.shown${alsoSeen('o', seen.sql)}), '[]') as doubles,
       (select json_build_object('accession', c.id, 'at', ${isoSql('c.started_at')}, 'by', coalesce(a.display_name, 'Stellin'))
         from accession c left join account a on a.id = c.account_id where c.id = p.accession_id) as "takenIn",
       json_build_object('state', ${FIXITY_SQL}, 'provenAt', ${isoSql('x.proven_at')}, 'sha256', encode(x.sha256, 'hex'), 'problem', x.problem) as fixity
     from photo p ${PHOTO_JOINS} join folder f on f.id = p.folder_id join photo_text t on t.photo_id = p.id left join photo_fixity x on x.photo_id = p.id where p.id = $1 and ${seen.sql}`,
    seen.bind,
  );
}

/** Columns of a photo that changes set as they are, with their types. */
const SET_COLUMNS = { rating: 'smallint', private: 'boolean' } as const;

/** Records that photos of a selection get a value; only those whose value differs. */
export async function recordValue<Column extends keyof typeof SET_COLUMNS>(
  database: Database,
  entryId: number,
  selection: Selection,
  column: Column,
  value: Column extends 'rating' ? number : boolean,
  tx: Transaction,
): Promise<void> {
  const chosen = selectionSql(selection);
  const bind = [...chosen.bind];
  const wanted = `$${bind.push(value)}::${SET_COLUMNS[column]}`;
  const sql = `select p.id, 0, to_jsonb(p.${column}), to_jsonb(${wanted})
    from (${chosen.sql}) chosen join photo p on p.id = chosen.id where p.${column} <> ${wanted}`;
  await recordPhotos(database, entryId, column, { sql, bind }, tx);
}

/** Records which picture stands for a film; null: a telling one is to be found. */
export async function recordPoster(
  database: Database,
  entryId: number,
  photoId: number,
  seconds: number | null,
  tx: Transaction,
): Promise<void> {
  const sql = `select p.id, 0, coalesce(to_jsonb(p.poster), 'null'), coalesce(to_jsonb($2::float8), 'null')
    from photo p where p.id = $1 and p.poster is distinct from $2::float8`;
  await recordPhotos(database, entryId, 'poster', { sql, bind: [photoId, seconds] }, tx);
}

/** Name and kind of a photo; undefined where there is none. */
export function kindOfPhoto(
  database: Database,
  photoId: number,
  tx: Transaction,
): Promise<{ name: string; kind: FileKind } | undefined> {
  return database.row<{ name: string; kind: FileKind }>('select name, kind from photo where id = $1', [photoId], tx);
}

/** Where the file of a photo is. */
export function placeOfPhoto(
  database: Database,
  photoId: number,
): Promise<{ driveId: string; folder: string; name: string } | undefined> {
  return database.row<{ driveId: string; folder: string; name: string }>(
    'select p.drive_id as "driveId", f.path as folder, p.name from photo p join folder f on f.id = p.folder_id where p.id = $1',
    [photoId],
  );
}
