// The ledger: who did what, newest first; what an entry changed, before and after.

import { keepPreviousData, useInfiniteQuery, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { ledgerRoutes, type LedgerEntry } from '@stellin/contract/ledger';
import { numberText } from '@stellin/contract/wording';
import { call } from '../api';
import { Button } from '../parts/Button';
import { Dialog } from '../parts/Dialog';
import { EntryList } from './EntryList';

const PAGE = 100;

export function LedgerScreen() {
  const [open, setOpen] = useState<LedgerEntry | null>(null);
  const { data, hasNextPage, fetchNextPage } = useInfiniteQuery({
    queryKey: ['ledger', 'all'],
    queryFn: async ({ pageParam }) =>
      (await call(ledgerRoutes.listEntries, { query: { limit: PAGE, before: pageParam } })).entries,
    initialPageParam: undefined as number | undefined,
    getNextPageParam: (page) => (page.length === PAGE ? page.at(-1)?.id : undefined),
    placeholderData: keepPreviousData,
  });
  const entries = data?.pages.flat() ?? [];
  return (
    <div className="h-full overflow-y-auto p-5">
      <h1 className="mb-3 font-title text-[19px] font-semibold">Ledger</h1>
      <div className="overflow-hidden rounded-md border border-line bg-card">
        {entries.length ? (
          <EntryList entries={entries} onOpen={setOpen} />
        ) : (
          <p className="p-4 text-ink-2">Nothing was changed yet.</p>
        )}
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

function EntryDialog({ entry, onClose }: { entry: LedgerEntry; onClose: () => void }) {
  const { data } = useQuery({
    queryKey: ['ledger', 'entry', entry.id],
    queryFn: async () => (await call(ledgerRoutes.showEntry, { params: { id: entry.id } })).photos,
  });
  return (
    <Dialog open onOpenChange={(isOpen) => !isOpen && onClose()} title={entry.title} wide>
      <table className="w-full">
        <thead className="border-b border-line text-left text-[12px] text-ink-2">
          <tr>
            <th className="py-1 font-semibold">Photo</th>
            <th className="font-semibold">What</th>
            <th className="font-semibold">Before</th>
            <th className="font-semibold">After</th>
          </tr>
        </thead>
        <tbody>
          {data?.map((row) => (
            <tr key={`${row.photoId} ${row.what}`} className="border-b border-line/60">
              <td className="py-1 pr-4 font-mono text-[12px]">{row.name}</td>
              <td className="pr-4">{row.what}</td>
              <td className="pr-4 text-ink-2">{row.before}</td>
              <td>{row.after}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {data && entry.photos > data.length && (
        <p className="mt-2 text-ink-2">The first {numberText(data.length)} are shown.</p>
      )}
    </Dialog>
  );
}
