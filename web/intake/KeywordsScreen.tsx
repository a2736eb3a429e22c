// Settling keywords that came with files, and names of folders: a table with a proposed term for each, decisions one by one
// or for all that are shown, and one step that carries them out.

import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { REASONS, type Reason } from '@stellin/core/vocabulary/matching';
import type { IncomingKeyword } from '@stellin/contract/keywords';
import { countText, numberText } from '@stellin/contract/wording';
import { useChange } from '../foundation/changes';
import { useMayChange } from '../foundation/session';
import { Button } from '../parts/Button';
import { describeDrafts, toDecision, type Draft } from './drafts';
import { KeywordRow } from './KeywordRow';
import { useAccessions, useIncoming } from './queries';
import { REASON_TEXTS } from './reasons';
import { Select } from '../parts/Select';
import { Checkbox } from '../parts/Checkbox';
import { Failed } from '../parts/Queried';

type Shown = 'all' | 'none' | 'person' | Reason;

/** Whether a keyword stands among those of a kind. */
function isOfKind({ proposal, person }: IncomingKeyword, kind: Shown): boolean {
  if (kind === 'all') return true;
  if (kind === 'none') return !proposal && !person;
  return kind === 'person' ? person !== null : proposal?.why === kind;
}

/** What a keyword probably means, as a decision: a person called so, a term, a person called almost so. */
function proposed({ proposal, person }: IncomingKeyword): Draft | undefined {
  const somebody: Draft | undefined = person
    ? { kind: 'person', who: { personId: person.id }, name: person.name }
    : undefined;
  if (somebody && (person?.same || !proposal)) return somebody;
  return proposal ? { kind: 'term', termId: proposal.term.id, label: proposal.term.label } : undefined;
}

export function KeywordsScreen() {
  const [params, setParams] = useSearchParams();
  const source = params.get('source') === 'folders' ? 'folders' : 'keywords';
  const accession = Number(params.get('accession')) || undefined;
  const levels = Number(params.get('levels')) || 1;
  const incoming = useIncoming({ source, levels, accession });
  const { data } = incoming;
  const [shown, setShown] = useState<Shown>('all');
  const [drafts, setDrafts] = useState<ReadonlyMap<string, Draft>>(new Map());
  const [remember, setRemember] = useState(true);
  const mayChange = useMayChange('settleKeywords');
  const change = useChange();

  const keywords = data?.keywords ?? [];
  const listed = keywords.filter((one) => isOfKind(one, shown));
  const decided = keywords.filter(({ keyword }) => drafts.has(keyword));
  const set = (keyword: string, draft: Draft | undefined) =>
    setDrafts((before) => {
      const after = new Map(before);
      if (draft) after.set(keyword, draft);
      else after.delete(keyword);
      return after;
    });
  const setAll = (draftOf: (keyword: IncomingKeyword) => Draft | undefined) =>
    setDrafts((before) => {
      const after = new Map(before);
      for (const one of listed) {
        const draft = draftOf(one);
        if (draft) after.set(one.keyword, draft);
      }
      return after;
    });
  const look = (changes: Record<string, string>) => {
    setDrafts(new Map());
    setShown('all');
    setParams((before) => {
      for (const [name, value] of Object.entries(changes)) {
        if (value) before.set(name, value);
        else before.delete(name);
      }
      return before;
    });
  };
  const settle = () =>
    change.mutate(
      {
        kind: 'settleKeywords',
        source,
        levels,
        accession,
        remember,
        decisions: decided.flatMap(({ keyword }) => {
          const draft = drafts.get(keyword);
          return draft ? [toDecision(keyword, draft)] : [];
        }),
      },
      { onSuccess: () => setDrafts(new Map()) },
    );

  return (
    <div className="flex h-full flex-col">
      <Head source={source} levels={levels} accession={accession} onLook={look} />
      <div className="flex flex-wrap items-center gap-1.5 border-b border-line bg-sheet px-5 py-2">
        {data && <Kinds keywords={keywords} shown={shown} onShow={setShown} />}
        {mayChange && listed.length > 0 && (
          <span className="ml-auto flex gap-1.5">
            {listed.some(proposed) && <Button onClick={() => setAll(proposed)}>Use the proposals</Button>}
            {source === 'keywords' && <Button onClick={() => setAll(() => ({ kind: 'keep' }))}>Keep all free</Button>}
            <Button onClick={() => setAll(() => ({ kind: 'drop' }))}>
              {source === 'keywords' ? 'Drop all' : 'Leave all out'}
            </Button>
          </span>
        )}
      </div>
      <div className="min-h-0 flex-1 overflow-y-auto">
        <Failed query={incoming} className="m-5" />
        {data && keywords.length === 0 && (
          <p className="p-10 text-center text-ink-2">
            {source === 'keywords'
              ? 'All keywords are settled. What the next accession brings shows up here.'
              : 'No folder has a name that says something new.'}
          </p>
        )}
        {keywords.length > 0 && (
          <Keywords source={source} rows={listed} drafts={drafts} onDecide={mayChange ? set : undefined} />
        )}
        {data && data.total > keywords.length && (
          <p className="px-5 py-3 text-ink-2">
            {countText(data.total - keywords.length, 'rarer one')} follow when these are settled.
          </p>
        )}
      </div>
      {decided.length > 0 && (
        <footer className="flex flex-wrap items-center gap-4 border-t-2 border-amber bg-amber-pale px-5 py-2.5">
          <p className="figures">{describeDrafts(decided, drafts, source)}</p>
          <Checkbox checked={remember} onChange={setRemember} className="ml-auto">
            decide alike for files still to come
          </Checkbox>
          <Button look="quiet" onClick={() => setDrafts(new Map())}>
            Start over
          </Button>
          <Button look="primary" disabled={change.isPending} onClick={settle}>
            Settle {countText(decided.length, source === 'keywords' ? 'keyword' : 'folder name')}
          </Button>
        </footer>
      )}
    </div>
  );
}

