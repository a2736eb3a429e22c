// Saying who it is by typing: persons by any of their names, or somebody new.

import { Popover } from 'radix-ui';
import { useEffect, useId, useRef, useState } from 'react';
import { foldText } from '@stellin/core/search/words';
import type { Person, Who } from '@stellin/contract/people';
import { numberText } from '@stellin/contract/wording';
import { faceUrl } from '../api';
import { usePersons } from './queries';

interface Props {
  label: string;
  placeholder?: string;
  /** Persons that are not offered. */
  without?: readonly number[];
  /** Whether somebody can be made. */
  onlyKnown?: boolean;
  /** Raised to bring the focus here. */
  focusKey?: number;
  onPick: (who: Who, name: string) => void;
  onEscape?: () => void;
  className?: string;
}

const MOST = 8;

export function PersonPicker({
  label,
  placeholder = 'Name …',
  without = [],
  onlyKnown = false,
  focusKey = 0,
  onPick,
  onEscape,
  className = 'w-full',
}: Props) {
  const { data } = usePersons();
  const [text, setText] = useState('');
  const [at, setAt] = useState(0);
  const [open, setOpen] = useState(false);
  const listId = useId();
  const input = useRef<HTMLInputElement>(null);
  useEffect(() => {
    if (focusKey > 0) input.current?.focus();
  }, [focusKey]);
  const typed = text.trim();
  const found = typed === '' ? [] : matching(data?.persons ?? [], typed).filter(({ id }) => !without.includes(id));
  const isKnown = found.some(({ name }) => foldText(name) === foldText(typed));
  const offers = [
    ...found
      .slice(0, MOST)
      .map((person) => ({ key: `p${person.id}`, person, who: { personId: person.id }, name: person.name })),
    ...(typed === '' || isKnown || onlyKnown ? [] : [{ key: 'new', person: null, who: { name: typed }, name: typed }]),
  ];
  const pick = (i: number) => {
    const offer = offers[i];
    if (!offer) return;
    setText('');
    setOpen(false);
    onPick(offer.who, offer.name);
  };
  const isOpen = open && offers.length > 0;
  return (
    <Popover.Root open={isOpen}>
      <Popover.Anchor asChild>
        <input
          ref={input}
          role="combobox"
          aria-label={label}
          aria-expanded={isOpen}
          aria-controls={listId}
          aria-activedescendant={isOpen && offers[at] ? `${listId}-${at}` : undefined}
          autoComplete="off"
          value={text}
          placeholder={placeholder}
          className={`h-8 rounded border border-line bg-card px-2 placeholder:text-ink-3 ${className}`}
          onChange={(event) => {
            setText(event.target.value);
            setAt(0);
            setOpen(true);
          }}
          onBlur={() => setOpen(false)}
          onKeyDown={(event) => {
            if (event.key === 'ArrowDown') setAt(Math.min(offers.length - 1, at + 1));
            else if (event.key === 'ArrowUp') setAt(Math.max(0, at - 1));
            else if (event.key === 'Enter') pick(at);
            else if (event.key === 'Escape') {
              setText('');
              setOpen(false);
              event.currentTarget.blur();
              onEscape?.();
            } else return;
            event.preventDefault();
            event.stopPropagation();
          }}
        />
      </Popover.Anchor>
      <Popover.Portal>
        <Popover.Content
          role="presentation"
          side="bottom"
          align="start"
          sideOffset={4}
          collisionPadding={8}
          className="z-60 w-[max(var(--radix-popover-trigger-width),16rem)] rounded-md border border-line bg-card text-ink shadow-lg"
          // The focus stays in the field, whose keys move in the list.
          onOpenAutoFocus={(event) => event.preventDefault()}
          onCloseAutoFocus={(event) => event.preventDefault()}
          onInteractOutside={(event) => event.preventDefault()}
        >
          <ul id={listId} role="listbox" aria-label={label} className="max-h-72 overflow-y-auto py-1">
            {offers.map(({ key, person, name }, i) => (
              <li
                key={key}
                id={`${listId}-${i}`}
                role="option"
                aria-selected={i === at}
                className={`flex cursor-pointer items-center gap-2 px-2 py-1 ${i === at ? 'bg-spruce-pale' : 'hover:bg-sheet'}`}
                onMouseDown={(event) => {
                  event.preventDefault();
                  pick(i);
                }}
              >
                {person ? (
                  <Offered person={person} />
                ) : (
                  <span>
                    New person <b>{name}</b>
                  </span>
                )}
              </li>
            ))}
          </ul>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function Offered({ person: { name, otherNames, coverFace, photos } }: { person: Person }) {
  return (
    <>
      {coverFace !== null && <img src={faceUrl(coverFace)} alt="" className="h-6 w-6 rounded-full" />}
      <span className="min-w-0 flex-1 truncate">
        {name}
        {otherNames.length > 0 && <span className="text-ink-2"> · {otherNames.join(', ')}</span>}
      </span>
      <span className="figures text-[11px] text-ink-2">{numberText(photos)}</span>
    </>
  );
}

/** Persons one of whose names has words that begin as typed; those whose name begins so come first, then those seen most. */
export function matching(persons: readonly Person[], typed: string): Person[] {
  const wanted = foldText(typed).split(/\s+/);
  const begins = (name: string) => foldText(name).startsWith(foldText(typed));
  const meets = (name: string) => {
    const words = foldText(name).split(/[\s-]+/);
    return wanted.every((part) => words.some((word) => word.startsWith(part)));
  };
  return persons
    .filter(({ name, otherNames }) => [name, ...otherNames].some(meets))
    .sort((a, b) => Number(begins(b.name)) - Number(begins(a.name)) || b.photos - a.photos);
}
