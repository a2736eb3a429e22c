// The tables of work lists.

import { integer, moment, table, text } from './table';

/** What is done with of which list, for everybody. */
export const WORK_DONE = table('work_done', {
  photoId: integer({ key: true, of: 'photo' }),
  list: text({ key: true }),
  accountId: integer({ orNull: true, of: 'account' }),
  doneAt: moment({ preset: true }),
});

/** What somebody has put off. */
export const WORK_LATER = table('work_later', {
  accountId: integer({ key: true, of: 'account' }),
  list: text({ key: true }),
  photoId: integer({ key: true, of: 'photo' }),
  until: moment(),
});

/** How many were on a list at the end of a day. */
export const WORK_COUNT = table('work_count', {
  list: text({ key: true }),
  /** YYYY-MM-DD. */
  day: text({ key: true }),
  photos: integer(),
});

/** Who was given which list, within a query. */
export const WORK_GIVEN = table('work_given', {
  id: integer({ key: true, preset: true }),
  list: text(),
  query: text(),
  accountId: integer({ of: 'account' }),
  note: text(),
  /** YYYY-MM-DD; empty: no day is said. */
  due: text(),
  givenBy: integer({ orNull: true, of: 'account' }),
  givenAt: moment({ preset: true }),
  /** How many were on it then. */
  photos: integer(),
  doneAt: moment({ orNull: true }),
});
