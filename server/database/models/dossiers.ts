// The tables of dossiers.

import { double, integer, table, text } from './table';

/** Dossiers, in a tree. */
export const DOSSIER = table('dossier', {
  id: integer({ key: true, preset: true }),
  parentId: integer({ orNull: true, of: 'dossier' }),
  name: text(),
  nameFolded: text(),
  note: text({ preset: true }),
  /** One of the colours of core, or empty. */
  colour: text({ preset: true }),
  coverPhoto: integer({ orNull: true, of: 'photo' }),
  /** Among its siblings. */
  position: double({ preset: true }),
  createdBy: integer({ orNull: true, of: 'account' }),
});

/** Which photos are in which dossiers, in an order made by hand. */
export const DOSSIER_PHOTO = table('dossier_photo', {
  dossierId: integer({ key: true, of: 'dossier' }),
  photoId: integer({ key: true, of: 'photo' }),
  /** In the order made by hand. */
  position: double(),
});

/** The dossier that a person has pinned. */
export const DOSSIER_PIN = table('dossier_pin', {
  accountId: integer({ key: true, of: 'account' }),
  dossierId: integer({ of: 'dossier' }),
});
