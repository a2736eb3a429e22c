// What the Desk shows stands in the address: query and order. So any result can be linked, and back and forward work.

import { useCallback } from 'react';
import { useSearchParams } from 'react-router';
import { SORTS, type Sort } from '@stellin/core/search/sorts';
import type { Result } from './queries';

/** The order of a result that says nothing of its order. */
export const USUAL_SORT: Sort = 'taken-desc';

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
