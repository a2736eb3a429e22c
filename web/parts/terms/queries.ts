// What screens read of the vocabularies; made stale with the topic of the same name.

import { keepPreviousData, queryOptions, useQuery, useQueryClient } from '@tanstack/react-query';
import { vocabularyRoutes } from '@stellin/contract/vocabulary';
import { call } from '../../foundation/api';

function columnOptions(parentId: number | null) {
  return queryOptions({
    queryKey: ['vocabulary', 'column', parentId],
    queryFn: async () =>
      (await call(vocabularyRoutes.listColumn, { query: parentId === null ? {} : { parentId } })).terms,
  });
}

export function useColumn(parentId: number | null) {
  return useQuery({ ...columnOptions(parentId), placeholderData: keepPreviousData });
}

/** Terms by what is typed; nothing for an empty text. */
export function useFoundTerms(text: string, assignable: boolean, limit: number) {
  const typed = text.trim();
  return useQuery({
    queryKey: ['vocabulary', 'find', typed, assignable, limit],
    queryFn: async () =>
      (await call(vocabularyRoutes.findTerms, { query: { text: typed, assignable: assignable ? 'yes' : 'no', limit } }))
        .terms,
    enabled: typed !== '',
    placeholderData: keepPreviousData,
  });
}

export function useVocabularies() {
  return useQuery({ queryKey: ['vocabulary', 'overview'], queryFn: () => call(vocabularyRoutes.listVocabularies, {}) });
}

function pathOptions(termId: number) {
  return queryOptions({
    queryKey: ['vocabulary', 'path', termId],
    queryFn: async () => {
      const { path } = await call(vocabularyRoutes.showTerm, { params: { id: termId } });
      return [...path.map(({ id }) => id), termId];
    },
  });
}

/** Asks for the ids from the top down to a term, for opening its columns. */
export function useTermPath(): (termId: number) => Promise<number[]> {
  const client = useQueryClient();
  return (termId) => client.fetchQuery({ ...pathOptions(termId), staleTime: 0 });
}

/** The ids from the top down to a term, as long as there is one. */
export function useTermPathOf(termId: number | undefined) {
  return useQuery({ ...pathOptions(termId ?? 0), enabled: termId !== undefined, placeholderData: keepPreviousData });
}
