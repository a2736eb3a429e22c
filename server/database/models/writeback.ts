// The tables of what waits to be written and what was written.

import { bigint, bytes, integer, json, moment, table, text, texts } from './table';

/** Photos whose files do not say yet what the catalogue says. */
export const WRITE_BACK = table('write_back', {
  photoId: integer({ key: true, of: 'photo' }),
  /** waiting, conflict or failed. */
  state: text(),
  /** When it began to wait. */
  since: moment({ preset: true }),
  /** Why it failed. */
  message: text({ preset: true }),
});

/** Files that are being written: which journals and ledger entries a finished or broken write settles. */
export const WRITE_JOURNAL = table('write_journal', {
  photoId: integer({ key: true, of: 'photo' }),
  /** What the file is to say. */
  intended: json(),
  startedAt: moment({ preset: true }),
  /** Paths of journal files. */
  entries: texts({ preset: true }),
});

/** What was written into files, so that it can be taken back. */
export const METADATA_VERSION = table('metadata_version', {
  id: bigint({ key: true, preset: true }),
  photoId: integer({ of: 'photo' }),
  writtenAt: moment({ preset: true }),
  /** file or sidecar. */
  target: text(),
  /** How to make the old bytes of the new ones; null: too long ago. */
  back: bytes({ orNull: true }),
  /** Of the bytes that were written. */
  givenHash: bytes(),
});

/** What a file said of a field when it was read last, where the catalogue says something else. */
export const FIELD_IN_FILE = table('field_in_file', {
  photoId: integer({ key: true, of: 'photo' }),
  field: text({ key: true }),
  value: json(),
  /** What the file says now, where both sides have changed. */
  conflicting: json({ orNull: true }),
});

/** The keywords that a file is known to hold from us. */
export const WRITTEN_KEYWORD = table('written_keyword', {
  photoId: integer({ key: true, of: 'photo' }),
  keyword: text({ key: true }),
});
