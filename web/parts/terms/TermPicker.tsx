// Finding a term by typing: by any of its labels, shown with its path and the part that was typed. Enter picks the first or
// the one in focus.

import { useEffect, useImperativeHandle, useRef, useState, type Ref } from 'react';
import type { FoundTerm } from '@stellin/contract/vocabulary';
import { numberText } from '@stellin/contract/wording';
import { Combobox } from '../Combobox';
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
  /** Gives the field to those who focus it. */
  inputRef?: Ref<HTMLInputElement>;
  className?: string;
}

const MAX_SHOWN = 8;

export function TermPicker(props: Props) {
  const { label, placeholder, assignable = false, without = [], onPick, offers, above, className = 'w-full' } = props;
  const { wantsFocus = false, onFocused, autoFocus = false, inputRef } = props;
  const [text, setText] = useState('');
  const input = useRef<HTMLInputElement>(null);
  useImperativeHandle(inputRef, () => input.current as HTMLInputElement);
  useEffect(() => {
    if (!wantsFocus) return;
    input.current?.focus();
    onFocused?.();
  }, [wantsFocus, onFocused]);
  const typed = text.trim();
  const { data, isPlaceholderData, isFetching } = useFoundTerms(typed, assignable, MAX_SHOWN + without.length);
  const found = typed === '' ? [] : (data ?? []).filter(({ id }) => !without.includes(id)).slice(0, MAX_SHOWN);
  const further = typed === '' ? [] : (offers?.(typed) ?? []);
  const picked = (act: () => void) => () => {
    setText('');
    act();
  };
  return (
    <Combobox
      ref={input}
      label={label}
      listLabel="Terms found"
      text={text}
      onText={setText}
      firstInFocus
      answered={!isPlaceholderData && data !== undefined}
      options={[
        ...found.map((term) => ({
          key: `term ${term.id}`,
          content: <Found term={term} />,
          onPick: picked(() => onPick(term)),
        })),
        ...further.map((offer) => ({
          key: `offer ${offer.text}`,
          content: <span className="text-slate">{offer.text}</span>,
          onPick: picked(offer.onPick),
        })),
      ]}
      nothing={found.length === 0 && !isFetching ? 'No term is called so.' : undefined}
      above={above ?? false}
      autoFocus={autoFocus}
      placeholder={placeholder}
      className={`h-8 rounded border border-line bg-card px-2 placeholder:text-ink-3 ${className}`}
      onKeyDown={(event) => {
        if (event.key !== 'Escape') return false;
        if (text) setText('');
        else input.current?.blur();
        return true;
      }}
      onBlur={() => setText('')}
    />
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
