// What the tabs of the drawer read.

import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { accessRoutes } from '@stellin/contract/access';
import { ledgerRoutes } from '@stellin/contract/ledger';
import type { TermName } from '@stellin/contract/termName';
import type { Selection } from '@stellin/contract/photos';
import { vocabularyRoutes } from '@stellin/contract/vocabulary';
import { writeBackRoutes } from '@stellin/contract/writeback';
import { call } from '../foundation/api';
import { useMayCall } from '../foundation/session';

/** What was written into a photo's files. */
export function useVersions(photoId: number | undefined) {
  return useQuery({
    queryKey: ['photos', 'writes', photoId],
    queryFn: async () => (await call(writeBackRoutes.listVersions, { params: { id: photoId ?? 0 } })).versions,
    enabled: photoId !== undefined,
    placeholderData: keepPreviousData,
  });
}

/** Term pads that one may use. */
export function usePads() {
  return useQuery({
    queryKey: ['vocabulary', 'pads'],
    queryFn: async () => (await call(vocabularyRoutes.listPads, {})).pads,
  });
}

/** The terms that one gave last. */
export function useRecentTerms() {
  return useQuery({
    queryKey: ['vocabulary', 'recent'],
    queryFn: async () => (await call(vocabularyRoutes.recentTerms, {})).terms,
  });
}

/** Terms that photos like the chosen ones usually have. */
export function useSuggestedTerms(selection: Selection | null) {
  return useQuery({
    queryKey: ['vocabulary', 'suggestions', selection],
    queryFn: async () =>
      (await call(vocabularyRoutes.suggestTerms, { body: { selection: selection ?? { query: null } } })).terms,
    enabled: useMayCall(vocabularyRoutes.suggestTerms) && selection !== null,
    placeholderData: keepPreviousData,
  });
}

/** Who has looked at a photo large, for those who administer. */
export function useLooks(photoId: number | undefined) {
  return useQuery({
    queryKey: ['ledger', 'access', 'photo', photoId],
    queryFn: async () => (await call(accessRoutes.listAccess, { query: { photoId, limit: 50 } })).entries,
    enabled: useMayCall(accessRoutes.listAccess) && photoId !== undefined,
    placeholderData: keepPreviousData,
  });
}

export function useHistory(photoId: number | undefined) {
  return useQuery({
    queryKey: ['ledger', 'photo', photoId],
    queryFn: async () => (await call(ledgerRoutes.listEntries, { query: { photoId } })).entries,
    enabled: photoId !== undefined,
    placeholderData: keepPreviousData,
  });
}

/** What the chosen photos have in common, as the tab of terms shows it. */
export interface Described {
  count: number;
  terms: (TermName & { photos: number })[];
  within: { termId: number; photos: number }[];
  keywords: { keyword: string; photos: number }[];
}
