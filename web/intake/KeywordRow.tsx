// One keyword of the table: what it probably means, and what becomes of it.

import { useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import type { TermTree } from '@stellin/core/vocabulary/tree';
import type { IncomingKeyword } from '@stellin/contract/keywords';
import type { TermWithCounts } from '@stellin/contract/vocabulary';
import { numberText } from '@stellin/contract/wording';
import { previewUrl } from '../api';
import { Button } from '../parts/Button';
import { deskLink } from '../parts/deskLink';
import { Dialog } from '../parts/Dialog';
import type { Draft } from './drafts';
import { REASON_TEXTS } from './reasons';

interface Props {
  row: IncomingKeyword;
  source: 'keywords' | 'folders';
  tree: TermTree<TermWithCounts>;
  draft: Draft | undefined;
  /** Undefined for those who may only look. */
  onDecide: ((draft: Draft | undefined) => void) | undefined;
}

export function KeywordRow({ row, source, tree, draft, onDecide }: Props) {
  const { keyword, photos, samples, proposal } = row;
  const [choosing, setChoosing] = useState(false);
  const isDraft = (kind: Draft['kind'], termId?: number) =>
    draft?.kind === kind && (draft.kind !== 'term' || termId === undefined || draft.termId === termId);
  const usesProposal = proposal !== null && isDraft('term', proposal.termId);
  const flip = (next: Draft, on: boolean) => onDecide?.(on ? undefined : next);
  return (
    <tr className={`border-b border-line/60 align-middle ${draft ? 'bg-spruce-pale/40' : ''}`}>
      <td className="px-5 py-1.5 font-semibold break-words">{keyword}</td>
      <td className="figures px-3 text-right">
        {source === 'keywords' ? (
          <Link
            className="text-slate underline decoration-line underline-offset-2"
            to={deskLink(`keyword:"${keyword.replace(/["\\]/g, '\\$&')}"`)}
          >
            {numberText(photos)}
          </Link>
        ) : (
          numberText(photos)
        )}
      </td>
      <td className="px-3 py-1">
        <span className="flex gap-1">
          {samples.map(({ id, previewVersion }) => (
            <img
              key={id}
              src={previewUrl(id, previewVersion)}
              alt=""
              loading="lazy"
              className="h-9 max-w-16 bg-ground object-contain"
            />
          ))}
        </span>
      </td>
      <td className="px-3">
        {proposal ? (
          <>
            <Path tree={tree} termId={proposal.termId} />
            <span className="block text-[11px] text-ink-2">{REASON_TEXTS[proposal.why]}</span>
          </>
        ) : (
          <span className="text-ink-3">nothing in the vocabulary</span>
        )}
      </td>
      <td className="px-3">
        <span role="group" aria-label={`What becomes of ${keyword}`} className="flex flex-wrap items-center gap-1">
          {proposal && (
            <Choice
              on={usesProposal}
              onClick={onDecide && (() => flip({ kind: 'term', termId: proposal.termId }, usesProposal))}
            >
              Use it
            </Choice>
          )}
          <Choice
            on={isDraft('new') || (isDraft('term') && !usesProposal)}
            onClick={onDecide && (() => setChoosing(true))}
          >
            {draft?.kind === 'new'
              ? `New: ${draft.label}`
              : isDraft('term') && !usesProposal && draft?.kind === 'term'
                ? (tree.get(draft.termId)?.label ?? 'Term')
                : 'Term …'}
          </Choice>
          {source === 'keywords' && (
            <Choice on={isDraft('keep')} onClick={onDecide && (() => flip({ kind: 'keep' }, isDraft('keep')))}>
              Keep free
            </Choice>
          )}
          <Choice on={isDraft('drop')} onClick={onDecide && (() => flip({ kind: 'drop' }, isDraft('drop')))}>
            {source === 'keywords' ? 'Drop' : 'Leave out'}
          </Choice>
        </span>
        {choosing && (
          <TermDialog
            keyword={keyword}
            tree={tree}
            onClose={() => setChoosing(false)}
            onChoose={(next) => {
              onDecide?.(next);
              setChoosing(false);
            }}
          />
        )}
      </td>
    </tr>
  );
}

function Choice({ on, onClick, children }: { on: boolean; onClick: (() => void) | undefined; children: ReactNode }) {
  return (
    <button
      type="button"
      aria-pressed={on}
      disabled={!onClick}
      onClick={onClick}
      className={`rounded border px-2 py-0.5 text-[12px] whitespace-nowrap ${on ? 'border-spruce bg-spruce font-semibold text-on-spruce' : 'border-line bg-card hover:border-ink-3'}`}
    >
      {children}
    </button>
  );
}

function Path({ tree, termId }: { tree: TermTree<TermWithCounts>; termId: number }) {
  const path = tree.path(termId);
  return (
    <span>
      {path.slice(0, -1).map(({ id, label }) => (
        <span key={id} className="text-[12px] text-ink-2">
          {label} ›{' '}
        </span>
      ))}
      <b>{path.at(-1)?.label}</b>
    </span>
  );
}

interface DialogProps {
  keyword: string;
  tree: TermTree<TermWithCounts>;
  onClose: () => void;
  onChoose: (draft: Draft) => void;
}

/** Another term for a keyword, or a new one. */
function TermDialog({ keyword, tree, onClose, onChoose }: DialogProps) {
  const [label, setLabel] = useState(keyword);
  const [parent, setParent] = useState('');
  const [term, setTerm] = useState('');
  const all = tree.preOrder();
  const pathText = (id: number) =>
    tree
      .path(id)
      .map((step) => step.label)
      .join(' › ');
  return (
    <Dialog open onOpenChange={onClose} title={`A term for “${keyword}”`}>
      <form
        className="flex items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          onChoose({ kind: 'term', termId: Number(term) });
        }}
      >
        <label className="min-w-0 flex-1 text-[12px] text-ink-2">
          One that is there
          <select
            className="mt-1 block h-8 w-full rounded border border-line bg-card px-2 text-base text-ink"
            value={term}
            onChange={(event) => setTerm(event.target.value)}
          >
            <option value="">choose …</option>
            {all
              .filter(({ heading }) => !heading)
              .map(({ id }) => (
                <option key={id} value={id}>
                  {pathText(id)}
                </option>
              ))}
          </select>
        </label>
        <Button type="submit" look="primary" disabled={term === ''}>
          Use it
        </Button>
      </form>
      <form
        className="mt-5 space-y-2 border-t border-line pt-4"
        onSubmit={(event) => {
          event.preventDefault();
          onChoose({ kind: 'new', label: label.trim(), parentId: parent === '' ? null : Number(parent) });
        }}
      >
        <label className="block text-[12px] text-ink-2">
          A new one
          <input
            maxLength={200}
            className="mt-1 block h-8 w-full rounded border border-line bg-card px-2 text-base text-ink"
            value={label}
            onChange={(event) => setLabel(event.target.value)}
          />
        </label>
        <div className="flex items-end gap-2">
          <label className="min-w-0 flex-1 text-[12px] text-ink-2">
            below
            <select
              className="mt-1 block h-8 w-full rounded border border-line bg-card px-2 text-base text-ink"
              value={parent}
              onChange={(event) => setParent(event.target.value)}
            >
              <option value="">the top</option>
              {all.map(({ id }) => (
                <option key={id} value={id}>
                  {pathText(id)}
                </option>
              ))}
            </select>
          </label>
          <Button type="submit" look="primary" disabled={label.trim() === ''}>
            Make it
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
