// What the Desk shows stands in the address: query and order. So any result can be linked, and back and forward work.

import { useCallback } from 'react';
import { useSearchParams } from 'react-router';
import { SORTS, type Sort } from '@stellin/contract/photos';
import type { Result } from './queries';

/** The order of a result that says nothing of its order. */
export const USUAL_SORT: Sort = 'taken-desc';

export const SORT_LABELS: Record<Sort, string> = {
  taken: 'Capture time ↑',
  'taken-desc': 'Capture time ↓',
  name: 'File name ↑',
  'name-desc': 'File name ↓',
  added: 'Taken in ↑',
  'added-desc': 'Taken in ↓',
  folder: 'Folder and name',
  rating: 'Rating ↑',
  'rating-desc': 'Rating ↓',
  size: 'File size ↑',
  'size-desc': 'File size ↓',
  kind: 'Kind of file',
  bundle: 'Bundles first',
  hand: 'By hand',
};

export function useResult(): Result & { show: (change: Partial<Result>) => void } {
  const [params, setParams] = useSearchParams();
  const query = params.get('q') ?? '';
  const sort = SORTS.find((candidate) => candidate === params.get('sort')) ?? USUAL_SORT;
  const show = useCallback(
    (change: Partial<Result>) => {
      const next = { query, sort, ...change };
      setParams({ ...(next.query ? { q: next.query } : {}), ...(next.sort === USUAL_SORT ? {} : { sort: next.sort }) });
    },
    [query, sort, setParams],
  );
  return { query, sort, show };
}
