// The tables of saved and recent searches, and the change feed.

import { bigint, boolean, integer, integers, moment, table, text, transactionId } from './table';

/** Saved searches. */
export const SAVED_SEARCH = table('saved_search', {
  id: integer({ key: true, preset: true }),
  name: text(),
  query: text(),
  sort: text(),
  note: text({ preset: true }),
  createdBy: integer({ orNull: true, of: 'account' }),
  /** Where it stands among saved searches, steps divided by /. */
  folder: text({ preset: true }),
  /** It stands on Holdings. */
  pinned: boolean({ preset: true }),
  /** A branch that is asked besides the query. */
  scope: text({ preset: true }),
  /** Height of the pictures it was kept with. */
  size: integer({ orNull: true }),
  /** The dossier of the project within which it is asked. */
  dossierId: integer({ orNull: true, of: 'dossier' }),
});

/** What a person asked lately. */
export const RECENT_SEARCH = table('recent_search', {
  accountId: integer({ key: true, of: 'account' }),
  query: text({ key: true }),
  sort: text(),
  at: moment({ preset: true }),
});

/** The change feed that the finder index follows. */
export const CATALOGUE_CHANGE = table('catalogue_change', {
  id: bigint({ key: true, preset: true }),
  /** The transaction; what is visible to a snapshot is known. */
  xid: transactionId({ preset: true }),
  at: moment({ preset: true }),
  /** What has changed, see server/search/changeFeed. */
  part: text(),
  /** Of photos, or folders. */
  ids: integers({ preset: true }),
  /** Of given and taken. */
  termId: integer({ orNull: true }),
  /** The entry that changed them. */
  entryId: integer({ orNull: true }),
});
