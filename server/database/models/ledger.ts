// The tables of the ledger.

import { boolean, integer, json, moment, table, text, uuid } from './table';

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
