// The SQL of dossiers.

import { DOSSIER_PIN } from '../database/models/dossiers';
import { modelOf } from '../database/models/table';
import type { Database, Transaction } from '../database/database';
import { recordPhotos } from '../ledger/recordStore';
import type { SqlCondition } from '../catalogue/compile';
import { sightSql } from '../catalogue/sightSql';
import type { Viewer } from '../catalogue/viewer';

/** A row as the ledger keeps it. */
export interface DossierRow {
  id: number;
  parent_id: number | null;
  name: string;
  name_folded: string;
  note: string;
  colour: string;
  cover_photo: number | null;
  position: number;
  created_by: number | null;
}

const COLUMNS = 'id, parent_id, name, name_folded, note, colour, cover_photo, position, created_by';

export async function listDossiers(database: Database, tx?: Transaction): Promise<DossierRow[]> {
  return database.rows<DossierRow>(`select ${COLUMNS} from dossier order by position, id`, [], tx);
}

/** Of each dossier the photo that stands for it: its cover, or the first of its own or of one below. */
export async function listCovers(
  database: Database,
  { sight }: Viewer,
): Promise<{ id: number; photoId: number; version: number }[]> {
  const seen = sightSql(sight);
  return database.rows(
    `select d.id, p.id as "photoId", p.preview_version as version from dossier d
     join lateral (
       select coalesce((select p.id from photo p where p.id = d.cover_photo and ${seen.sql}), (
         select put.photo_id from dossier_above a join dossier_photo put on put.dossier_id = a.id join photo p on p.id = put.photo_id
         where a.above_id = d.id and ${seen.sql} order by a.id <> d.id, a.id, put.position limit 1)) as photo_id) c on true
     join photo p on p.id = c.photo_id and p.shown`,
    seen.bind,
  );
}

export async function nextId(database: Database, tx: Transaction): Promise<number> {
  const row = await database.row<{ id: string }>(
    `select nextval(pg_get_serial_sequence('dossier', 'id')) as id`,
    [],
    tx,
  );
  return Number(row?.id);
}

/** Records that photos (a statement) come into a dossier, behind those in it, by the time they were taken. */
export async function recordPut(
  database: Database,
  entryId: number,
  dossierId: number,
  photos: SqlCondition,
  tx: Transaction,
): Promise<void> {
  const bind = [...photos.bind];
  const dossier = `$${bind.push(dossierId)}::int`;
  const sql = `select p.id, ${dossier}, 'false',
      to_jsonb((select coalesce(max(position), 0) from dossier_photo where dossier_id = ${dossier})
        + row_number() over (order by p.taken_at nulls last, p.id))
    from (${photos.sql}) chosen join photo p on p.id = chosen.id
    where not exists (select 1 from dossier_photo d where d.dossier_id = ${dossier} and d.photo_id = p.id)`;
  await recordPhotos(database, entryId, 'dossier', { sql, bind }, tx);
}

/** Records that photos (a statement) leave a dossier. */
export async function recordTaken(
  database: Database,
  entryId: number,
  dossierId: number,
  photos: SqlCondition,
  tx: Transaction,
): Promise<void> {
  const bind = [...photos.bind];
  const dossier = `$${bind.push(dossierId)}::int`;
  const sql = `select d.photo_id, d.dossier_id, to_jsonb(d.position), 'false'
    from (${photos.sql}) chosen join dossier_photo d on d.photo_id = chosen.id where d.dossier_id = ${dossier}`;
  await recordPhotos(database, entryId, 'dossier', { sql, bind }, tx);
}

/** Records that another dossier gets the photos of one, in their order. */
export async function recordCopied(
  database: Database,
  entryId: number,
  from: number,
  to: number,
  tx: Transaction,
): Promise<void> {
  const sql = `select photo_id, $2::int, 'false', to_jsonb(position) from dossier_photo where dossier_id = $1`;
  await recordPhotos(database, entryId, 'dossier', { sql, bind: [from, to] }, tx);
}

/** The photos of a dossier in their order. */
export async function photosInOrder(
  database: Database,
  dossierId: number,
  tx: Transaction,
): Promise<{ id: number; position: number }[]> {
  return database.rows(
    'select photo_id as id, position from dossier_photo where dossier_id = $1 order by position, photo_id for update',
    [dossierId],
    tx,
  );
}

/** Records places of photos in a dossier. */
export async function recordPlaces(
  database: Database,
  entryId: number,
  dossierId: number,
  places: readonly { id: number; before: number; after: number }[],
  tx: Transaction,
): Promise<void> {
  const sql = `select r.id, $1::int, to_jsonb(r.before), to_jsonb(r.after)
    from jsonb_to_recordset($2::jsonb) as r (id int, before float8, after float8)`;
  await recordPhotos(database, entryId, 'dossier', { sql, bind: [dossierId, JSON.stringify(places)] }, tx);
}

/** The dossiers that a photo is in, by id. */
export async function dossiersOf(database: Database, photoId: number): Promise<number[]> {
  const rows = await database.rows<{ id: number }>(
    'select dossier_id as id from dossier_photo where photo_id = $1 order by dossier_id',
    [photoId],
  );
  return rows.map(({ id }) => id);
}

export async function pinnedOf(database: Database, accountId: number): Promise<number | undefined> {
  return (await modelOf(database, DOSSIER_PIN).findByPk(accountId))?.dossierId;
}

export async function pin(database: Database, accountId: number, dossierId: number | null): Promise<void> {
  if (dossierId === null) await modelOf(database, DOSSIER_PIN).destroy({ where: { accountId } });
  else await modelOf(database, DOSSIER_PIN).upsert({ accountId, dossierId });
}
