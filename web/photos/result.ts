// What the Desk shows stands in the address: query and order. So any result can be linked, and back and forward work.

import { useCallback, useEffect, useRef } from 'react';
import { useSearchParams } from 'react-router';
import { SORTS, type Sort } from '@stellin/core/search/sorts';
import type { Result } from './queries';

/** The order of a result that says nothing of its order. */
export const USUAL_SORT: Sort = 'taken-desc';

export function useResult(): Result & { show: (change: Partial<Result>) => void } {
  const [params, setParams] = useSearchParams();
  const query = params.get('q') ?? '';
  const sort = SORTS.find((candidate) => candidate === params.get('sort')) ?? USUAL_SORT;
  /** What the address says, or will say in a moment. */
  const asked = useRef('');
  useEffect(() => {
    asked.current = addressOf({ query, sort });
  }, [query, sort]);
  const show = useCallback(
    (change: Partial<Result>) => {
      const address = addressOf({ query, sort, ...change });
      // Enter and leaving a field may ask twice before the screen follows: going back would then seem to do nothing.
      if (address === asked.current) return;
      asked.current = address;
      setParams(address);
    },
    [query, sort, setParams],
  );
  return { query, sort, show };
}

/** The address of the Desk with a result. */
export function resultLink({ query = '', sort = USUAL_SORT }: Partial<Result>): string {
  const address = addressOf({ query, sort });
  return address === '' ? '/desk' : `/desk?${address}`;
}

function addressOf({ query, sort }: Result): string {
  return String(new URLSearchParams({ ...(query && { q: query }), ...(sort !== USUAL_SORT && { sort }) }));
}
