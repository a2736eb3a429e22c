// The Terms tab: the vocabulary in columns, what the chosen photos have, and giving a term by typing.

import { useMemo, useState } from 'react';
import { TermTree } from '@stellin/core/vocabulary/tree';
import type { Selection } from '@stellin/contract/photos';
import type { TermWithCounts } from '@stellin/contract/vocabulary';
import { countText } from '@stellin/contract/wording';
import { useChange } from '../app/changes';
import { useMay } from '../app/session';
import { GivenTerms } from './GivenTerms';
import { useVocabulary } from './queries';
import { TermColumns } from './TermColumns';
import { TermTypeAhead } from './TermTypeAhead';

export interface Described {
  count: number;
  terms: { termId: number; photos: number }[];
  keywords: { keyword: string; photos: number }[];
}

interface Props {
  /** The field for giving a term is to take the focus, and then to say so. */
  wantsFocus: boolean;
  onFocused: () => void;
  selection: Selection | null;
  described: Described | undefined;
}

export type GivenState = 'all' | 'some' | 'none';

export function TermsTab({ wantsFocus, onFocused, selection, described }: Props) {
  const { data: terms = [] } = useVocabulary();
  const tree = useMemo(() => new TermTree<TermWithCounts>(terms), [terms]);
  const [open, setOpen] = useState<number[]>([]);
  const mayChange = useMay('cataloguer');
  const change = useChange();
  const counts = useMemo(() => new Map(described?.terms.map(({ termId, photos }) => [termId, photos])), [described]);

  const stateOf = (id: number): GivenState => {
    const photos = counts.get(id) ?? 0;
    return photos === 0 ? 'none' : photos === described?.count ? 'all' : 'some';
  };
  const set = (termId: number, given: boolean) => {
    if (selection && mayChange)
      change.mutate({ kind: given ? 'giveTerms' : 'takeTerms', selection, termIds: [termId] });
  };
  const reveal = (id: number) => setOpen(tree.path(id).map((term) => term.id));

  return (
    <div className="flex h-full">
      <TermColumns
        tree={tree}
        open={open}
        onOpen={setOpen}
        stateOf={selection ? stateOf : undefined}
        onSet={mayChange ? set : undefined}
      />
      <div className="w-[33%] max-w-120 min-w-72 shrink-0 overflow-y-auto border-l border-line p-3">
        {selection ? (
          <>
            <h3 className="mb-1.5 text-[12px] font-semibold text-ink-2">
              {described
                ? `On ${described.count === 1 ? 'this photo' : `these ${countText(described.count, 'photo')}`}`
                : ' '}
            </h3>
            {mayChange && (
              <TermTypeAhead
                tree={tree}
                wantsFocus={wantsFocus}
                onFocused={onFocused}
                onPick={(id) => {
                  set(id, true);
                  reveal(id);
                }}
              />
            )}
            {described && (
              <GivenTerms tree={tree} described={described} onReveal={reveal} onSet={mayChange ? set : undefined} />
            )}
          </>
        ) : (
          <p className="text-ink-2">
            Choose photos on the sheet, then give them terms here: tick a term, or type its name. Click beside a photo
            or press Esc to choose none.
          </p>
        )}
      </div>
    </div>
  );
}
