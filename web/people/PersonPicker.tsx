// Saying who it is by typing: persons by any of their names, or somebody new.

import { useEffect, useRef, useState } from 'react';
import { foldText } from '@stellin/core/text/words';
import type { Person, Who } from '@stellin/contract/people';
import { numberText } from '@stellin/contract/wording';
import { faceUrl } from '../foundation/api';
import { Combobox } from '../parts/Combobox';
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

const MAX_SHOWN = 8;

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
  const input = useRef<HTMLInputElement>(null);
  useEffect(() => {
    if (focusKey > 0) input.current?.focus();
  }, [focusKey]);
  const typed = text.trim();
  const found = typed === '' ? [] : matching(data?.persons ?? [], typed).filter(({ id }) => !without.includes(id));
  const isKnown = found.some(({ name }) => foldText(name) === foldText(typed));
  const pick = (who: Who, name: string) => () => {
    setText('');
    onPick(who, name);
  };
  const mayBeNew = typed !== '' && !isKnown && !onlyKnown;
  return (
    <Combobox
      ref={input}
      label={label}
      listLabel={label}
      text={text}
      onText={setText}
      firstInFocus
      optionClass="items-center gap-2 px-2 py-1"
      options={[
        ...found.slice(0, MAX_SHOWN).map((person) => ({
          key: `p${person.id}`,
          content: <Offered person={person} />,
          onPick: pick({ personId: person.id }, person.name),
        })),
        ...(mayBeNew
          ? [
              {
                key: 'new',
                content: (
                  <span>
                    New person <b>{typed}</b>
                  </span>
                ),
                onPick: pick({ name: typed }, typed),
              },
            ]
          : []),
      ]}
      placeholder={placeholder}
      className={`h-8 rounded border border-line bg-card px-2 placeholder:text-ink-3 ${className}`}
      onKeyDown={(event) => {
        if (event.key !== 'Escape') return false;
        setText('');
        event.currentTarget.blur();
        onEscape?.();
        return true;
      }}
    />
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
