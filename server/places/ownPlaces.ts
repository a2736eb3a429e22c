// Own places as core knows them, from how they are kept.

import { OwnPlaces, type OwnPlace } from '@stellin/core/timeplace/ownPlaces';
import type { OwnPlaceRecord } from './store';

export function ownPlacesOf(rows: readonly OwnPlaceRecord[]): OwnPlaces {
  return new OwnPlaces(rows.map(placeOf));
}

export function placeOf({
  parent_id,
  other_names,
  country_code,
  latitude,
  longitude,
  geonames_id,
  term_id,
  ...row
}: OwnPlaceRecord): OwnPlace {
  return {
    ...{ id: row.id, parentId: parent_id, kind: row.kind, name: row.name, otherNames: other_names, note: row.note },
    ...{ countryCode: country_code, metres: row.metres, corners: row.corners },
    ...{ geonamesId: geonames_id, termId: term_id },
    point: latitude === null || longitude === null ? null : { latitude, longitude },
  };
}
