// What is read of the ledger.

import { keepPreviousData, useInfiniteQuery, useQuery } from '@tanstack/react-query';
import { accessRoutes, type AccessPolicy } from '@stellin/contract/access';
import { LEDGER_EXPORT_PATH, ledgerRoutes } from '@stellin/contract/ledger';
import { call } from '../foundation/api';
import { useAction } from '../foundation/changes';
import type { Asked } from './Filters';

const ENTRIES_PER_PAGE = 100;

/** What is asked without what is empty. */
function given(asked: Asked, names: readonly (keyof Asked)[]): Record<string, string> {
  return Object.fromEntries(
    names.flatMap((name) => (asked[name] === '' || asked[name] === 0 ? [] : [[name, String(asked[name])]])),
  );
}
const OF_CHANGES = ['accountId', 'from', 'to', 'containing', 'work', 'driveId', 'dossierId'] as const;
const OF_ACCESS = ['accountId', 'from', 'to', 'kind'] as const;

/** What was changed, the newest first, page by page. */
export function useChanges(asked: Asked) {
  const filter = given(asked, OF_CHANGES);
  return useNewestFirst(
    ['all', filter],
    async (page) => (await call(ledgerRoutes.listEntries, { query: { ...filter, ...page } })).entries,
  );
}

/** Who came and looked, the newest first, page by page. */
export function useAccess(asked: Asked) {
  const filter = given(asked, OF_ACCESS);
  return useNewestFirst(
    ['access', 'all', filter],
    async (page) => (await call(accessRoutes.listAccess, { query: { ...filter, ...page } })).entries,
  );
}

/** Entries of the ledger a page at a time, each page older than the one before. */
function useNewestFirst<Entry extends { id: number }>(
  key: readonly unknown[],
  read: (page: { limit: number; before: number | undefined }) => Promise<Entry[]>,
) {
  return useInfiniteQuery({
    queryKey: ['ledger', ...key],
    queryFn: ({ pageParam }) => read({ limit: ENTRIES_PER_PAGE, before: pageParam }),
    initialPageParam: undefined as number | undefined,
    getNextPageParam: (page) => (page.length === ENTRIES_PER_PAGE ? page.at(-1)?.id : undefined),
    placeholderData: keepPreviousData,
  });
}

/** The address of all that is asked for, as a file. */
export function exportAddress(book: 'changes' | 'access', format: 'csv' | 'json', asked: Asked): string {
  const filter = given(asked, book === 'changes' ? OF_CHANGES : OF_ACCESS);
  return `${LEDGER_EXPORT_PATH}?${new URLSearchParams({ book, format, ...filter }).toString()}`;
}

export function useAccessPolicy() {
  return useQuery({ queryKey: ['ledger', 'access', 'policy'], queryFn: () => call(accessRoutes.showAccessPolicy, {}) });
}

export const useSetAccessPolicy = () =>
  useAction((body: AccessPolicy) => call(accessRoutes.setAccessPolicy, { body }), ['ledger']);
