// What is doubtful, of one kind, as a list: arrow keys move, Enter mends.

import { useRef, useState, type KeyboardEvent } from 'react';
import type { FindingKind } from '@stellin/core/vocabulary/lint';
import type { ChangeInput } from '@stellin/contract/ledger';
import type { Finding } from '@stellin/contract/vocabulary';
import { countText } from '@stellin/contract/wording';
import { Button } from '../parts/Button';
import { TermPath } from '../parts/terms/TermPath';
import { useChange } from '../foundation/changes';
import { shownKey } from '../foundation/keys';
import { ImpactPanel } from './ImpactPanel';
import { useFindings } from './queries';
import { Radio, RadioGroup } from '../parts/RadioGroup';
import { Failed } from '../parts/Queried';

type Mend = { verb: string; change: ChangeInput; asks: boolean };
type Terms = Finding['terms'];

/** How each kind is mended with one key; where it takes a person to decide, the term is opened instead. */
const MENDS: Record<FindingKind, (terms: Terms, kept: number) => Mend | null> = {
  twice: merging,
  near: merging,
  alternative: merging,
  branches: () => null,
  unused: ([term]) => (term ? { verb: 'Remove', change: { kind: 'removeTerm', termId: term.id }, asks: false } : null),
  single: ([term]) =>
    term && term.photos === 0
      ? { verb: 'Take this level out', change: { kind: 'removeTerm', termId: term.id, narrower: 'up' }, asks: true }
      : null,
  many: () => null,
  circle: ([from, to]) =>
    from && to
      ? {
          verb: 'Unlink',
          change: { kind: 'relateTerms', relation: 'related', fromId: from.id, toId: to.id, on: false },
          asks: false,
        }
      : null,
  long: () => null,
  headingGiven: ([term]) =>
    term
      ? { verb: 'Make it a term', change: { kind: 'setHeading', termId: term.id, heading: false }, asks: true }
      : null,
  deprecatedGiven: () => null,
};

function merging(terms: Terms, kept: number): Mend | null {
  const into = terms[kept];
  const others = terms.filter((_, i) => i !== kept).map(({ id }) => id);
  if (!into || others.length === 0) return null;
  return { verb: 'Merge', change: { kind: 'mergeTerms', termIds: others, intoId: into.id }, asks: true };
}

interface Props {
  kind: FindingKind;
  mayEdit: boolean;
  onShow: (termId: number) => void;
}

export function Findings({ kind, mayEdit, onShow }: Props) {
  const query = useFindings(kind);
  const { data: findings } = query;
  const [asked, setAsked] = useState<{ at: number; mend: Mend } | null>(null);
  const [kept, setKept] = useState<Record<number, number>>({});
  const change = useChange();
  const list = useRef<HTMLUListElement>(null);
  const mendOf = (finding: Finding, at: number) => (mayEdit ? MENDS[kind](finding.terms, kept[at] ?? 0) : null);
  const mend = (finding: Finding, at: number) => {
    const how = mendOf(finding, at);
    const [term] = finding.terms;
    if (!how) {
      if (term) onShow(term.id);
    } else if (how.asks) setAsked({ at, mend: how });
    else change.mutate(how.change);
  };
  const onKeyDown = (event: KeyboardEvent<HTMLLIElement>, finding: Finding, at: number) => {
    if (event.target !== event.currentTarget) return;
    const rows = [...(list.current?.querySelectorAll<HTMLElement>('[data-finding]') ?? [])];
    if (event.key === 'ArrowDown') rows[at + 1]?.focus();
    else if (event.key === 'ArrowUp') rows[at - 1]?.focus();
    else if (event.key === 'Enter') mend(finding, at);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  if (query.error && !findings) return <Failed query={query} className="m-4" />;
  if (!findings) return <p className="p-4 text-ink-2">Looking …</p>;
  return (
    <div className="min-h-0 flex-1 overflow-y-auto p-4">
      {findings.length === 0 && <p className="text-ink-2">Nothing of this kind is left.</p>}
      {findings.length > 0 && mayEdit && (
        <p className="mb-2 text-[12px] text-ink-2">
          Arrow keys move, {shownKey('open')} mends or opens the one in focus.
        </p>
      )}
      <ul ref={list} className="space-y-1.5">
        {findings.map((finding, at) => {
          const how = mendOf(finding, at);
          const choosing = how?.change.kind === 'mergeTerms';
          return (
            <li
              key={`${finding.kind} ${finding.terms.map(({ id }) => id).join()}`}
              data-finding={at}
              tabIndex={at === 0 ? 0 : -1}
              aria-label={finding.what}
              className="rounded-md border border-line bg-card px-3 py-2"
              onKeyDown={(event) => onKeyDown(event, finding, at)}
            >
              <div className="flex items-start gap-3">
                <div className="min-w-0 flex-1">
                  <p className="mb-0.5">{finding.what}</p>
                  <RadioGroup
                    label="Which one is kept"
                    value={String(kept[at] ?? 0)}
                    onChange={(i) => setKept({ ...kept, [at]: Number(i) })}
                  >
                    <ul className="space-y-0.5 text-[12px]">
                      {finding.terms.map((term, i) => (
                        <li key={term.id} className="flex items-baseline gap-2">
                          {choosing && (
                            <Radio value={String(i)} className="gap-1 whitespace-nowrap text-ink-2">
                              keep
                            </Radio>
                          )}
                          <button type="button" className="text-left hover:underline" onClick={() => onShow(term.id)}>
                            <TermPath term={term} />
                          </button>
                          <span className="figures text-ink-2">{countText(term.photos, 'photo')}</span>
                        </li>
                      ))}
                    </ul>
                  </RadioGroup>
                </div>
                {choosing && finding.terms.length === 2 && (
                  <Button
                    look="quiet"
                    onClick={() => {
                      const [a, b] = finding.terms;
                      if (a && b) change.mutate({ kind: 'relateTerms', relation: 'apart', fromId: a.id, toId: b.id });
                    }}
                  >
                    Not the same
                  </Button>
                )}
                <Button onClick={() => mend(finding, at)}>
                  {how ? (how.asks ? `${how.verb} …` : how.verb) : 'Open'}
                </Button>
              </div>
              {asked?.at === at && how && (
                <ImpactPanel
                  change={how.change}
                  verb={how.verb}
                  onDone={() => setAsked(null)}
                  onCancel={() => setAsked(null)}
                />
              )}
            </li>
          );
        })}
      </ul>
    </div>
  );
}
