// Giving a term by typing: found by any of its labels, shown with its path. Enter gives the first or the one in focus.

import { useEffect, useId, useMemo, useRef, useState, type KeyboardEvent } from 'react';
import { foldText } from '@stellin/core/search/words';
import type { TermTree } from '@stellin/core/vocabulary/tree';
import type { TermWithCounts } from '@stellin/contract/vocabulary';
import { numberText } from '@stellin/contract/wording';

const MAX_SHOWN = 8;

interface Props {
  tree: TermTree<TermWithCounts>;
  wantsFocus: boolean;
  onFocused: () => void;
  onPick: (termId: number) => void;
}

export function TermTypeAhead({ tree, wantsFocus, onFocused, onPick }: Props) {
  const [text, setText] = useState('');
  const [at, setAt] = useState(0);
  const input = useRef<HTMLInputElement>(null);
  const listId = useId();
  useEffect(() => {
    if (!wantsFocus) return;
    input.current?.focus();
    onFocused();
  }, [wantsFocus, onFocused]);
  const found = useMemo(() => findTerms(tree, text), [tree, text]);
  const pick = (id: number) => {
    onPick(id);
    setText('');
    setAt(0);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const term = found[at];
    if (event.key === 'ArrowDown') setAt((at + 1) % Math.max(1, found.length));
    else if (event.key === 'ArrowUp') setAt(at <= 0 ? found.length - 1 : at - 1);
    else if (event.key === 'Enter' && term) pick(term.id);
    else if (event.key === 'Escape') {
      if (text) setText('');
      else input.current?.blur();
    } else return;
    event.preventDefault();
  };
  return (
    <div className="relative mb-2">
      <input
        ref={input}
        role="combobox"
        aria-label="Give a term"
        aria-expanded={found.length > 0}
        aria-controls={listId}
        aria-activedescendant={found[at] ? `${listId}-${at}` : undefined}
        placeholder="Give a term …  (T)"
        className="h-7 w-full rounded border border-line bg-card px-2 placeholder:text-ink-3"
        value={text}
        onChange={(event) => {
          setText(event.target.value);
          setAt(0);
        }}
        onKeyDown={onKeyDown}
        onBlur={() => setText('')}
      />
      {text.trim() !== '' && (
        <ul
          id={listId}
          role="listbox"
          aria-label="Terms found"
          className="absolute bottom-full z-30 mb-1 w-full rounded-md border border-line bg-card py-1 shadow-lg"
        >
          {found.map((term, i) => (
            <li
              key={term.id}
              id={`${listId}-${i}`}
              role="option"
              aria-selected={i === at}
              className={`flex cursor-pointer items-baseline gap-2 px-2.5 py-1 ${i === at ? 'bg-spruce-pale' : 'hover:bg-sheet'}`}
              onMouseDown={(event) => {
                event.preventDefault();
                pick(term.id);
              }}
            >
              <span className="font-semibold whitespace-nowrap">{term.label}</span>
              <span className="truncate text-[11px] text-ink-2">
                {tree
                  .path(term.id)
                  .slice(0, -1)
                  .map(({ label }) => label)
                  .join(' › ')}
              </span>
              <span className="figures ml-auto text-[11px] text-ink-2">{numberText(term.photosWithin)}</span>
            </li>
          ))}
          {found.length === 0 && <li className="px-2.5 py-1 text-ink-2">No term is called so.</li>}
        </ul>
      )}
    </div>
  );
}

/** Terms that can be given and of which some label begins with the text, or has a word that does; whole labels first. */
function findTerms(tree: TermTree<TermWithCounts>, text: string): TermWithCounts[] {
  const wanted = foldText(text.trim());
  if (wanted === '') return [];
  const ranked = tree.preOrder().flatMap((term) => {
    if (term.heading) return [];
    const ranks = [term.label, ...term.otherLabels.map(({ label }) => label)].map((label) =>
      rankOf(foldText(label), wanted),
    );
    const rank = Math.min(...ranks);
    return rank < 3 ? [{ term, rank }] : [];
  });
  return ranked
    .sort((a, b) => a.rank - b.rank || b.term.photosWithin - a.term.photosWithin)
    .slice(0, MAX_SHOWN)
    .map(({ term }) => term);
}

function rankOf(label: string, wanted: string): number {
  if (label === wanted) return 0;
  if (label.startsWith(wanted)) return 1;
  return label.includes(` ${wanted}`) ? 2 : 3;
}
