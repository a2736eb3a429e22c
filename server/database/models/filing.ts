// The tables of files on their way.

import { bigint, boolean, integer, table, text, uuid } from './table';

/** What a job that moves, copies or renames files has to do, a row a file. */
export const FILING_STEP = table('filing_step', {
  id: bigint({ key: true, preset: true }),
  entryId: integer({ of: 'ledger_entry' }),
  photoId: integer({ of: 'photo' }),
  /** A copy is made, not a move. */
  copies: boolean(),
  driveId: uuid({ of: 'drive' }),
  folder: text(),
  name: text(),
  /** Set where it goes to the trash. */
  trashedFrom: text({ orNull: true }),
  /** It may be half done. */
  started: boolean({ preset: true }),
  /** It goes into the trash or comes out of it. */
  aside: boolean({ preset: true }),
});
