// How places stand in the ledger.

import type { ObjectKind } from '../ledger/kinds';

export const placeObjects = {
  own_place: {
    label: 'Place',
    named: 'name',
    columns: {
      parent_id: { label: 'Lies in', refersTo: 'own_place' },
      kind: { label: 'Kind' },
      name: { label: 'Name' },
      name_folded: 'derived',
      other_names: { label: 'Other names' },
      country_code: { label: 'Country code' },
      note: { label: 'Note' },
      latitude: { label: 'Latitude' },
      longitude: { label: 'Longitude' },
      metres: { label: 'Reaches (m)' },
      corners: { label: 'Outline' },
      geonames_id: { label: 'In the gazetteer (GeoNames)' },
      term_id: { label: 'Term', refersTo: 'term' },
      created_by: { label: 'Made by', refersTo: 'account' },
    },
  },
  place_name_left: {
    label: 'Place names left',
    named: 'names',
    columns: {
      names: { label: 'Names' },
      names_key: 'derived',
      created_by: { label: 'Left by', refersTo: 'account' },
    },
  },
  camera_clock: {
    label: 'Clock of a camera',
    named: 'camera',
    columns: {
      camera: { label: 'Camera' },
      from_day: { label: 'From' },
      until_day: { label: 'Until' },
      ahead_seconds: { label: 'Ahead (s)' },
      note: { label: 'Note' },
      created_by: { label: 'Noted by', refersTo: 'account' },
    },
  },
} as const satisfies Record<string, ObjectKind>;
