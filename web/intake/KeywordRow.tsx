// One keyword of the table: what it probably means, and what becomes of it.

import { useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import type { IncomingKeyword } from '@stellin/contract/keywords';
import { numberText } from '@stellin/contract/wording';
import { previewUrl } from '../foundation/api';
import { useMayChange } from '../foundation/session';
import { Button } from '../parts/Button';
import { deskLink } from '../parts/deskLink';
import { Dialog } from '../parts/Dialog';
import { TermPath } from '../parts/terms/TermPath';
import { TermPicker } from '../parts/terms/TermPicker';
import { PersonPicker } from '../people/PersonPicker';
import type { Draft } from './drafts';
import { REASON_TEXTS } from './reasons';
import { changeSchema } from '@stellin/contract/ledger';
import { TextField } from '../parts/Field';
import { useFormOf } from '../parts/useFormOf';

interface Props {
  row: IncomingKeyword;
  source: 'keywords' | 'folders';
  draft: Draft | undefined;
  /** Undefined for those who may only look. */
  onDecide: ((draft: Draft | undefined) => void) | undefined;
}

export function KeywordRow({ row, source, draft, onDecide }: Props) {
  const { keyword, photos, samples, proposal, person } = row;
  const [choosing, setChoosing] = useState<'term' | 'person' | null>(null);
  const isDraft = (kind: Draft['kind'], termId?: number) =>
    draft?.kind === kind && (draft.kind !== 'term' || termId === undefined || draft.termId === termId);
  const usesProposal = proposal !== null && isDraft('term', proposal.term.id);
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
            <TermPath term={proposal.term} />
            <span className="block text-[11px] text-ink-2">{REASON_TEXTS[proposal.why]}</span>
          </>
        ) : (
          !person && <span className="text-ink-3">nothing in the vocabulary</span>
        )}
        {person && (
          <>
            <span className="block">{person.name}</span>
            <span className="block text-[11px] text-ink-2">
              {person.same ? 'a person called so' : 'a person called almost so'}
            </span>
          </>
        )}
      </td>
      <td className="px-3">
        <span role="group" aria-label={`What becomes of ${keyword}`} className="flex flex-wrap items-center gap-1">
          {proposal && (
            <Choice
              on={usesProposal}
              onClick={
                onDecide &&
                (() => flip({ kind: 'term', termId: proposal.term.id, label: proposal.term.label }, usesProposal))
              }
            >
              Use it
            </Choice>
          )}
          <Choice
            on={isDraft('new') || (isDraft('term') && !usesProposal)}
            onClick={onDecide && (() => setChoosing('term'))}
          >
            {draft?.kind === 'new'
              ? `New: ${draft.label}`
              : isDraft('term') && !usesProposal && draft?.kind === 'term'
                ? draft.label
                : 'Term …'}
          </Choice>
          {source === 'keywords' && (
            <Choice
              on={isDraft('person')}
              onClick={onDecide && (() => (isDraft('person') ? onDecide(undefined) : setChoosing('person')))}
            >
              {draft?.kind === 'person' ? `Person: ${draft.name}` : 'Person …'}
            </Choice>
          )}
          {source === 'keywords' && (
            <Choice on={isDraft('keep')} onClick={onDecide && (() => flip({ kind: 'keep' }, isDraft('keep')))}>
              Keep free
            </Choice>
          )}
          <Choice on={isDraft('drop')} onClick={onDecide && (() => flip({ kind: 'drop' }, isDraft('drop')))}>
            {source === 'keywords' ? 'Drop' : 'Leave out'}
          </Choice>
        </span>
        {choosing === 'term' && (
          <TermDialog
            keyword={keyword}
            onClose={() => setChoosing(null)}
            onChoose={(next) => {
              onDecide?.(next);
              setChoosing(null);
            }}
          />
        )}
        {choosing === 'person' && (
          <PersonDialog
            row={row}
            onClose={() => setChoosing(null)}
            onChoose={(next) => {
              onDecide?.(next);
              setChoosing(null);
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

interface DialogProps {
  keyword: string;
  onClose: () => void;
  onChoose: (draft: Draft) => void;
}

/** The person whom a keyword names: the one that is proposed, another one, or somebody new. */
function PersonDialog({ row, onClose, onChoose }: Omit<DialogProps, 'keyword'> & { row: IncomingKeyword }) {
  const { keyword, person } = row;
  const name =
    keyword
      .split(/[|>/\\]/)
      .at(-1)
      ?.trim() ?? keyword;
  return (
    <Dialog open onOpenChange={onClose} title={`Who is “${keyword}”?`}>
      <div className="flex gap-2">
        {person && (
          <Button
            look="primary"
            onClick={() => onChoose({ kind: 'person', who: { personId: person.id }, name: person.name })}
          >
            {person.name}
          </Button>
        )}
        {!person?.same && (
          <Button look={person ? 'plain' : 'primary'} onClick={() => onChoose({ kind: 'person', who: { name }, name })}>
            New person {name}
          </Button>
        )}
      </div>
      <p className="mt-4 mb-1 text-[12px] text-ink-2">Somebody else</p>
      <PersonPicker label="Somebody else" onPick={(who, chosen) => onChoose({ kind: 'person', who, name: chosen })} />
      <p className="mt-3 text-[12px] text-ink-2">
        The photos that have it show that person from then on, and so do files still to come. The keyword stays in the
        files.
      </p>
    </Dialog>
  );
}

const NEW_TERM = changeSchema('renameTerm').pick({ label: true });

/** Another term for a keyword, or a new one. */
function TermDialog({ keyword, onClose, onChoose }: DialogProps) {
  const { register, handleSubmit, formState } = useFormOf(NEW_TERM, { label: keyword });
  const [parent, setParent] = useState<{ id: number; label: string } | null>(null);
  const isKeeper = useMayChange('addTerms');
  return (
    <Dialog open onOpenChange={onClose} title={`A term for “${keyword}”`}>
      <p className="mb-1 text-[12px] text-ink-2">One that is there</p>
      <TermPicker
        label="One that is there"
        placeholder="Find a term …"
        assignable
        autoFocus
        onPick={(term) => onChoose({ kind: 'term', termId: term.id, label: term.label })}
      />
      <form
        className="mt-5 space-y-2 border-t border-line pt-4"
        onSubmit={handleSubmit(({ label }) => onChoose({ kind: 'new', label, parentId: parent?.id ?? null }))}
      >
        <TextField
          label={isKeeper ? 'A new one' : 'A new one, as a proposal'}
          error={formState.errors.label?.message}
          {...register('label')}
        />
        <p className="text-[12px] text-ink-2">
          below {parent ? <b className="text-ink">{parent.label}</b> : 'the top'}
          {parent && (
            <button type="button" className="ml-2 text-slate underline" onClick={() => setParent(null)}>
              at the top instead
            </button>
          )}
        </p>
        <div className="flex gap-2">
          <TermPicker
            label="Below which term"
            placeholder="Below which term …"
            className="min-w-0 flex-1"
            onPick={setParent}
          />
          <Button type="submit" look="primary">
            Make it
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
