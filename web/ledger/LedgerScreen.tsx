// The ledger: who did what, newest first.

import { keepPreviousData, useInfiniteQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { ledgerRoutes, type LedgerEntry } from '@stellin/contract/ledger';
import { call } from '../foundation/api';
import { Button } from '../parts/Button';
import { Queried } from '../parts/Queried';
import { EntryDialog } from './EntryDialog';
import { EntryList } from './EntryList';

const PAGE = 100;

export function LedgerScreen() {
  const [open, setOpen] = useState<LedgerEntry | null>(null);
  const query = useInfiniteQuery({
    queryKey: ['ledger', 'all'],
    queryFn: async ({ pageParam }) =>
      (await call(ledgerRoutes.listEntries, { query: { limit: PAGE, before: pageParam } })).entries,
    initialPageParam: undefined as number | undefined,
    getNextPageParam: (page) => (page.length === PAGE ? page.at(-1)?.id : undefined),
    placeholderData: keepPreviousData,
  });
  const { hasNextPage, fetchNextPage } = query;
  return (
    <div className="h-full overflow-y-auto p-5">
      <h1 className="mb-3 font-title text-[19px] font-semibold">Ledger</h1>
      <div className="overflow-hidden rounded-md border border-line bg-card">
        <Queried query={query}>
          {({ pages }) =>
            pages.flat().length > 0 ? (
              <EntryList entries={pages.flat()} onOpen={setOpen} />
            ) : (
              <p className="p-4 text-ink-2">Nothing was changed yet.</p>
            )
          }
        </Queried>
      </div>
      {hasNextPage && (
        <Button className="mt-3" onClick={() => void fetchNextPage()}>
          Show earlier
        </Button>
      )}
      {open && <EntryDialog entry={open} onClose={() => setOpen(null)} />}
    </div>
  );
}
