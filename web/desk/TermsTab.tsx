// The Terms tab: the vocabulary in columns (or a term pad), what the chosen photos have, and giving a term by typing.

import { useState } from 'react';
import type { Selection } from '@stellin/contract/photos';
import type { TermRow } from '@stellin/contract/vocabulary';
import { countText } from '@stellin/contract/wording';
import { showError, useChange } from '../foundation/changes';
import { shownKey } from '../foundation/keys';
import { useKeys } from '../foundation/useKeys';
import { useMayChange } from '../foundation/session';
import { useColumn, useTermPath, useTermPathOf } from '../parts/terms/queries';
import { TermColumns } from '../parts/terms/TermColumns';
import { TermPicker } from '../parts/terms/TermPicker';
import { selectionOfGrasped } from '../photos/chosen';
import { CheckMark, STATE_LABELS, type GivenState } from './CheckMark';
import { GivenTerms } from './GivenTerms';
import { OfferedTerms } from './OfferedTerms';
import { NewTerm } from './NewTerm';
import { useResult } from '../photos/result';
import { useSelection } from '../photos/selection';
import type { Described } from './queries';
import { TermPad } from './TermPad';

/**
 * The columns that are open: as somebody has opened them, else where most of the chosen photos have a term, else what stands first in
 * the vocabularies.
 */
function useOpenColumns(opened: readonly number[] | null, described: Described | undefined): readonly number[] {
  const { data: top } = useColumn(null);
  const [most] = [...(described?.terms ?? [])].sort((a, b) => b.photos - a.photos);
  const { data: path } = useTermPathOf(opened === null ? most?.id : undefined);
  if (opened !== null) return opened;
  const first = top?.find(({ narrower }) => narrower > 0);
  return path ?? (first ? [first.id] : []);
}

interface Props {
  /** The field for giving a term is to take the focus, and then to say so. */
  wantsFocus: boolean;
  onFocused: () => void;
  selection: Selection | null;
  described: Described | undefined;
}

export function TermsTab({ wantsFocus, onFocused, selection, described }: Props) {
  /** The columns that somebody has opened; null: those of what the photos have. */
  const [opened, setOpen] = useState<readonly number[] | null>(null);
  const [padOpen, setPadOpen] = useState(false);
  /** The label of a term that is not there yet. */
  const [unknown, setUnknown] = useState<string | null>(null);
  const isKeeper = useMayChange('addTerms');
  /** The term given last: its narrower terms are offered next. */
  const [givenLast, setGivenLast] = useState<number | null>(null);
  const mayChange = useMayChange('giveTerms');
  const { chosen } = useSelection();
  const { query } = useResult();
  const change = useChange();
  const pathOf = useTermPath();
  const open = useOpenColumns(opened, described);
  useKeys({ pad: () => setPadOpen((before) => !before) });

  const stateOf = (id: number): GivenState => {
    const { photos = 0 } = described?.terms.find((term) => term.id === id) ?? {};
    if (photos > 0) return photos === described?.count ? 'all' : 'some';
    return described?.within.some(({ termId }) => termId === id) ? 'narrower' : 'none';
  };
  const set = (termId: number, given: boolean) => {
    if (!selection || !mayChange) return;
    change.mutate({ kind: given ? 'giveTerms' : 'takeTerms', selection, termIds: [termId] });
    if (given) setGivenLast(termId);
  };
  const reveal = (id: number) => void pathOf(id).then(setOpen, showError);
  const give = (id: number) => {
    set(id, true);
    reveal(id);
  };
  const canGive = (row: TermRow) => !row.heading && !row.deprecated;

  return (
    <div className="flex h-full">
      {padOpen ? (
        <TermPad selection={selection} stateOf={stateOf} onSet={set} onClose={() => setPadOpen(false)} />
      ) : (
        <TermColumns
          open={open}
          onOpen={setOpen}
          mark={(row) =>
            selection && mayChange && canGive(row) ? (
              <CheckMark label={row.label} state={stateOf(row.id)} onSet={(given) => set(row.id, given)} />
            ) : null
          }
          says={(row) => (selection && canGive(row) ? STATE_LABELS[stateOf(row.id)] : '')}
          onKey={(event, row) => {
            if (event.key !== ' ' || !selection || !canGive(row)) return false;
            set(row.id, stateOf(row.id) !== 'all');
            return true;
          }}
          {...(mayChange
            ? {
                dragged: (row: TermRow) => (canGive(row) ? [row.id] : []),
                takesPhoto: (grasped: number, row: TermRow) => {
                  if (!canGive(row)) return;
                  const photos = selectionOfGrasped(chosen, query, grasped);
                  change.mutate({ kind: 'giveTerms', selection: photos, termIds: [row.id] });
                },
              }
            : {})}
        />
      )}
      <div className="w-[33%] max-w-120 min-w-72 shrink-0 overflow-y-auto border-l border-line p-3">
        <div className="mb-1.5 flex items-baseline gap-3">
          <h3 className="text-[12px] font-semibold text-ink-2">
            {selection && described
              ? `On ${described.count === 1 ? 'this photo' : `these ${countText(described.count, 'photo')}`}`
              : 'Terms'}
          </h3>
          {mayChange && (
            <button
              type="button"
              aria-pressed={padOpen}
              className="ml-auto text-[12px] text-slate hover:underline"
              title={shownKey('pad')}
              onClick={() => setPadOpen(!padOpen)}
            >
              {padOpen ? 'Columns' : 'Term pad'}
            </button>
          )}
        </div>
        {selection ? (
          <>
            {mayChange && (
              <TermPicker
                label="Give a term"
                placeholder={`Give a term …  (${shownKey('terms')})`}
                assignable
                above
                className="mb-2 w-full"
                wantsFocus={wantsFocus}
                onFocused={onFocused}
                onPick={({ id }) => give(id)}
                offers={(text) => [
                  {
                    text: `${isKeeper ? 'Create' : 'Propose'} “${text}” as a new term …`,
                    onPick: () => setUnknown(text),
                  },
                ]}
              />
            )}
            {described && (
              <GivenTerms
                terms={described.terms}
                keywords={described.keywords}
                count={described.count}
                onReveal={reveal}
                onSet={mayChange ? set : undefined}
              />
            )}
            {mayChange && <OfferedTerms selection={selection} givenLast={givenLast} stateOf={stateOf} onGive={give} />}
          </>
        ) : (
          <p className="text-ink-2">
            Choose photos on the sheet, then give them terms here: tick a term, or type its name. Click beside a photo
            or press Esc to choose none.
          </p>
        )}
      </div>
      {unknown !== null && (
        <NewTerm
          label={unknown}
          selection={selection}
          onClose={() => setUnknown(null)}
          onCreated={(id) => {
            if (selection) setGivenLast(id);
            reveal(id);
          }}
        />
      )}
    </div>
  );
}
