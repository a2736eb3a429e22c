// What the screens of finding read. Counts depend on photos: any change of theirs makes them stale, too.

import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { customName } from '@stellin/core/describing/targets';
import type { FacetId } from '@stellin/core/search/facets';
import type { Sort } from '@stellin/core/search/sorts';
import { describingRoutes } from '@stellin/contract/describing';
import { searchRoutes } from '@stellin/contract/search';
import { call } from '../foundation/api';

export function useSearches() {
  return useQuery({
    queryKey: ['photos', 'searches'],
    queryFn: async () => (await call(searchRoutes.listSearches, {})).searches,
  });
}

export function useSuggestions(text: string, query: string) {
  return useQuery({
    queryKey: ['photos', 'suggestions', text, query],
    queryFn: async () => (await call(searchRoutes.suggest, { query: { text, query } })).suggestions,
    enabled: text.trim() !== '',
    placeholderData: keepPreviousData,
  });
}

export function useRecentSearches(wanted: boolean) {
  return useQuery({
    queryKey: ['searches', 'recent'],
    queryFn: async () => (await call(searchRoutes.recentSearches, {})).searches,
    enabled: wanted,
  });
}

/** Keeps a query among those one has asked. */
export async function rememberSearch(query: string, sort: Sort): Promise<void> {
  if (query !== '') await call(searchRoutes.rememberSearch, { body: { query, sort } });
}

interface FacetsAsked {
  facets: readonly FacetId[];
  limit?: number;
  containing?: string;
  under?: number;
}

export function useFacets(query: string, { facets, limit = 12, containing = '', under }: FacetsAsked) {
  return useQuery({
    queryKey: ['photos', 'facets', query, facets.join(), limit, containing, under],
    queryFn: async () =>
      (
        await call(searchRoutes.facets, {
          query: { query, facets: facets.map(encodeURIComponent).join(), limit, containing, under },
        })
      ).facets,
    placeholderData: keepPreviousData,
  });
}

/** The names of the fields that projects have made for themselves, in the order of the field sets. */
export function useOwnFields() {
  return useQuery({
    queryKey: ['describing'],
    queryFn: () => call(describingRoutes.showPrepared, {}),
    select: ({ fieldSets }) => [
      ...new Set(fieldSets.flatMap(({ entries }) => entries.flatMap(({ target }) => customName(target) ?? []))),
    ],
  });
}

export function useRuler(query: string, view: { from: string; to: string } | null) {
  return useQuery({
    queryKey: ['photos', 'ruler', query, view],
    queryFn: () => call(searchRoutes.ruler, { query: { query, from: view?.from, to: view?.to } }),
    placeholderData: keepPreviousData,
  });
}

/** Why a photo is found by a query, or not. */
export function useWhy(query: string, photo: number | string | undefined) {
  return useQuery({
    queryKey: ['photos', 'why', query, photo],
    queryFn: () => call(searchRoutes.why, { body: { query, photo: photo ?? 0 } }),
    enabled: photo !== undefined && photo !== '',
    retry: false,
  });
}
