// Finding a term by typing: by any of its labels, shown with its path and the part that was typed. Enter picks the first or
// the one in focus.

import { Popover } from 'radix-ui';
import { useEffect, useEffectEvent, useId, useRef, useState, type KeyboardEvent } from 'react';
import type { FoundTerm } from '@stellin/contract/vocabulary';
import { numberText } from '@stellin/contract/wording';
import { useFoundTerms } from './queries';

interface Offer {
  /** What picking it does, as the list says it. */
  text: string;
  onPick: () => void;
}

interface Props {
  label: string;
  placeholder: string;
  /** Only such as can be given to photos. */
  assignable?: boolean;
  without?: readonly number[];
  onPick: (term: FoundTerm) => void;
  /** Further things that can be done with the text, at the end of the list. */
  offers?: (text: string) => readonly Offer[];
  /** The list opens above the field. */
  above?: boolean;
  /** The field is to take the focus; says so when it has. */
  wantsFocus?: boolean;
  onFocused?: () => void;
  autoFocus?: boolean;
  className?: string;
}

const MAX_SHOWN = 8;

export function TermPicker(props: Props) {
  const { label, placeholder, assignable = false, without = [], onPick, offers, above, className = 'w-full' } = props;
  const { wantsFocus = false, onFocused, autoFocus = false } = props;
  const [text, setText] = useState('');
  const [at, setAt] = useState(0);
  /** The text for which Enter was pressed before its answer was there. */
  const [awaited, setAwaited] = useState<string | null>(null);
  const input = useRef<HTMLInputElement>(null);
  const listId = useId();
  useEffect(() => {
    if (!wantsFocus) return;
    input.current?.focus();
    onFocused?.();
  }, [wantsFocus, onFocused]);
  const typed = text.trim();
  const { data, isPlaceholderData, isFetching } = useFoundTerms(typed, assignable, MAX_SHOWN + without.length);
  const found = typed === '' ? [] : (data ?? []).filter(({ id }) => !without.includes(id)).slice(0, MAX_SHOWN);
  const further = typed === '' ? [] : (offers?.(typed) ?? []);
  const total = found.length + further.length;
  const reset = () => {
    setText('');
    setAt(0);
    setAwaited(null);
  };
  const pick = (index: number) => {
    const term = found[index];
    const offer = further[index - found.length];
    if (!term && !offer) return;
    reset();
    if (term) onPick(term);
    else offer?.onPick();
  };
  const isAnswered = !isPlaceholderData && data !== undefined;
  const pickAwaited = useEffectEvent(() => {
    setAwaited(null);
    pick(at);
  });
  useEffect(() => {
    if (awaited !== null && awaited === typed && isAnswered) pickAwaited();
  }, [awaited, typed, isAnswered]);
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key === 'ArrowDown') setAt((at + 1) % Math.max(1, total));
    else if (event.key === 'ArrowUp') setAt(at <= 0 ? Math.max(0, total - 1) : at - 1);
    // What is shown belongs to the text before until the answer is there: then it is picked.
    else if (event.key === 'Enter') {
      if (isAnswered) pick(at);
      else setAwaited(typed);
    } else if (event.key === 'Escape') {
      if (text) reset();
      else input.current?.blur();
    } else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <Popover.Root open={typed !== ''}>
      <Popover.Anchor asChild>
        <input
          ref={input}
          role="combobox"
          aria-label={label}
          aria-expanded={typed !== ''}
          aria-controls={listId}
          aria-activedescendant={total > 0 ? `${listId}-${at}` : undefined}
          autoComplete="off"
          autoFocus={autoFocus}
          placeholder={placeholder}
          className={`h-8 rounded border border-line bg-card px-2 placeholder:text-ink-3 ${className}`}
          value={text}
          onChange={(event) => {
            setText(event.target.value);
            setAt(0);
          }}
          onKeyDown={onKeyDown}
          onBlur={reset}
        />
      </Popover.Anchor>
      <Popover.Portal>
        <Popover.Content
          role="presentation"
          side={above ? 'top' : 'bottom'}
          align="start"
          sideOffset={4}
          collisionPadding={8}
          className="z-60 w-[max(var(--radix-popover-trigger-width),18rem)] rounded-md border border-line bg-card text-ink shadow-lg"
          // The focus stays in the field, whose keys move in the list.
          onOpenAutoFocus={(event) => event.preventDefault()}
          onCloseAutoFocus={(event) => event.preventDefault()}
          onInteractOutside={(event) => event.preventDefault()}
        >
          <ul id={listId} role="listbox" aria-label="Terms found" className="max-h-80 overflow-y-auto py-1">
            {found.map((term, i) => (
              <Option key={term.id} id={`${listId}-${i}`} selected={i === at} onPick={() => pick(i)}>
                <Found term={term} />
              </Option>
            ))}
            {found.length === 0 && !isFetching && (
              <li role="presentation" className="px-2.5 py-1 text-ink-2">
                No term is called so.
              </li>
            )}
            {further.map(({ text: offer }, i) => (
              <Option
                key={offer}
                id={`${listId}-${found.length + i}`}
                selected={found.length + i === at}
                onPick={() => pick(found.length + i)}
              >
                <span className="text-slate">{offer}</span>
              </Option>
            ))}
          </ul>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function Option({
  id,
  selected,
  onPick,
  children,
}: {
  id: string;
  selected: boolean;
  onPick: () => void;
  children: React.ReactNode;
}) {
  const row = useRef<HTMLLIElement>(null);
  useEffect(() => {
    if (selected) row.current?.scrollIntoView({ block: 'nearest' });
  }, [selected]);
  return (
    <li
      ref={row}
      id={id}
      role="option"
      aria-selected={selected}
      className={`flex cursor-pointer items-baseline gap-2 px-2.5 py-1 ${selected ? 'bg-spruce-pale' : 'hover:bg-sheet'}`}
      onMouseDown={(event) => {
        event.preventDefault();
        onPick();
      }}
    >
      {children}
    </li>
  );
}

/** A found term: its label, the other label that was found, the path, how many photos have it. */
function Found({ term }: { term: FoundTerm }) {
  const { label, found, from, to, path, photosWithin, proposed, deprecated, heading } = term;
  const marked = (text: string) => (
    <>
      {text.slice(0, from)}
      <mark className="bg-amber-pale text-inherit">{text.slice(from, to)}</mark>
      {text.slice(to)}
    </>
  );
  return (
    <>
      <span
        className={`max-w-[60%] shrink-0 truncate font-semibold ${heading ? 'italic' : ''} ${deprecated ? 'line-through' : ''}`}
      >
        {found === label ? marked(label) : label}
      </span>
      {found !== label && <span className="shrink-0 truncate text-[12px] text-ink-2">{marked(found)}</span>}
      <span className="min-w-0 truncate text-[11px] text-ink-2">
        {[...path, ...(proposed ? ['proposed'] : [])].join(' › ')}
      </span>
      <span className="figures ml-auto text-[11px] text-ink-2">{numberText(photosWithin)}</span>
    </>
  );
}
