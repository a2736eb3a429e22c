// Whether the files are as they should be, on Holdings: in one line, and what is to be looked after.

import { formatDistanceToNow, parseISO } from 'date-fns';
import { FileCheck2, FileWarning } from 'lucide-react';
import { useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import type { DriveFixity } from '@stellin/contract/fixity';
import { countText, numberText } from '@stellin/contract/wording';
import { Button } from '../parts/Button';
import { deskLink } from '../parts/deskLink';
import { Queried } from '../parts/Queried';
import { FixityDialog } from './FixityDialog';
import { useFixity } from './queries';

export function FixityCard() {
  const fixity = useFixity();
  const [isOpen, setOpen] = useState(false);
  return (
    <section aria-labelledby="fixity" className="mt-3 rounded border border-line bg-card p-3">
      <Queried query={fixity}>
        {({ drives, plan }) => {
          const total = totalOf(drives);
          return (
            <div className="flex flex-wrap items-start gap-x-4 gap-y-2">
              {total.damaged > 0 ? (
                <FileWarning size={20} className="mt-0.5 shrink-0 text-red" aria-hidden />
              ) : (
                <FileCheck2 size={20} className="mt-0.5 shrink-0 text-spruce" aria-hidden />
              )}
              <div className="min-w-0 flex-1">
                <h2 id="fixity" className="font-title text-[16px] font-semibold">
                  {headline(total)}
                </h2>
                {details(total, plan.byItself).map((line, i) => (
                  <p key={i} className="text-[13px] text-ink-2">
                    {line}
                  </p>
                ))}
              </div>
              <Button onClick={() => setOpen(true)}>Files by drive …</Button>
            </div>
          );
        }}
      </Queried>
      {isOpen && <FixityDialog onClose={() => setOpen(false)} />}
    </section>
  );
}

type Total = Pick<DriveFixity, 'photos' | 'unread' | 'others' | 'damaged' | 'missing' | 'oldest'>;

function totalOf(drives: readonly DriveFixity[]): Total {
  const sum = (name: 'photos' | 'unread' | 'others' | 'damaged' | 'missing') =>
    drives.reduce((total, drive) => total + drive[name], 0);
  return {
    ...{ photos: sum('photos'), unread: sum('unread'), others: sum('others') },
    ...{ damaged: sum('damaged'), missing: sum('missing') },
    oldest: drives.flatMap(({ oldest }) => oldest ?? []).sort()[0] ?? null,
  };
}

function headline({ photos, damaged, unread }: Total): string {
  if (photos === 0) return 'No files yet';
  if (damaged > 0) return `${countText(damaged, 'file')} damaged`;
  return unread === photos ? 'No file was read for damage yet' : 'No file is known to be damaged';
}

function details({ unread, others, damaged, missing, oldest }: Total, byItself: boolean): ReactNode[] {
  return [
    oldest &&
      `${unread > 0 ? 'Those that were read were' : 'Each file was read and'} compared ${formatDistanceToNow(parseISO(oldest), { addSuffix: true })} or later`,
    damaged > 0 && <Found query="fixity:damaged" text="Show the damaged ones on the Desk" />,
    (others > 0 || missing > 0 || unread > 0) && (
      <>
        {[
          others > 0 && (
            <Found key="others" query="fixity:others" text={`${numberText(others)} changed by other programs`} />
          ),
          missing > 0 && <Found key="missing" query="fixity:missing" text={`${numberText(missing)} missing`} />,
          unread > 0 && <Found key="unread" query="fixity:unread" text={`${numberText(unread)} not read yet`} />,
        ]
          .filter(Boolean)
          .map((part, i) => [i > 0 && ' · ', part])}
      </>
    ),
    !byItself && <b className="text-amber">Drives are not read again by themselves</b>,
  ].filter(Boolean);
}

function Found({ query, text }: { query: string; text: string }) {
  return (
    <Link to={deskLink(query)} className="underline decoration-line underline-offset-2 hover:decoration-ink-2">
      {text}
    </Link>
  );
}
