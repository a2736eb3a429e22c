// What the stand-in mail server was given, as those who got it read it.

import type { KeptMessage } from '@stellin/contract/mailing';
import { sizeText } from '@stellin/contract/sizeText';
import { dateTimeText } from '../parts/dateTimeText';
import { useMailBox } from './queries';

export function StandInBox() {
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
