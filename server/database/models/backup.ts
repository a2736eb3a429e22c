// The table of backups.

import { bigint, boolean, double, moment, table, text, uuid } from './table';

/** Backups that were made or tried, and their trials. */
export const BACKUP = table('backup', {
  id: uuid({ key: true }),
  at: moment(),
  /** The file; of one that failed, where it would have stood. */
  path: text(),
  bytes: bigint({ preset: true }),
  seconds: double({ preset: true }),
  /** Made by itself. */
  nightly: boolean(),
  /** Whether previews are in it. */
  previews: boolean(),
  /** Why there is none. */
  problem: text({ orNull: true }),
  /** When it was last restored for trial, and what was wrong then. */
  checkedAt: moment({ orNull: true }),
  checkProblem: text({ orNull: true }),
});
