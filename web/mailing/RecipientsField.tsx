// Who gets a letter: picked from the address book or typed, one or several at once; each can be taken out again.

import { X } from 'lucide-react';
import { useState } from 'react';
import { mailboxText, parseMailboxes, type Mailbox } from '@stellin/core/mailing/addresses';
import { mailbox } from '@stellin/contract/mailing';
import { Combobox } from '../parts/Combobox';
import { BOX, Field } from '../parts/Field';
import { useContacts } from './queries';

interface Props {
  value: readonly Mailbox[];
  onChange: (value: Mailbox[]) => void;
  error: string | undefined;
}

const OFFERED = 8;
const SEPARATES = /[,;\n]$/;
const isSame = (one: Mailbox, other: Mailbox) => one.address.toLowerCase() === other.address.toLowerCase();

export function RecipientsField({ value, onChange, error }: Props) {
  const { data: contacts = [] } = useContacts();
  const [text, setText] = useState('');
  const [problem, setProblem] = useState<string | undefined>(undefined);
  const add = (people: readonly Mailbox[]) => {
    const fresh = people.filter((each, at) => ![...value, ...people.slice(0, at)].some((other) => isSame(each, other)));
    if (fresh.length > 0) onChange([...value, ...fresh]);
    setProblem(undefined);
  };
  /** Takes what is typed; what is no address stays to be mended. */
  const take = (typed: string) => {
    const people = parseMailboxes(typed);
    const right = people.filter((each) => mailbox.safeParse(each).success);
    const wrong = people.filter((each) => !right.includes(each));
    add(right);
    setText(wrong.map(mailboxText).join(', '));
    if (wrong.length > 0) setProblem(`${wrong.map(mailboxText).join(', ')} is no mail address.`);
  };
  const wanted = text.trim().toLowerCase();
  const offered = contacts
    .filter((each) => !value.some((other) => isSame(each, other)) && mailboxText(each).toLowerCase().includes(wanted))
    .slice(0, OFFERED);
  return (
    <Field
      label="To"
      required
      error={problem ?? (text === '' ? error : undefined)}
      help="A name from the address book, or addresses."
    >
      {(tied) => (
        <>
          {value.length > 0 && (
            <ul aria-label="Recipients" className="mb-1.5 flex flex-wrap gap-1.5">
              {value.map((each) => (
                <li key={each.address} className="flex items-center gap-1 rounded bg-spruce-pale py-0.5 pr-1 pl-2">
                  <span className="max-w-72 truncate" title={each.address}>
                    {each.name || each.address}
                  </span>
                  <button
                    type="button"
                    aria-label={`Not to ${each.name || each.address}`}
                    className="text-ink-2 hover:text-ink"
                    onClick={() => onChange(value.filter((other) => other !== each))}
                  >
                    <X size={13} />
                  </button>
                </li>
              ))}
            </ul>
          )}
          <Combobox
            {...tied}
            text={text}
            onText={(typed) => (SEPARATES.test(typed) ? take(typed) : setText(typed))}
            onBlur={() => take(text)}
            listLabel="Address book"
            opensEmpty
            placeholder="edda@island.example"
            className={`${BOX} h-8`}
            options={offered.map((each) => ({
              key: each.address,
              content: (
                <>
                  {each.name || each.address}
                  {each.name !== '' && <span className="text-[12px] text-ink-2">{each.address}</span>}
                </>
              ),
              onPick: () => {
                add([{ name: each.name, address: each.address }]);
                setText('');
              },
            }))}
            onKeyDown={({ key }, { inFocus }) => {
              if (key === 'Backspace' && text === '' && value.length > 0) {
                onChange(value.slice(0, -1));
                return true;
              }
              if (key !== 'Enter' || inFocus || text.trim() === '') return false;
              take(text);
              return true;
            }}
          />
        </>
      )}
    </Field>
  );
}
