// What is read of the holdings.

import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { holdingRoutes } from '@stellin/contract/holdings';
import { call } from '../foundation/api';

/** The figures of what a query finds. */
export function useFigures(query: string) {
  return useQuery({
    queryKey: ['photos', 'figures', query],
    queryFn: () => call(holdingRoutes.showFigures, { query: { query } }),
    placeholderData: keepPreviousData,
  });
}

/** What has changed since one was here before: asked once as long as the page stands. */
export function useSinceLast() {
  return useQuery({
    queryKey: ['accounts', 'visit'],
    queryFn: () => call(holdingRoutes.noteVisit, {}),
    staleTime: Infinity,
  });
}

/** What was described since a day. */
export function useWork(since: string, isWanted: boolean) {
  return useQuery({
    queryKey: ['ledger', 'work', since],
    queryFn: async () => (await call(holdingRoutes.showWork, { query: { since } })).weeks,
    enabled: isWanted,
  });
}
