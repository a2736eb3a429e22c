// The tables of tables that come in.

import { integer, json, moment, table, text } from './table';

/** A table as somebody brought it in. */
export const INCOMING_TABLE = table('incoming_table', {
  id: integer({ key: true, preset: true }),
  name: text(),
  /** The name of the file of its content in the data folder. */
  file: text(),
  accountId: integer({ of: 'account' }),
  at: moment({ preset: true }),
  format: text(),
  encoding: text(),
  separator: text(),
  headers: json(),
  rows: integer(),
  /** See incomingSettings in contract/incomingTables. */
  settings: json(),
  /** The change that took it in. */
  entryId: integer({ orNull: true, of: 'ledger_entry' }),
});

export const INCOMING_ROW = table('incoming_row', {
  tableId: integer({ key: true, of: 'incoming_table' }),
  position: integer({ key: true }),
  /** Texts, one for each header. */
  cells: json(),
  /** How many photos it may be about; null: not looked for yet. */
  photos: integer({ orNull: true }),
  photoId: integer({ orNull: true, of: 'photo' }),
  problem: text({ orNull: true }),
});
