// Adding many terms at once, as indented text, with what comes of it shown while one types.

import { useState } from 'react';
import { parseOutline, type OutlineTerm } from '@stellin/core/vocabulary/formats/indented';
import { countText } from '@stellin/contract/wording';
import { useChange } from '../foundation/changes';
import { Dialog } from '../parts/Dialog';
import { FormActions } from '../parts/FormActions';
import { useVocabularies } from '../parts/terms/queries';
import { newTerm } from './ColumnFoot';
import { Select } from '../parts/Select';
import { TextArea } from '../parts/Field';

interface Props {
  below: { id: number; label: string } | null;
  onClose: () => void;
}

export function AddMany({ below: opened, onClose }: Props) {
  const [text, setText] = useState('');
  const [below, setBelow] = useState(opened);
  const { data: overview } = useVocabularies();
  const [vocabularyId, setVocabularyId] = useState<number | null>(null);
  const change = useChange();
  const { terms, errors } = parseOutline(text);
  const count = (list: readonly OutlineTerm[]): number => list.reduce((sum, term) => sum + 1 + count(term.narrower), 0);
  const total = count(terms);
  return (
    <Dialog open onOpenChange={onClose} title="Add many terms" wide>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          change.mutate(
            {
              kind: 'addTerms',
              parentId: below?.id ?? null,
              terms: terms.map(newTerm),
              ...(below || vocabularyId === null ? {} : { vocabularyId }),
            },
            { onSuccess: onClose },
          );
        }}
      >
        <p className="mb-2 text-ink-2">
          One term a line, a tab or two spaces for each level. <code>[Objects]</code> is a heading. Other labels follow{' '}
          <code>=</code>: <code>Rokkaku = six-sided kite; !Rokkaku-Drachen @de; ~rokaku</code> (<code>!</code> preferred
          in another language, <code>~</code> only found).
        </p>
        <p className="mb-2">
          Below{' '}
          {below ? (
            <>
              <b>{below.label}</b>{' '}
              <button type="button" className="text-slate underline" onClick={() => setBelow(null)}>
                at the top instead
              </button>
            </>
          ) : (
            <label>
              the top of{' '}
              <Select
                label="Vocabulary"
                className="h-7"
                value={vocabularyId ?? ''}
                onChange={(value) => setVocabularyId(Number(value) || null)}
                options={(overview?.vocabularies ?? []).map(({ id, name }) => ({ value: id, label: name }))}
              />
            </label>
          )}
        </p>
        <div className="grid grid-cols-2 gap-3">
          <TextArea
            label="Terms as indented text"
            hideLabel
            autoFocus
            rows={16}
            boxClass="font-mono text-[12px]"
            value={text}
            onChange={(event) => setText(event.target.value)}
            onKeyDown={(event) => {
              // A tab is a level here; Escape and then Tab leaves the field.
              if (event.key !== 'Tab' || event.shiftKey) return;
              event.preventDefault();
              const { selectionStart: start, selectionEnd: end } = event.currentTarget;
              event.currentTarget.setRangeText('\t', start, end, 'end');
              setText(event.currentTarget.value);
            }}
          />
          <div
            aria-label="What comes of it"
            role="group"
            className="h-full max-h-84 overflow-y-auto rounded border border-line bg-sheet p-2"
          >
            {errors.map(({ line, message }) => (
              <p key={line} className="text-red">
                Line {line} {message}.
              </p>
            ))}
            <Outline terms={terms} />
          </div>
        </div>
        <FormActions
          onCancel={onClose}
          action={total > 0 ? `Add ${countText(total, 'term')}` : 'Add'}
          disabled={total === 0 || errors.length > 0 || change.isPending}
        />
      </form>
    </Dialog>
  );
}

function Outline({ terms }: { terms: readonly OutlineTerm[] }) {
  if (terms.length === 0) return null;
  return (
    <ul className="pl-4 first:pl-0">
      {terms.map((term, i) => (
        <li key={i}>
          <span className={term.heading ? 'text-ink-2 italic' : ''}>{term.label}</span>
          {term.otherLabels.length > 0 && (
            <span className="ml-2 text-[12px] text-ink-2">
              {term.otherLabels.map(({ label, language }) => label + (language ? ` (${language})` : '')).join(', ')}
            </span>
          )}
          <Outline terms={term.narrower} />
        </li>
      ))}
    </ul>
  );
}
