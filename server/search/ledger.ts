// How saved searches stand in the ledger.

import { SORT_ORDERS } from '@stellin/core/search/sorts';
import { shownValue, type ObjectKind } from '../ledger/kinds';

const LABELS: ReadonlyMap<string, string> = new Map(
  Object.entries(SORT_ORDERS).map(([sort, { label }]) => [sort, label]),
);
const shownSort = (value: unknown) => LABELS.get(String(value)) ?? shownValue(value);

export const searchObjects = {
  saved_search: {
    label: 'Saved search',
    named: 'name',
    columns: {
      name: { label: 'Name' },
      query: { label: 'Query' },
      sort: { label: 'Order', show: shownSort },
      note: { label: 'Note' },
      folder: { label: 'Folder' },
      pinned: { label: 'Pinned' },
      scope: { label: 'Asked within' },
      size: { label: 'Size on the sheet' },
      dossier_id: { label: 'Of the project', refersTo: 'dossier' },
      created_by: { label: 'Made by', refersTo: 'account' },
    },
  },
} as const satisfies Record<string, ObjectKind>;
