// How pairs of pictures that were told apart stand in the ledger.

import type { ObjectKind } from '../ledger/kinds';

export const doubleObjects = {
  told_apart: {
    label: 'Different pictures',
    named: null,
    columns: { photo_id: { label: 'One', refersTo: 'photo' }, other_id: { label: 'The other', refersTo: 'photo' } },
  },
} as const satisfies Record<string, ObjectKind>;
