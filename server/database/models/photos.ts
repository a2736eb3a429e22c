// The tables of photos.

import {
  bigint,
  boolean,
  bytes,
  double,
  integer,
  json,
  localTime,
  moment,
  real,
  smallint,
  table,
  text,
  uuid,
  words,
} from './table';

/** One row a photo, narrow: what changes often and what results are ordered by. Texts stand in photo_text. */
export const PHOTO = table('photo', {
  id: integer({ key: true, preset: true }),
  driveId: uuid({ of: 'drive' }),
  folderId: integer({ of: 'folder' }),
  /** With which it came. */
  accessionId: integer({ orNull: true, of: 'accession' }),
  name: text(),
  /** Kind of file, see core/metadata/containers. */
  kind: text(),
  sizeBytes: bigint(),
  /** Milliseconds since 1970, as the file system had it at reading. */
  mtimeMs: double(),
  /** The same of its sidecar; null: it has none. */
  sidecarMtimeMs: double({ orNull: true }),
  width: integer({ orNull: true }),
  height: integer({ orNull: true }),
  /** 1 to 8, as Exif counts. */
  orientation: smallint({ preset: true }),
  /** Local time of the place; the beginning where only a span is known. */
  takenAt: localTime({ orNull: true }),
  /** -1 rejected, 0 none, 1 to 5. */
  rating: smallint({ preset: true }),
  /** What the file is known to say. */
  ratingWritten: smallint({ preset: true }),
  /** The file could not be decoded in full. */
  damaged: boolean({ preset: true }),
  /** Raised whenever the preview is made anew; 0: there is none. */
  previewVersion: integer({ preset: true }),
  /** 0 to be made, 1 made, 2 can’t be made. */
  previewState: smallint({ preset: true }),
  /** How the preview shows it, as `orientation` counts. */
  previewOrientation: smallint({ preset: true }),
  /** Degrees clockwise that would put it upright, as faces in it say; 0 where they say nothing. */
  sideways: smallint({ preset: true }),
  /** Of a film the second whose picture stands for it; null: a telling one is found. */
  poster: double({ orNull: true }),
  /** What its preview shows of that. */
  previewPoster: double({ orNull: true }),
  /** Derived: whether it has a description. */
  hasCaption: boolean({ preset: true }),
  /** Derived: whether it says who is in it. */
  hasPeople: boolean({ preset: true }),
  /** Derived: whether it has a place. */
  hasLocation: boolean({ preset: true }),
  /** When we wrote its file last. */
  writtenAt: moment({ orNull: true }),
  /** The file was not where it should be. */
  missingSince: moment({ orNull: true }),
  /** SHA-256 of the picture without its metadata: alike for copies. */
  pictureHash: bytes({ orNull: true }),
  /** A hash that is near for pictures that look alike. */
  likeness: bigint({ orNull: true }),
  /** Name of a mark, or empty. */
  mark: text({ preset: true }),
  /** The mark as it is searched for. */
  markFolded: text({ preset: true }),
  /** What the file is known to say. */
  markWritten: text({ preset: true }),
  /** Path it was trashed from; null: it is not in the trash. */
  trashedFrom: text({ orNull: true }),
  /** Taken out of the catalogue; its row is kept. */
  removed: boolean({ preset: true }),
  /** Generated: neither trashed nor removed. */
  shown: boolean({ preset: true }),
  /** Number that the photos of a bundle share. */
  bundle: integer({ orNull: true }),
  /** It stands for its bundle. */
  leads: boolean({ preset: true }),
  /** The lead of its bundle, while that is closed. */
  foldedInto: integer({ orNull: true, of: 'photo' }),
  /** Taken out of its bundle by hand: it is not bundled by name again. */
  unbundled: boolean({ preset: true }),
  /** The end of the span, not included. */
  takenUntil: localTime({ orNull: true }),
  /** It never leaves the archive. */
  private: boolean({ preset: true }),
  /** Whether its file holds what it should, see core/fixity: by its place there. */
  fixity: smallint({ preset: true }),
});

/** What is said in and of a photo, and its words for searching. */
export const PHOTO_TEXT = table('photo_text', {
  photoId: integer({ key: true, of: 'photo' }),
  caption: text({ preset: true }),
  /** All described fields by their ids, see core/metadata/fields. */
  fields: json({ preset: true }),
  /** Camera, lens, exposure, size: what is not described but measured. */
  facts: json({ preset: true }),
  /** What was wrong with its blocks at reading. */
  issues: json({ preset: true }),
  /** Where its blocks say different things. */
  disagreements: json({ preset: true }),
  /** The file name as it is searched for. */
  nameFolded: text({ preset: true }),
  /** The description as it is searched for. */
  captionFolded: text({ preset: true }),
  /** The camera as it is searched for. */
  cameraFolded: text({ preset: true }),
  /** The words of all texts, as core/text/words makes them. */
  words: words({ preset: true }),
  /** Values of fields as they are searched for. */
  fieldsFolded: json({ preset: true }),
});

/** The keywords of a photo as texts: those its file gave, and those its terms give. */
export const PHOTO_KEYWORD = table('photo_keyword', {
  photoId: integer({ key: true, of: 'photo' }),
  keyword: text({ key: true }),
  /** As it is searched for. */
  folded: text(),
  /** In the order of the file. */
  position: integer(),
  /** The file holds it. */
  inFile: boolean({ preset: true }),
});

/** The text that was seen in a picture. */
export const PHOTO_LETTERING = table('photo_lettering', {
  photoId: integer({ key: true, of: 'photo' }),
  /** Lines with where they are seen (core/pictureText/lines). */
  lines: json(),
  /** All lines, one below the other. */
  text: text(),
  /** How the picture was seen, as Exif counts. */
  orientation: smallint(),
  /** Of the picture that was read. */
  pictureHash: bytes({ orNull: true }),
  /** Why it could not be read; empty for none. */
  problem: text({ preset: true }),
  at: moment({ preset: true }),
});

/** How a picture looks, as it was measured of its preview. */
export const PHOTO_LOOK = table('photo_look', {
  photoId: integer({ key: true, of: 'photo' }),
  /** Which recipe made the look (core/lookalikes/look). */
  recipe: smallint(),
  /** 8-bit numbers, see there. */
  look: bytes(),
  /** The higher the sharper. */
  sharpness: real(),
  /** Rises with each change. */
  version: bigint({ preset: true }),
});

/** The tiny picture that is shown until the preview is there. */
export const PHOTO_PREVIEW = table('photo_preview', {
  photoId: integer({ key: true, of: 'photo' }),
  /** A data URL. */
  placeholder: text(),
});
