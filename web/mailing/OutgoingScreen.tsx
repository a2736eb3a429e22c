// Outgoing mail: which letters left, what became of each, what the stand-in was given, and the address book.

import { Link } from 'react-router';
import { mailboxText } from '@stellin/core/mailing/addresses';
import { LETTER_STATES, type LetterState } from '@stellin/core/mailing/letters';
import type { Letter, LetterRecipient, MailWay } from '@stellin/contract/mailing';
import { countText, numberText } from '@stellin/contract/wording';
import { Button } from '../parts/Button';
import { DataTable, type Column } from '../parts/DataTable';
import { dateTimeText } from '../parts/dateTimeText';
import { Queried } from '../parts/Queried';
import { AddressBook } from './AddressBook';
import { useLetters, useMailStep } from './queries';
import { StandInBox } from './StandInBox';

export function OutgoingScreen() {
  const letters = useLetters();
  return (
    <div className="h-full overflow-y-auto px-5 py-4">
      <Queried query={letters}>
        {({ letters: all, way }) => (
          <>
            <Letters letters={all} way={way} />
            {way.server === null && <StandInBox />}
            <AddressBook />
          </>
        )}
      </Queried>
    </div>
  );
}

interface Row extends LetterRecipient {
  letter: Letter;
}

const STATE_LOOKS: Record<LetterState, string> = {
  waiting: 'text-amber',
  sending: 'text-amber',
  sent: 'text-spruce',
  refused: 'text-red',
  failed: 'text-red',
  stopped: 'text-ink-2',
};
/** Those that may be tried again, and those that may be stopped. */
const RETRIED: ReadonlySet<LetterState> = new Set(['waiting', 'refused', 'failed', 'stopped']);
const STOPPED: ReadonlySet<LetterState> = new Set(['waiting', 'failed']);

const COLUMNS: readonly Column<Row>[] = [
  {
    id: 'to',
    title: 'To',
    cell: (row) => mailboxText(row),
    sortBy: (row) => mailboxText(row).toLowerCase(),
    headsRow: true,
  },
  {
    id: 'what',
    title: 'What',
    cell: ({ letter: { title, kind } }) => `${kind === 'link' ? 'View link' : 'Delivery'}: ${title}`,
    sortBy: ({ letter: { title } }) => title.toLowerCase(),
  },
  { id: 'by', title: 'From', cell: ({ letter: { by } }) => by, sortBy: ({ letter: { by } }) => by },
  {
    id: 'at',
    title: 'Written',
    cell: ({ letter: { at } }) => dateTimeText(at),
    sortBy: ({ letter: { at } }) => at,
  },
  {
    id: 'state',
    title: 'What became of it',
    cell: ({ state, sentAt, nextAt, problem }) => (
      <>
        <span className={STATE_LOOKS[state]}>
          {LETTER_STATES[state]}
          {sentAt !== null && ` ${dateTimeText(sentAt)}`}
          {nextAt !== null && `, again ${dateTimeText(nextAt)}`}
        </span>
        {problem !== null && state !== 'sent' && (
          <span className="block text-[12px] text-ink-2">The server said: {problem}</span>
        )}
      </>
    ),
    sortBy: ({ state }) => state,
  },
  {
    id: 'actions',
    title: <span className="sr-only">What to do</span>,
    cell: (row) => <Steps row={row} />,
  },
];

function Steps({ row: { id, state, address, letter } }: { row: Row }) {
  const retry = useMailStep('retry');
  const stop = useMailStep('stop');
  return (
    <span className="flex justify-end gap-1">
      {RETRIED.has(state) && letter.mayRetry && (
        <Button look="quiet" aria-label={`Try again to send to ${address}`} onClick={() => retry.mutate([id])}>
          Try again
        </Button>
      )}
      {STOPPED.has(state) && (
        <Button look="quiet" aria-label={`Do not send to ${address}`} onClick={() => stop.mutate([id])}>
          Do not send
        </Button>
      )}
    </span>
  );
}

function Letters({ letters, way }: { letters: readonly Letter[]; way: MailWay }) {
  const rows = letters.flatMap((letter) => letter.recipients.map((each): Row => ({ ...each, letter })));
  const open = rows.filter(({ state }) => state !== 'sent' && state !== 'stopped').length;
  return (
    <>
      <div className="mb-1 flex items-baseline gap-3">
        <h1 className="font-title text-[19px] font-semibold">Outgoing mail</h1>
        <span className="figures text-ink-2">
          {countText(rows.length, 'letter')}
          {open > 0 && `, ${numberText(open)} not there yet`}
        </span>
        <Link className="text-slate underline" to="/deliver">
          Deliver
        </Link>
        <Link className="text-slate underline" to="/deliver/links">
          View links
        </Link>
      </div>
      <p className="mb-3 max-w-[90ch] text-ink-2">
        {way.server === null
          ? 'No mail server is settled (STELLIN_MAIL_SERVER): letters go to a stand-in on this machine, where they can be read below, and nowhere else.'
          : `Letters leave over ${way.server}, from ${way.from}. What comes back later goes to that mailbox.`}
      </p>
      <DataTable
        label="Outgoing mail"
        rows={rows}
        keyOf={({ id }) => id}
        columns={COLUMNS}
        rowClass={({ state }) => (state === 'stopped' ? 'text-ink-2' : '')}
        empty={
          <p className="max-w-[70ch] text-ink-2">
            Nothing was sent by mail yet. A view link can be sent as soon as it is made, and a delivery that is
            downloaded from its report.
          </p>
        }
      />
    </>
  );
}
