// One's own latest changes by name: each can be looked at and taken back, whatever came after it.

import { useQuery } from '@tanstack/react-query';
import { DropdownMenu } from 'radix-ui';
import { use, useState } from 'react';
import { ledgerRoutes, type LedgerEntry } from '@stellin/contract/ledger';
import { call } from '../foundation/api';
import { PersonContext } from '../foundation/session';
import { dateTimeText } from '../parts/dateTimeText';
import { EntryDialog } from './EntryDialog';

const SHOWN = 15;
/** With those that took others back, which are not listed. */
const READ = 60;

export function OwnChanges({ className }: { className: string }) {
  const person = use(PersonContext);
  const [open, setOpen] = useState(false);
  const [entry, setEntry] = useState<LedgerEntry | null>(null);
  const { data = [] } = useQuery({
    queryKey: ['ledger', 'own', person?.id],
    queryFn: async () =>
      (await call(ledgerRoutes.listEntries, { query: { accountId: person?.id ?? 0, limit: READ } })).entries,
    enabled: open && person !== null,
  });
  const shown = data.filter(({ state }) => state === 'done' || state === 'undone').slice(0, SHOWN);
  return (
    <>
      <DropdownMenu.Root open={open} onOpenChange={setOpen}>
        <DropdownMenu.Trigger className={className}>Your changes</DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content
            align="end"
            side="top"
            sideOffset={4}
            className="z-50 max-h-[60vh] w-[min(520px,92vw)] overflow-y-auto rounded-md border border-line bg-card p-1 text-[13px] text-ink shadow-lg"
          >
            {shown.length === 0 && <p className="px-2.5 py-1 text-ink-2">You have changed nothing yet.</p>}
            {shown.map((one) => (
              <DropdownMenu.Item
                key={one.id}
                onSelect={() => setEntry(one)}
                className="flex cursor-pointer items-baseline gap-3 rounded px-2.5 py-1 outline-none data-[highlighted]:bg-spruce-pale"
              >
                <span className={`min-w-0 truncate ${one.state === 'undone' ? 'text-ink-3 line-through' : ''}`}>
                  {one.title}
                </span>
                <span className="figures ml-auto text-[12px] whitespace-nowrap text-ink-2">
                  {one.state === 'undone' ? 'taken back' : dateTimeText(one.at)}
                </span>
              </DropdownMenu.Item>
            ))}
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      {entry && <EntryDialog key={entry.id} entry={entry} onClose={() => setEntry(null)} />}
    </>
  );
}
