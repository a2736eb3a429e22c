// The tables of marks.

import { integer, table, text } from './table';

/** Marks that a team has defined. */
export const MARK = table('mark', {
  id: integer({ key: true, preset: true }),
  name: text(),
  nameFolded: text(),
  /** Its key on the Desk. */
  letter: text(),
  colour: text(),
});
