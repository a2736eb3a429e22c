// What people have pinned for themselves.

import { integer, table, text } from './table';

export const PINNED_PLACE = table('pinned_place', {
  accountId: integer({ key: true, of: 'account' }),
  position: integer({ key: true }),
  /** folder, dossier or search. */
  kind: text(),
  targetId: integer(),
});
