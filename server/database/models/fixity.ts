// The tables of what files should hold.

import { bytes, integer, moment, smallint, table, text } from './table';

/** What the file of a photo should hold, and when that was last compared. */
export const PHOTO_FIXITY = table('photo_fixity', {
  photoId: integer({ key: true, of: 'photo' }),
  /** Of the whole file. */
  sha256: bytes(),
  /** Of its coded picture, as photo.picture_hash; null where that can’t be told. */
  pictureHash: bytes({ orNull: true }),
  /** Of its sidecar; null: it has none. */
  sidecarSha256: bytes({ orNull: true }),
  /** Who wrote that, see core/fixity: by its place there. */
  origin: smallint(),
  provenAt: moment({ preset: true }),
  /** What is wrong with a damaged one. */
  problem: text({ orNull: true }),
});

/** Damaged files in whose place a good copy is being put, or which come back. */
export const COPY_BACK = table('copy_back', {
  photoId: integer({ key: true, of: 'photo' }),
  entryId: integer({ of: 'ledger_entry' }),
  /** The photo whose file is the copy; null: the damaged file comes back. */
  fromPhoto: integer({ orNull: true }),
  /** The hidden folder on the drive where the other file is kept. */
  kept: text(),
});
