// The tables of places.

import { bytes, double, integer, json, moment, table, text } from './table';

/** The archive's own places, in a tree. */
export const OWN_PLACE = table('own_place', {
  id: integer({ key: true, preset: true }),
  parentId: integer({ orNull: true, of: 'own_place' }),
  /** country, region, town or spot. */
  kind: text(),
  name: text(),
  nameFolded: text(),
  /** `[{"name", "from", "until"}]`. */
  otherNames: json({ preset: true }),
  countryCode: text({ preset: true }),
  note: text({ preset: true }),
  latitude: double({ orNull: true }),
  longitude: double({ orNull: true }),
  /** How far it reaches around its middle; null: as is usual for its kind. */
  metres: integer({ orNull: true }),
  /** `[{"latitude", "longitude"}]`: its outline; null: a circle. */
  corners: json({ orNull: true }),
  createdBy: integer({ orNull: true, of: 'account' }),
});

/** Tracks of receivers. */
export const TRACK = table('track', {
  id: integer({ key: true, preset: true }),
  name: text(),
  device: text({ preset: true }),
  points: integer(),
  begins: moment(),
  ends: moment(),
  /** Column by column, see `core/timeplace/track.ts`. */
  data: bytes(),
  /** SHA-256 of the data. */
  digest: bytes(),
  addedAt: moment({ preset: true }),
  addedBy: integer({ orNull: true, of: 'account' }),
});
