// What is read of pictures that are there more than once.

import { useInfiniteQuery, useQuery } from '@tanstack/react-query';
import { doubleRoutes, type DoubleKind } from '@stellin/contract/doubles';
import { call } from '../foundation/api';

export function useDoubles(kind: DoubleKind) {
  return useInfiniteQuery({
    queryKey: ['photos', 'doubles', kind],
    queryFn: ({ pageParam }) =>
      call(doubleRoutes.listDoubles, { query: { kind, ...(pageParam === null ? {} : { after: pageParam }) } }),
    initialPageParam: null as number | null,
    getNextPageParam: ({ next }) => next,
  });
}

export function useDoubleCount() {
  return useQuery({ queryKey: ['photos', 'doubles', 'count'], queryFn: () => call(doubleRoutes.countDoubles, {}) });
}
