// The tables of persons and faces.

import { bigint, boolean, bytes, integer, integers, moment, real, table, text, texts, uuid } from './table';

/** Persons. */
export const PERSON = table('person', {
  id: integer({ key: true, preset: true }),
  name: text(),
  nameFolded: text(),
  otherNames: texts({ preset: true }),
  /** All names as they are searched for. */
  namesFolded: texts({ preset: true }),
  note: text({ preset: true }),
  /** EDTF, or empty. */
  born: text({ preset: true }),
  /** EDTF, or empty. */
  died: text({ preset: true }),
  /** Never written into files. */
  private: boolean({ preset: true }),
  /** The term that stands for them. */
  termId: integer({ orNull: true, of: 'term' }),
  /** Written with details, not by name alone. */
  detailed: boolean({ preset: true }),
});

/** Who is in a photo without a face that says so. */
export const PHOTO_PERSON = table('photo_person', {
  photoId: integer({ key: true, of: 'photo' }),
  personId: integer({ key: true, of: 'person' }),
});

/** Faces in photos: found, read from files or drawn. */
export const FACE = table('face', {
  id: integer({ key: true, preset: true }),
  photoId: integer({ of: 'photo' }),
  /** found, file or drawn. */
  source: text(),
  /** open, named, unnamed, none or removed. */
  state: text({ preset: true }),
  personId: integer({ orNull: true, of: 'person' }),
  /** Ids of persons it does not show. */
  refused: integers({ preset: true }),
  /** Share of the picture’s width. */
  boxLeft: real(),
  /** Share of the picture’s height. */
  boxTop: real(),
  /** Share of the picture’s width. */
  boxWidth: real(),
  /** Share of the picture’s height. */
  boxHeight: real(),
  /** Its description in 8-bit numbers, see core/people/likeness. */
  vector: bytes({ orNull: true }),
  /** 0 to 1: how well it can be told. */
  quality: real({ preset: true }),
  /** 0 to 1. */
  sharpness: real({ preset: true }),
  /** 0 to 1. */
  smile: real({ preset: true }),
  /** 0 to 1. */
  eyesOpen: real({ preset: true }),
  /** Degrees. */
  yaw: real({ preset: true }),
  /** Degrees. */
  pitch: real({ preset: true }),
  /** Degrees. */
  roll: real({ preset: true }),
  /** Height of the face in the picture. */
  pixels: integer({ preset: true }),
  /** Raised whenever it changes. */
  version: bigint({ preset: true }),
});

/** Which pictures were looked at for faces, and how that went. */
export const FACE_SCAN = table('face_scan', {
  photoId: integer({ key: true, of: 'photo' }),
  /** By which model; another one looks again. */
  model: text({ preset: true }),
  /** Of the picture that was looked at. */
  pictureHash: bytes({ orNull: true }),
  faces: integer({ preset: true }),
  /** Why it could not be looked at. */
  problem: text({ preset: true }),
  at: moment({ preset: true }),
});

/** Derived: whom an unnamed face may show. */
export const FACE_GUESS = table('face_guess', {
  faceId: integer({ key: true, of: 'face' }),
  personId: integer({ of: 'person' }),
  /** 0 to 1. */
  certainty: real(),
});

/** Drives and folders in which faces are not looked for. */
export const FACE_EXCEPTION = table('face_exception', {
  driveId: uuid({ key: true, of: 'drive' }),
  /** Path within the drive; empty: all of it. */
  folder: text({ key: true, preset: true }),
});

/** Names of people that files bring. */
export const INCOMING_NAME = table('incoming_name', {
  photoId: integer({ key: true, of: 'photo' }),
  name: text({ key: true }),
  /** As names are compared. */
  folded: text(),
});

/** Whom a name that files bring stands for. */
export const NAME_DECISION = table('name_decision', {
  id: integer({ key: true, preset: true }),
  name: text(),
  nameFolded: text(),
  personId: integer({ orNull: true, of: 'person' }),
});
