// The tables of site plans.

import { boolean, bytes, double, integer, json, moment, table, text } from './table';

/** Pictures of which plans are made. */
export const PLAN_PICTURE = table('plan_picture', {
  id: integer({ key: true, preset: true }),
  /** WebP. */
  picture: bytes(),
  width: integer(),
  height: integer(),
  /** The photo of the catalogue that it shows, and which page of it. */
  photoId: integer({ orNull: true, of: 'photo' }),
  page: integer({ preset: true }),
  /** The photo that it showed was private, and is gone. */
  private: boolean({ preset: true }),
  addedAt: moment({ preset: true }),
  addedBy: integer({ orNull: true, of: 'account' }),
});

export const PLAN = table('plan', {
  id: integer({ key: true, preset: true }),
  name: text(),
  nameFolded: text(),
  note: text({ preset: true }),
  pictureId: integer({ of: 'plan_picture' }),
  /** `[{"x", "y", "latitude", "longitude"}]`. */
  ties: json({ preset: true }),
  createdBy: integer({ orNull: true, of: 'account' }),
});

export const PLAN_PIN = table('plan_pin', {
  id: integer({ key: true, preset: true }),
  planId: integer({ of: 'plan' }),
  /** point, area or view. */
  kind: text(),
  number: integer(),
  /** Parts of the width and height of the picture. */
  x: double(),
  y: double(),
  /** `[{"x", "y"}]`: the outline of an area. */
  corners: json({ orNull: true }),
  /** Where a view looks, in degrees clockwise from up. */
  direction: double({ orNull: true }),
  label: text({ preset: true }),
  /** What it is called: its label, or its number. */
  name: text(),
  nameFolded: text(),
  note: text({ preset: true }),
  colour: text(),
  shape: text(),
  layer: text({ preset: true }),
  termId: integer({ orNull: true, of: 'term' }),
  placeId: integer({ orNull: true, of: 'own_place' }),
  createdBy: integer({ orNull: true, of: 'account' }),
});

/** Which photos a pin holds. */
export const PLAN_PHOTO = table('plan_photo', {
  pinId: integer({ key: true, of: 'plan_pin' }),
  photoId: integer({ key: true, of: 'photo' }),
});
