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
  /** The place of the gazetteer that it is: its number at GeoNames. */
  geonamesId: integer({ orNull: true }),
  termId: integer({ orNull: true, of: 'term' }),
  createdBy: integer({ orNull: true, of: 'account' }),
});

/** Names of places that no place knows and that are right. */
export const PLACE_NAME_LEFT = table('place_name_left', {
  id: integer({ key: true, preset: true }),
  names: text(),
  /** What tells names apart. */
  namesKey: text(),
  createdBy: integer({ orNull: true, of: 'account' }),
});

/** Clocks of cameras that went wrong for a while. */
export const CAMERA_CLOCK = table('camera_clock', {
  id: integer({ key: true, preset: true }),
  /** Maker and model. */
  camera: text(),
  /** The first and the last day: `YYYY-MM-DD`. */
  fromDay: text(),
  untilDay: text(),
  aheadSeconds: integer(),
  note: text({ preset: true }),
  createdBy: integer({ orNull: true, of: 'account' }),
});

/** Pictures of old maps, laid over the map. */
export const OLD_MAP = table('old_map', {
  id: integer({ key: true, preset: true }),
  name: text(),
  note: text({ preset: true }),
  /** WebP. */
  picture: bytes(),
  width: integer(),
  height: integer(),
  /** `[{"x", "y", "latitude", "longitude"}]`. */
  pins: json({ preset: true }),
  addedAt: moment({ preset: true }),
  addedBy: integer({ orNull: true, of: 'account' }),
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
