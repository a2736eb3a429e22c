// What a change to the vocabulary touches, before it happens; the button says what will be done.

import { useEffect, useRef } from 'react';
import { Link } from 'react-router';
import type { ChangeInput } from '@stellin/contract/ledger';
import type { Impact } from '@stellin/contract/vocabulary';
import { countText, numberText } from '@stellin/contract/wording';
import { useChange } from '../foundation/changes';
import { Button } from '../parts/Button';
import { deskLink } from '../parts/deskLink';
import { useImpact } from './queries';

interface Props {
  change: ChangeInput;
  /** What the button says before the photos, like “Merge”. */
  verb: string;
  onDone: () => void;
  onCancel: () => void;
}

export function ImpactPanel({ change, verb, onDone, onCancel }: Props) {
  const { data: impact, error, isPending } = useImpact(change);
  const apply = useChange();
  const button = useRef<HTMLButtonElement>(null);
  const isThere = impact !== undefined;
  useEffect(() => {
    if (isThere) button.current?.focus();
  }, [isThere]);
  const touched = impact ? impact.photos || impact.within : 0;
  return (
    <section
      aria-label="What it touches"
      className="my-3 overflow-hidden rounded-md border border-amber bg-card"
      onKeyDown={(event) => {
        if (event.key !== 'Escape') return;
        event.stopPropagation();
        onCancel();
      }}
    >
      <h3 className="bg-amber-pale px-3 py-2 font-semibold">{impact ? `${impact.title}: what it touches` : verb}</h3>
      {isPending && <p className="px-3 py-2 text-ink-2">Counting …</p>}
      {error && (
        <p role="alert" className="px-3 py-2 text-red">
          {error.message}
        </p>
      )}
      {impact && <Rows impact={impact} />}
      <div className="flex flex-wrap gap-2 border-t border-line p-3">
        {impact && (
          <Button
            ref={button}
            look="primary"
            disabled={apply.isPending}
            onClick={() => apply.mutate(change, { onSuccess: onDone })}
          >
            {touched > 0 ? `${verb}: ${countText(touched, 'photo')}` : verb}
          </Button>
        )}
        {impact?.query && touched > 0 && (
          <Link
            to={deskLink(impact.query)}
            className="inline-flex h-8 items-center rounded border border-line bg-card px-3 hover:border-ink-3"
          >
            Show them
          </Link>
        )}
        <Button onClick={onCancel}>Not now</Button>
      </div>
    </section>
  );
}

function Rows({ impact }: { impact: Impact }) {
  const attached = impact.drives.filter(({ away }) => !away);
  const files = attached.reduce((sum, drive) => sum + drive.files, 0);
  const rows: [what: string, count: string][] = [
    ...(impact.photos > 0
      ? ([
          ['Photos that change their term', numberText(impact.photos)],
          ...(impact.both > 0 ? [['… of which already have both', numberText(impact.both)]] : []),
        ] as [string, string][])
      : []),
    ...(impact.within > 0 && impact.photos === 0
      ? ([['Photos that are found otherwise than before', numberText(impact.within)]] as [string, string][])
      : []),
    ['Files to write anew on attached drives', numberText(files)],
    ...impact.drives
      .filter(({ away }) => away)
      .map(({ label, files: count }): [string, string] => [`Files that wait, on ${label} (away)`, numberText(count)]),
    ['Saved searches that follow', numberText(impact.searches.length)],
    ...(impact.pads.length ? ([['Term pads that follow', impact.pads.join(', ')]] as [string, string][]) : []),
    ...impact.keptLabels.slice(0, 4).map((label): [string, string] => [`“${label}” stays as another label`, 'yes']),
  ];
  return (
    <>
      <dl>
        {rows.map(([what, count]) => (
          <div key={what} className="flex justify-between gap-3 border-t border-line px-3 py-1.5">
            <dt>{what}</dt>
            <dd className="figures text-right">{count}</dd>
          </div>
        ))}
      </dl>
      {impact.searches.length > 0 && (
        <ul className="border-t border-line px-3 py-1.5 text-[12px] text-ink-2">
          {impact.searches.slice(0, 5).map(({ name, after }) => (
            <li key={name}>
              “{name}” will ask <span className="font-mono text-[11px]">{after}</span>
            </li>
          ))}
        </ul>
      )}
    </>
  );
}
