// The tables of the ledger.

import { bigint, boolean, bytes, integer, json, moment, table, text, uuid } from './table';

/** Every change, who made it and what it was. */
export const LEDGER_ENTRY = table('ledger_entry', {
  id: integer({ key: true, preset: true }),
  accountId: integer({ orNull: true, of: 'account' }),
  at: moment({ preset: true }),
  /** A kind of change, see contract/ledger. */
  kind: text(),
  /** What was done, as people read it. */
  title: text({ preset: true }),
  /** The change as it was asked for. */
  parameters: json(),
  /** How many photos it touched. */
  photos: integer({ preset: true }),
  /** The object it made or changed, where there is one. */
  objectId: integer({ orNull: true }),
  /** The entry that it undoes or repeats. */
  reverses: integer({ orNull: true, of: 'ledger_entry' }),
  /** do, undo or redo. */
  step: text({ preset: true }),
  /** It is undone at present. */
  undone: boolean({ preset: true }),
  /** The job that made it. */
  jobId: uuid({ orNull: true }),
  /** SHA-256 of all it records, once it is sealed. */
  digest: bytes({ orNull: true }),
  sealId: integer({ orNull: true }),
});

/** What a change did to each photo: an aspect before and after. */
export const LEDGER_PHOTO = table('ledger_photo', {
  entryId: integer({ key: true, of: 'ledger_entry' }),
  photoId: integer({ key: true, of: 'photo' }),
  /** See the ledger.ts of each subject. */
  aspect: text({ key: true }),
  /** Of which term, person … 0: the aspect has just one. */
  key: integer({ key: true }),
  before: json(),
  after: json(),
});

/** What a change did to other rows: the whole row before and after, null where it was not. */
export const LEDGER_OBJECT = table('ledger_object', {
  entryId: integer({ key: true, of: 'ledger_entry' }),
  /** Name of the table. */
  kind: text({ key: true }),
  objectId: integer({ key: true }),
  before: json({ orNull: true }),
  after: json({ orNull: true }),
});

/** What was recorded of photos that are gone for good. */
export const LEDGER_PHOTO_GONE = table('ledger_photo_gone', {
  entryId: integer({ key: true }),
  photoId: integer({ key: true }),
  aspect: text({ key: true }),
  key: integer({ key: true }),
  before: json(),
  after: json(),
});

/** Who came, looked, searched by face, and was refused. */
export const ACCESS_ENTRY = table('access_entry', {
  id: bigint({ key: true, preset: true }),
  at: moment({ preset: true }),
  accountId: integer({ orNull: true, of: 'account' }),
  /** See contract/access. */
  kind: text(),
  photoId: integer({ orNull: true }),
  about: text({ preset: true }),
  address: text({ preset: true }),
  digest: bytes({ orNull: true }),
  sealId: integer({ orNull: true }),
});

/** The chain of hashes over what the ledger holds, see server/ledger/sealing. */
export const LEDGER_SEAL = table('ledger_seal', {
  id: integer({ key: true, preset: true }),
  /** changes or access. */
  book: text(),
  at: moment({ preset: true }),
  entries: integer(),
  digest: bytes(),
  previous: bytes(),
  chain: bytes(),
});
