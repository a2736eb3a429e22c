// View links that were made: for whom, how often they were viewed, and ending them.

import { format, parseISO, subSeconds } from 'date-fns';
import { useState } from 'react';
import { Link } from 'react-router';
import { LINK_STATES } from '@stellin/core/sharing/links';
import type { ViewLink } from '@stellin/contract/sharing';
import { countText, numberText } from '@stellin/contract/wording';
import { Button } from '../parts/Button';
import { DataTable, type Column } from '../parts/DataTable';
import { dateTimeText, dayText } from '../parts/dateTimeText';
import { Dialog } from '../parts/Dialog';
import { Queried } from '../parts/Queried';
import { Answers } from './Answers';
import { NewAddress } from './NewAddress';
import { useLinks, useRenewLink, useRevokeLinks } from './queries';

export function LinksScreen() {
  const links = useLinks();
  return (
    <div className="h-full overflow-y-auto px-5 py-4">
      <Queried query={links}>{(all) => <Links links={all} />}</Queried>
    </div>
  );
}

function Links({ links }: { links: readonly ViewLink[] }) {
  const revoke = useRevokeLinks();
  const renew = useRenewLink();
  const [renewed, setRenewed] = useState<{ id: number; address: string; title: string } | null>(null);
  const open = links.filter(({ state }) => state === 'open');
  const columns: Column<ViewLink>[] = [
    {
      id: 'title',
      title: 'Title',
      cell: ({ title }) => title,
      sortBy: ({ title }) => title.toLowerCase(),
      headsRow: true,
    },
    { id: 'shows', title: 'Shows', cell: showsText },
    { id: 'for', title: 'For whom', cell: ({ forWhom }) => forWhom, sortBy: ({ forWhom }) => forWhom.toLowerCase() },
    { id: 'by', title: 'Made by', cell: ({ by }) => by, sortBy: ({ by }) => by },
    { id: 'at', title: 'Made', cell: ({ madeAt }) => dateTimeText(madeAt), sortBy: ({ madeAt }) => madeAt },
    {
      id: 'views',
      title: 'Viewed',
      cell: ({ views, mostViews }) => `${numberText(views)}${mostViews === null ? '' : ` of ${numberText(mostViews)}`}`,
      sortBy: ({ views }) => views,
      isNumber: true,
    },
    {
      id: 'last',
      title: 'Last',
      cell: ({ viewedAt }) => (viewedAt === null ? '–' : dateTimeText(viewedAt)),
      sortBy: ({ viewedAt }) => viewedAt ?? '',
    },
    {
      id: 'ends',
      title: 'Until',
      cell: ({ endsAt }) => (endsAt === null ? '–' : lastDayText(endsAt)),
      sortBy: ({ endsAt }) => endsAt,
    },
    {
      id: 'state',
      title: 'State',
      cell: ({ state, hasPassword }) => (
        <span className={state === 'open' ? 'text-spruce' : 'text-ink-2'}>
          {LINK_STATES[state]}
          {state === 'open' && hasPassword && ', with a password'}
        </span>
      ),
    },
    {
      id: 'actions',
      title: <span className="sr-only">What to do</span>,
      cell: ({ id, title, state }) =>
        state !== 'revoked' && (
          <span className="flex justify-end gap-1">
            <Button
              look="quiet"
              aria-label={`New address for ${title}`}
              onClick={() => renew.mutate(id, { onSuccess: (link) => setRenewed({ ...link, title }) })}
            >
              New address
            </Button>
            <Button look="quiet" aria-label={`Revoke ${title}`} onClick={() => revoke.mutate([id])}>
              Revoke
            </Button>
          </span>
        ),
    },
  ];
  return (
    <>
      <Answers />
      <div className="mb-3 flex items-baseline gap-3">
        <h1 className="font-title text-[19px] font-semibold">View links</h1>
        <span className="figures text-ink-2">{countText(open.length, 'open link')}</span>
        <Link className="text-slate underline" to="/deliver">
          Deliver
        </Link>
        <Link className="text-slate underline" to="/deliver/mail">
          Outgoing mail
        </Link>
        {open.length > 1 && (
          <Button className="ml-auto" onClick={() => revoke.mutate(open.map(({ id }) => id))}>
            Revoke all
          </Button>
        )}
      </div>
      <DataTable
        label="View links"
        rows={links}
        keyOf={({ id }) => id}
        columns={columns}
        rowClass={({ state }) => (state === 'open' ? '' : 'text-ink-2')}
        empty={
          <p className="max-w-[70ch] text-ink-2">
            A view link shows pictures to people who have no account. Choose photos on the Desk, <i>Deliver …</i>, and
            then <i>View link …</i>.
          </p>
        }
      />
      {renewed !== null && (
        <Dialog open onOpenChange={(isOpen) => !isOpen && setRenewed(null)} title="The new address">
          <NewAddress link={renewed} title={renewed.title} onClose={() => setRenewed(null)} />
        </Dialog>
      )}
    </>
  );
}

function showsText({ follows, photos }: ViewLink): string {
  if (follows === null) return countText(photos ?? 0, 'picture');
  return follows === '' ? 'follows the whole catalogue' : `follows ${follows}`;
}

/** A link ends as the day after its last begins. */
function lastDayText(endsAt: string): string {
  return dayText(format(subSeconds(parseISO(endsAt), 1), 'yyyy-MM-dd'));
}
