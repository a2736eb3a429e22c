// Outgoing mail: which letters left, what became of each, what the stand-in was given, and the address book.

import { Link } from 'react-router';
import { mailboxText } from '@stellin/core/mailing/addresses';
import { LETTER_STATES, type LetterState } from '@stellin/core/mailing/letters';
import type { Contact, KeptMessage, Letter, LetterRecipient, MailWay } from '@stellin/contract/mailing';
import { sizeText } from '@stellin/contract/sizeText';
import { countText, numberText } from '@stellin/contract/wording';
import { Button } from '../parts/Button';
import { DataTable, type Column } from '../parts/DataTable';
import { dateTimeText } from '../parts/dateTimeText';
import { Queried } from '../parts/Queried';
import { mailbox } from '@stellin/contract/mailing';
import { TextField } from '../parts/Field';
import { useFormOf } from '../parts/useFormOf';
import { useContacts, useKeepContact, useLetters, useMailBox, useMailStep } from './queries';

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

/** What the stand-in was given, as those who got it read it. */
function StandInBox() {
  const { data: messages = [] } = useMailBox(true);
  if (messages.length === 0) return null;
  return (
    <section aria-label="Stand-in mail box" className="mt-6">
      <h2 className="mb-1 font-title text-[15px] font-semibold">Stand-in mail box</h2>
      <ul className="divide-y divide-line rounded border border-line bg-card">
        {messages.map((message) => (
          <Message key={message.id} message={message} />
        ))}
      </ul>
    </section>
  );
}

function Message({ message: { at, to, from, subject, text, attachments } }: { message: KeptMessage }) {
  return (
    <li>
      <details>
        <summary className="flex cursor-pointer gap-3 px-3 py-2">
          <span className="min-w-0 flex-1 truncate font-semibold">{subject}</span>
          <span className="truncate text-ink-2">{to}</span>
          <span className="figures shrink-0 text-ink-2">{dateTimeText(at)}</span>
        </summary>
        <div className="border-t border-line bg-sheet px-4 py-3">
          <p className="mb-2 text-[12px] text-ink-2">
            From {from} to {to}
          </p>
          <p className="break-words whitespace-pre-wrap">{text}</p>
          {attachments.map(({ name, bytes }) => (
            <p key={name} className="mt-2 text-[12px] text-ink-2">
              Attached: {name}, {sizeText(bytes)}
            </p>
          ))}
        </div>
      </details>
    </li>
  );
}

const CONTACT_COLUMNS: readonly Column<Contact>[] = [
  { id: 'name', title: 'Name', cell: ({ name }) => name || '–', sortBy: ({ name }) => name.toLowerCase() },
  {
    id: 'address',
    title: 'Address',
    cell: ({ address }) => address,
    sortBy: ({ address }) => address.toLowerCase(),
    headsRow: true,
  },
  {
    id: 'actions',
    title: <span className="sr-only">What to do</span>,
    cell: (contact) => <Forget contact={contact} />,
  },
];

function Forget({ contact: { id, name, address } }: { contact: Contact }) {
  const forget = useMailStep('forget');
  return (
    <span className="flex justify-end">
      <Button
        look="quiet"
        aria-label={`Take ${name || address} out of the address book`}
        onClick={() => forget.mutate([id])}
      >
        Remove
      </Button>
    </span>
  );
}

const contactSchema = mailbox.extend({ name: mailbox.shape.name.unwrap() });

function NewContact() {
  const keep = useKeepContact();
  const form = useFormOf<{ name: string; address: string }>(contactSchema, { name: '', address: '' });
  const { errors } = form.formState;
  const submit = form.handleSubmit((given) => keep.mutate(given, { onSuccess: () => form.reset() }));
  return (
    <form className="mb-3 flex items-start gap-2" onSubmit={(event) => void submit(event)}>
      <TextField
        label="Name"
        hideLabel
        placeholder="Name"
        className="flex-1"
        error={errors.name?.message}
        {...form.register('name')}
      />
      <TextField
        label="Mail address"
        hideLabel
        placeholder="Mail address"
        className="flex-1"
        error={errors.address?.message}
        {...form.register('address')}
      />
      <Button type="submit" disabled={keep.isPending}>
        Put into the address book
      </Button>
    </form>
  );
}

function AddressBook() {
  const contacts = useContacts();
  return (
    <section aria-label="Address book" className="mt-6 max-w-[640px]">
      <h2 className="mb-1 font-title text-[15px] font-semibold">Address book</h2>
      <p className="mb-2 text-[12px] text-ink-2">
        Everybody who was written to; all who deliver share it. An address that is there already gets the name.
      </p>
      <NewContact />
      <Queried query={contacts}>
        {(all) => (
          <DataTable
            label="Address book"
            rows={all}
            keyOf={({ id }) => id}
            columns={CONTACT_COLUMNS}
            empty={<p className="text-ink-2">Nobody yet.</p>}
          />
        )}
      </Queried>
    </section>
  );
}
