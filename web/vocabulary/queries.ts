// What the Vocabulary screen reads.

import { keepPreviousData, useQuery } from '@tanstack/react-query';
import type { FindingKind } from '@stellin/core/vocabulary/lint';
import type { ImportKind } from '@stellin/core/vocabulary/importKinds';
import type { ChangeInput } from '@stellin/contract/ledger';
import { termChange } from '@stellin/contract/termChanges';
import { vocabularyRoutes } from '@stellin/contract/vocabulary';
import { call } from '../foundation/api';
import { useMayCall } from '../foundation/session';

export function useCard(id: number | null) {
  return useQuery({
    queryKey: ['vocabulary', 'card', id],
    queryFn: () => call(vocabularyRoutes.showTerm, { params: { id: id ?? 0 } }),
    enabled: id !== null,
    placeholderData: keepPreviousData,
    retry: false,
  });
}

export function useUses(id: number) {
  return useQuery({
    queryKey: ['vocabulary', 'uses', id],
    queryFn: () => call(vocabularyRoutes.termUses, { params: { id } }),
    enabled: useMayCall(vocabularyRoutes.termUses),
    placeholderData: keepPreviousData,
    retry: false,
  });
}

export function useTermHistory(id: number) {
  return useQuery({
    queryKey: ['vocabulary', 'history', id],
    queryFn: async () => (await call(vocabularyRoutes.termHistory, { params: { id } })).entries,
    enabled: useMayCall(vocabularyRoutes.termHistory),
  });
}

/** How the vocabularies have grown, and what was given last. */
export function useGrowth() {
  return useQuery({ queryKey: ['vocabulary', 'growth'], queryFn: () => call(vocabularyRoutes.showGrowth, {}) });
}

export function useFindings(kind: FindingKind) {
  return useQuery({
    queryKey: ['vocabulary', 'findings', kind],
    queryFn: async () => (await call(vocabularyRoutes.listFindings, { query: { kind } })).findings,
    placeholderData: (before, query) => (query?.queryKey[2] === kind ? before : undefined),
  });
}

export function useProposals() {
  return useQuery({
    queryKey: ['vocabulary', 'proposals'],
    queryFn: () => call(vocabularyRoutes.listProposals, {}),
    enabled: useMayCall(vocabularyRoutes.listProposals),
  });
}

/** What a change would touch. */
export function useImpact(change: ChangeInput | null) {
  return useQuery({
    queryKey: ['vocabulary', 'impact', change],
    queryFn: () => call(vocabularyRoutes.impact, { body: { change: termChange.parse(change) } }),
    enabled: change !== null,
    retry: false,
    // What is shown before it happens is never older than the question.
    gcTime: 0,
    staleTime: 0,
  });
}

export function useComparedImport(importId: string | null, vocabularyId: number | null, kind: ImportKind | undefined) {
  return useQuery({
    queryKey: ['vocabulary', 'import', importId, vocabularyId, kind],
    queryFn: () =>
      call(vocabularyRoutes.compareImport, {
        params: { importId: importId ?? '' },
        query: { ...(vocabularyId === null ? {} : { vocabularyId }), ...(kind ? { kind } : {}) },
      }),
    enabled: importId !== null,
    placeholderData: keepPreviousData,
  });
}
