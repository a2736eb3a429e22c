// The SQL of places.

import { NAME_FIELDS } from '@stellin/core/describing/placing';
import type { FieldValues } from '@stellin/core/metadata/fields';
import type { OtherPlaceName, PlaceKind } from '@stellin/core/timeplace/ownPlaces';
import type { Point } from '@stellin/core/timeplace/areas';
import type { Database, Transaction } from '../database/database';

/** A row as the ledger keeps it. */
export interface OwnPlaceRecord {
  id: number;
  parent_id: number | null;
  kind: PlaceKind;
  name: string;
  name_folded: string;
  other_names: readonly OtherPlaceName[];
  country_code: string;
  note: string;
  latitude: number | null;
  longitude: number | null;
  metres: number | null;
  corners: readonly Point[] | null;
  geonames_id: number | null;
  term_id: number | null;
  created_by: number | null;
}

const COLUMNS =
  'id, parent_id, kind, name, name_folded, other_names, country_code, note, latitude, longitude, metres, corners, geonames_id, term_id, created_by';

export function listOwnPlaces(database: Database, tx?: Transaction): Promise<OwnPlaceRecord[]> {
  return database.rows<OwnPlaceRecord>(`select ${COLUMNS} from own_place order by id`, [], tx);
}

/** What some photos say of where they were taken, in the order of their ids: their position and the names of places. */
export function placesSaid(
  database: Database,
  ids: readonly number[],
): Promise<{ photoId: number; name: string; previewVersion: number; fields: FieldValues }[]> {
  return database.rows(
    `select p.id as "photoId", p.name, p.preview_version as "previewVersion",
       (select coalesce(jsonb_object_agg(said.key, said.value), '{}') from jsonb_each(t.fields) said where said.key = any($2::text[])) as fields
     from photo p join photo_text t on t.photo_id = p.id where p.id = any($1::int[]) order by array_position($1::int[], p.id)`,
    [ids, ['position', ...NAME_FIELDS]],
  );
}

/** Numbers for places that are yet to be made. */
export async function nextPlaceIds(database: Database, count: number, tx: Transaction): Promise<number[]> {
  const rows = await database.rows<{ id: number }>(
    `select nextval(pg_get_serial_sequence('own_place', 'id'))::int as id from generate_series(1, $1::int)`,
    [count],
    tx,
  );
  return rows.map(({ id }) => id);
}

/** The terms that places stand beside, by their ids. */
export async function termsOfPlaces(database: Database): Promise<Map<number, { label: string; uri: string }>> {
  const rows = await database.rows<{ id: number; label: string; uri: string }>(
    'select t.id, t.label, t.uri from term t where t.id in (select p.term_id from own_place p)',
  );
  return new Map(rows.map(({ id, ...term }) => [id, term]));
}
