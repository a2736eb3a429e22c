// The foot of a column: adding below its term, one by one or, pasted as indented text, many; and the order of the column.

import { useState, type ClipboardEvent } from 'react';
import { parseOutline, type OutlineTerm } from '@stellin/core/vocabulary/formats/indented';
import type { NewTermInput } from '@stellin/contract/termChanges';
import type { TermRow } from '@stellin/contract/vocabulary';
import { showError, useChange } from '../foundation/changes';
import { useCard } from './queries';
import { TextField } from '../parts/Field';

interface Props {
  parent: number | null;
  column: readonly TermRow[];
  /** Behind which term the new one is to stand, where the order is made by hand. */
  after: number | undefined;
  adding: boolean;
  onAdding: (on: boolean) => void;
}

export function ColumnFoot({ parent, column, after, adding, onAdding }: Props) {
  const [text, setText] = useState('');
  const change = useChange();
  const { data: card } = useCard(parent);
  const above = parent === null ? undefined : card;
  const vocabularyId = parent === null ? column.find(({ id }) => id === after)?.vocabularyId : undefined;
  const add = (terms: NewTermInput[]) =>
    change.mutate(
      {
        kind: 'addTerms',
        parentId: parent,
        terms,
        ...(after === undefined ? {} : { after }),
        ...(vocabularyId === null || vocabularyId === undefined ? {} : { vocabularyId }),
      },
      { onSuccess: () => setText('') },
    );
  const onPaste = (event: ClipboardEvent) => {
    const pasted = event.clipboardData.getData('text');
    if (!pasted.trim().includes('\n')) return;
    event.preventDefault();
    const { terms, errors } = parseOutline(pasted);
    if (errors[0]) return showError(`Line ${errors[0].line} ${errors[0].message}`);
    add(terms.map(newTerm));
  };
  if (!adding)
    return (
      <div className="flex h-7 shrink-0 items-center gap-3 border-t border-line px-3 text-[12px]">
        <button
          type="button"
          className="text-slate hover:underline"
          aria-label={parent === null ? 'Add a top term' : `Add a term below ${above?.label ?? '…'}`}
          onClick={() => onAdding(true)}
        >
          + Add
        </button>
        {above && column.length > 1 && (
          <button
            type="button"
            className="ml-auto text-ink-2 hover:underline"
            title={
              above.byHand
                ? 'Sort by label again'
                : 'Keep an order made by hand: drag a term to the upper edge of another'
            }
            onClick={() =>
              change.mutate({
                kind: 'editTerm',
                termId: above.id,
                facts: { byHand: !above.byHand },
                seen: { byHand: above.byHand },
              })
            }
          >
            {above.byHand ? 'By hand' : 'By label'}
          </button>
        )}
      </div>
    );
  return (
    <form
      className="shrink-0 border-t border-line p-1"
      onSubmit={(event) => {
        event.preventDefault();
        const term = parseOutline(text.trim()).terms[0];
        if (term) add([newTerm(term)]);
      }}
    >
      <TextField
        label="New term"
        hideLabel
        autoFocus
        placeholder="New term, Enter; or paste many"
        maxLength={1000}
        boxClass="h-6 !px-1.5 text-[12px]"
        value={text}
        onChange={(event) => setText(event.target.value)}
        onPaste={onPaste}
        onKeyDown={(event) => event.key === 'Escape' && onAdding(false)}
        onBlur={() => text.trim() === '' && onAdding(false)}
      />
    </form>
  );
}

/** A term of indented text as a change takes it. */
export function newTerm({ label, heading, otherLabels, narrower }: OutlineTerm): NewTermInput {
  return { label, heading, otherLabels, narrower: narrower.map(newTerm) };
}