type Source = 'keywords' | 'folders';

interface HeadProps {
  source: Source;
  levels: number;
  accession: number | undefined;
  onLook: (changes: Record<string, string>) => void;
}

/** What is settled: keywords or names of folders, of one accession or of all. */
function Head({ source, levels, accession, onLook }: HeadProps) {
  return (
    <header className="flex flex-wrap items-center gap-3 border-b border-line bg-card px-5 py-3">
      <Link to="/intake" className="text-slate hover:underline">
        Intake
      </Link>
      <h1 className="font-title text-[19px] font-semibold">
        {source === 'keywords' ? 'Keywords that came with files' : 'Names of folders'}
      </h1>
      <div className="ml-auto flex items-center gap-3">
        <Select
          label="What is settled"
          value={source}
          onChange={(value) => onLook({ source: value })}
          options={[
            { value: 'keywords', label: 'Keywords' },
            { value: 'folders', label: 'Folder names' },
          ]}
        />
        {source === 'folders' && (
          <Select
            label="Folder levels"
            value={levels}
            onChange={(value) => onLook({ levels: String(value) })}
            options={[1, 2, 3, 4].map((count) => ({
              value: count,
              label: count === 1 ? 'the folder itself' : `the last ${count} folders`,
            }))}
          />
        )}
        <AccessionChoice accession={accession} onChoose={(id) => onLook({ accession: id })} />
      </div>
    </header>
  );
}

interface KeywordsProps {
  source: Source;
  rows: readonly IncomingKeyword[];
  drafts: ReadonlyMap<string, Draft>;
  /** Undefined for those who may only look. */
  onDecide: ((keyword: string, draft: Draft | undefined) => void) | undefined;
}

function Keywords({ source, rows, drafts, onDecide }: KeywordsProps) {
  return (
    <table className="w-full bg-card">
      <thead className="sticky top-0 z-10 bg-sheet text-left text-[12px] text-ink-2 shadow-[0_1px_0_var(--line)]">
        <tr>
          <th className="w-[22%] px-5 py-1.5 font-semibold">{source === 'keywords' ? 'Keyword' : 'Folder name'}</th>
          <th className="px-3 py-1.5 text-right font-semibold">Photos</th>
          <th className="px-3 py-1.5 font-semibold">Such as</th>
          <th className="w-[28%] px-3 py-1.5 font-semibold">Probably means</th>
          <th className="px-3 py-1.5 font-semibold">Decision</th>
        </tr>
      </thead>
      <tbody>
        {rows.map((one) => (
          <KeywordRow
            key={one.keyword}
            row={one}
            source={source}
            draft={drafts.get(one.keyword)}
            onDecide={onDecide && ((draft) => onDecide(one.keyword, draft))}
          />
        ))}
      </tbody>
    </table>
  );
}

function AccessionChoice({ accession, onChoose }: { accession: number | undefined; onChoose: (id: string) => void }) {
  const { data: accessions = [] } = useAccessions();
  return (
    <Select
      label="Accession"
      className="max-w-56"
      value={String(accession ?? '')}
      onChange={onChoose}
      options={[
        { value: '', label: 'the whole catalogue' },
        ...accessions.map(({ id, driveLabel }) => ({ value: String(id), label: `accession ${id}, ${driveLabel}` })),
      ]}
    />
  );
}

function Kinds({
  keywords,
  shown,
  onShow,
}: {
  keywords: readonly IncomingKeyword[];
  shown: Shown;
  onShow: (shown: Shown) => void;
}) {
  const count = (kind: Shown) => keywords.filter((one) => isOfKind(one, kind)).length;
  const kinds: [Shown, string][] = [
    ['all', 'All'],
    ...REASONS.map((reason): [Shown, string] => [reason, REASON_TEXTS[reason]]),
    ['person', 'a person'],
    ['none', 'no proposal'],
  ];
  return kinds
    .filter(([kind]) => kind === 'all' || count(kind) > 0)
    .map(([kind, label]) => (
      <button
        key={kind}
        type="button"
        aria-pressed={shown === kind}
        onClick={() => onShow(kind)}
        className={`rounded-full border px-2.5 py-0.5 text-[12px] ${shown === kind ? 'border-spruce bg-spruce-pale font-semibold text-spruce' : 'border-line bg-card hover:border-ink-3'}`}
      >
        {label} <span className="figures">{numberText(count(kind))}</span>
      </button>
    ));
}
