// The orders a result can be shown in: what each is called, how the index has it, and by what photos stand in groups there.

import type { Order } from './index/finder';

/** What the photos of a group have in common, in orders that begin with it. */
export const GROUPINGS = ['day', 'folder', 'kind', 'rating', 'bundle'] as const;
export type GroupBy = (typeof GROUPINGS)[number];

interface SortOrder {
  label: string;
  order: Order;
  groupBy?: GroupBy;
}

const by = (id: Order['id'], descending = false): Order => ({ id, descending });

/** In the order in which they are offered. */
export const SORT_ORDERS = {
  taken: { label: 'Capture time ↑', order: by('taken'), groupBy: 'day' },
  'taken-desc': { label: 'Capture time ↓', order: by('taken', true), groupBy: 'day' },
  name: { label: 'File name ↑', order: by('name') },
  'name-desc': { label: 'File name ↓', order: by('name', true) },
  folder: { label: 'Folder and name', order: by('folder'), groupBy: 'folder' },
  added: { label: 'Taken in ↑', order: by('added') },
  'added-desc': { label: 'Taken in ↓', order: by('added', true) },
  rating: { label: 'Rating ↑', order: by('rating'), groupBy: 'rating' },
  // Not the other way round: photos of one rating stand by their time all the same.
  'rating-desc': { label: 'Rating ↓', order: by('rating-desc'), groupBy: 'rating' },
  size: { label: 'File size ↑', order: by('size') },
  'size-desc': { label: 'File size ↓', order: by('size', true) },
  kind: { label: 'Kind of file', order: by('kind'), groupBy: 'kind' },
  bundle: { label: 'Bundles first', order: by('bundle'), groupBy: 'bundle' },
  hand: { label: 'By hand', order: by('hand') },
  likeness: { label: 'Likest first', order: by('hand') },
} as const satisfies Record<string, SortOrder>;

export type Sort = keyof typeof SORT_ORDERS;
export const SORTS = Object.keys(SORT_ORDERS) as [Sort, ...Sort[]];

/** How an order is described. */
export function sortOrder(sort: Sort): SortOrder {
  return SORT_ORDERS[sort];
}
