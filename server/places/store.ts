// The SQL of places.

import type { OtherPlaceName, PlaceKind } from '@stellin/core/timeplace/ownPlaces';
import type { Point } from '@stellin/core/timeplace/areas';
import type { PlaceNames } from '@stellin/contract/places';
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
  created_by: number | null;
}

const COLUMNS =
  'id, parent_id, kind, name, name_folded, other_names, country_code, note, latitude, longitude, metres, corners, created_by';

export function listOwnPlaces(database: Database, tx?: Transaction): Promise<OwnPlaceRecord[]> {
  return database.rows<OwnPlaceRecord>(`select ${COLUMNS} from own_place order by id`, [], tx);
}

/** The versions of the previews of some photos. */
export async function previewVersions(database: Database, ids: readonly number[]): Promise<Map<number, number>> {
  const rows = await database.rows<{ id: number; version: number }>(
    'select id, preview_version as version from photo where id = any($1::int[])',
    [ids],
  );
  return new Map(rows.map(({ id, version }) => [id, version]));
}

/** Where some photos were taken, in the order of their ids. */
export function positionsOf(
  database: Database,
  ids: readonly number[],
): Promise<{ photoId: number; name: string; previewVersion: number; point: Point }[]> {
  return database.rows(
    `select p.id as "photoId", p.name, p.preview_version as "previewVersion",
       jsonb_build_object('latitude', t.fields -> 'position' -> 'latitude', 'longitude', t.fields -> 'position' -> 'longitude') as point
     from photo p join photo_text t on t.photo_id = p.id where p.id = any($1::int[]) and t.fields ? 'position'
     order by array_position($1::int[], p.id)`,
    [ids],
  );
}

/** The names of places that some photos say, in the order of their ids. */
export function namesOf(
  database: Database,
  ids: readonly number[],
): Promise<{ photoId: number; name: string; previewVersion: number; names: Partial<PlaceNames> }[]> {
  return database.rows(
    `select p.id as "photoId", p.name, p.preview_version as "previewVersion", jsonb_strip_nulls(jsonb_build_object(
       'sublocation', t.fields -> 'sublocation', 'city', t.fields -> 'city', 'provinceState', t.fields -> 'provinceState',
       'country', t.fields -> 'country', 'countryCode', t.fields -> 'countryCode')) as names
     from photo p join photo_text t on t.photo_id = p.id where p.id = any($1::int[]) order by array_position($1::int[], p.id)`,
    [ids],
  );
}
