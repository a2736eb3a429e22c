// The ledger: who did what, newest first; for who administers also who came and looked.

import { Tabs } from 'radix-ui';
import { useState } from 'react';
import type { LedgerEntry } from '@stellin/contract/ledger';
import { accessRoutes } from '@stellin/contract/access';
import { useMayCall } from '../foundation/session';
import { Button } from '../parts/Button';
import { Menu, MenuItem } from '../parts/Menu';
import { Queried } from '../parts/Queried';
import { AccessList } from './AccessList';
import { AccessPolicyDialog } from './AccessPolicyDialog';
import { EntryDialog } from './EntryDialog';
import { EntryList } from './EntryList';
import { Filters, NOTHING_ASKED, type Asked } from './Filters';
import { exportAddress, useAccess, useChanges } from './queries';

const TAB =
  'border-b-3 border-transparent px-3 py-1.5 text-ink-2 hover:text-ink data-[state=active]:border-spruce data-[state=active]:font-semibold data-[state=active]:text-ink';

export function LedgerScreen() {
  const administers = useMayCall(accessRoutes.listAccess);
  const [book, setBook] = useState<'changes' | 'access'>('changes');
  const [asked, setAsked] = useState<Asked>(NOTHING_ASKED);
  const [policy, setPolicy] = useState(false);
  return (
    <Tabs.Root
      value={book}
      onValueChange={(value) => setBook(value === 'access' ? 'access' : 'changes')}
      className="h-full overflow-y-auto p-5"
    >
      <div className="mb-3 flex items-center gap-6">
        <h1 className="font-title text-[19px] font-semibold">Ledger</h1>
        {administers && (
          <>
            <Tabs.List aria-label="Parts of the ledger" className="flex gap-1">
              <Tabs.Trigger value="changes" className={TAB}>
                Changes
              </Tabs.Trigger>
              <Tabs.Trigger value="access" className={TAB}>
                Access
              </Tabs.Trigger>
            </Tabs.List>
            <Menu label="What can be done with the ledger" className="ml-auto">
              <MenuItem
                label="Take what is shown along, as a table (CSV)"
                onSelect={() => window.location.assign(exportAddress(book, 'csv', asked))}
              />
              <MenuItem
                label="Take it along for programs (JSON)"
                onSelect={() => window.location.assign(exportAddress(book, 'json', asked))}
              />
              <MenuItem label="What of access is recorded …" onSelect={() => setPolicy(true)} />
            </Menu>
          </>
        )}
      </div>
      <Filters book={book} asked={asked} onAsk={setAsked} />
      <Tabs.Content value="changes">
        <Changes asked={asked} />
      </Tabs.Content>
      <Tabs.Content value="access">
        <Access asked={asked} />
      </Tabs.Content>
      {policy && <AccessPolicyDialog onClose={() => setPolicy(false)} />}
    </Tabs.Root>
  );
}

const CARD = 'overflow-hidden rounded-md border border-line bg-card';

function Changes({ asked }: { asked: Asked }) {
  const [open, setOpen] = useState<LedgerEntry | null>(null);
  const query = useChanges(asked);
  const isAsking = asked !== NOTHING_ASKED;
  return (
    <>
      <div className={CARD}>
        <Queried query={query}>
          {({ pages }) =>
            pages.flat().length > 0 ? (
              <EntryList entries={pages.flat()} onOpen={setOpen} />
            ) : (
              <p className="p-4 text-ink-2">{isAsking ? 'No entry is like that.' : 'Nothing was changed yet.'}</p>
            )
          }
        </Queried>
      </div>
      <Earlier query={query} />
      {open && <EntryDialog entry={open} onClose={() => setOpen(null)} />}
    </>
  );
}

function Access({ asked }: { asked: Asked }) {
  const query = useAccess(asked);
  return (
    <>
      <div className={CARD}>
        <Queried query={query}>{({ pages }) => <AccessList entries={pages.flat()} />}</Queried>
      </div>
      <Earlier query={query} />
    </>
  );
}

function Earlier({ query }: { query: { hasNextPage: boolean; fetchNextPage: () => Promise<unknown> } }) {
  if (!query.hasNextPage) return null;
  return (
    <Button className="mt-3" onClick={() => void query.fetchNextPage()}>
      Show earlier
    </Button>
  );
}
