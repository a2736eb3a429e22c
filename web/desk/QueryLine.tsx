// The query line: a sentence of tokens, with a place to type the next. Typing suggests; Enter takes what is typed or the
// suggestion in focus; Backspace in an empty place turns the last token into text again.

import { X } from 'lucide-react';
import { useId, useImperativeHandle, useRef, useState, type KeyboardEvent, type Ref } from 'react';
import { criterionOf } from '@stellin/core/search/criteria';
import { parseQuery, queryText, tokensOf } from '@stellin/core/search/language';
import type { Suggestion } from '@stellin/contract/search';
import { SORTS, type Sort } from '@stellin/contract/photos';
import { numberText } from '@stellin/contract/wording';
import { shownKey } from '../app/keys';
import { Button } from '../parts/Button';
import { Tooltip } from '../parts/Tooltip';
import { GROUP_LABELS } from './groups';
import { useSuggestions, type Result } from './queries';
import { SORT_LABELS } from './result';
import { SHEET_SIZES } from './sheetSize';

export interface QueryLineHandle {
  focus(): void;
}

interface Props extends Result {
  ref: Ref<QueryLineHandle>;
  show: (change: Partial<Result>) => void;
  size: number;
  onSize: (height: number) => void;
  headings: boolean;
  onHeadings: (shown: boolean) => void;
  found: { count: number; folded: number; milliseconds: number; errors: { message: string }[] } | undefined;
  onSave: (() => void) | undefined;
}

export function QueryLine({ ref, query, sort, show, size, onSize, headings, onHeadings, found, onSave }: Props) {
  const input = useRef<HTMLInputElement>(null);
  const [text, setText] = useState('');
  const [at, setAt] = useState(-1);
  const [open, setOpen] = useState(false);
  const listId = useId();
  const tokens = tokensOf(query);
  const { data: suggestions = [] } = useSuggestions(text, query);
  const shown = open && text.trim() !== '' ? suggestions : [];
  const problem = (text ? parseQuery(text).errors[0] : undefined) ?? found?.errors[0];
  useImperativeHandle(ref, () => ({ focus: () => input.current?.focus() }));

  const add = (more: string) => {
    show({ query: joined([...tokens, more]) });
    setText('');
    setAt(-1);
  };
  const take = (suggestion: Suggestion) => {
    if (suggestion.kind !== 'field') return add(suggestion.query);
    setText(suggestion.query);
    setAt(-1);
    input.current?.focus();
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const chosen = shown[at];
    if (event.key === 'ArrowDown') setAt((at + 1) % Math.max(1, shown.length));
    else if (event.key === 'ArrowUp') setAt(at <= 0 ? shown.length - 1 : at - 1);
    else if (event.key === 'Enter' && chosen) take(chosen);
    else if (event.key === 'Enter' && text.trim()) add(text.trim());
    else if (event.key === 'Escape') {
      if (shown.length) setOpen(false);
      else input.current?.blur();
    } else if (event.key === 'Backspace' && text === '' && tokens.length) {
      setText(tokens.at(-1) ?? '');
      show({ query: joined(tokens.slice(0, -1)) });
    } else return;
    event.preventDefault();
  };

  return (
    <div className="flex shrink-0 items-start gap-3 border-b border-line bg-card px-3 py-2">
      <div className="relative min-w-0 flex-1">
        <div
          className="flex min-h-8 flex-wrap items-center gap-1 rounded border border-ink-3 px-1.5 py-[3px] focus-within:border-spruce"
          onClick={() => input.current?.focus()}
        >
          {tokens.map((token, i) => (
            <Token
              key={`${i} ${token}`}
              token={token}
              onRemove={() => show({ query: joined(tokens.filter((_, k) => k !== i)) })}
            />
          ))}
          <input
            ref={input}
            role="combobox"
            aria-label="Query"
            aria-expanded={shown.length > 0}
            aria-controls={listId}
            aria-activedescendant={shown[at] ? `${listId}-${at}` : undefined}
            aria-invalid={problem !== undefined}
            placeholder={tokens.length ? 'add …' : 'Words, a term, or a field like rating:>=3'}
            className="h-6 min-w-32 flex-1 bg-transparent px-1 outline-none placeholder:text-ink-3"
            value={text}
            spellCheck={false}
            onChange={(event) => {
              setText(event.target.value);
              setOpen(true);
              setAt(-1);
            }}
            onKeyDown={onKeyDown}
            onBlur={() => setOpen(false)}
          />
        </div>
        {problem && (
          <p role="status" className="mt-1 px-1 text-[12px] text-red">
            Not understood: {problem.message}.
          </p>
        )}
        {shown.length > 0 && (
          <ul
            id={listId}
            role="listbox"
            aria-label="Suggestions"
            className="absolute top-full z-30 mt-1 w-[min(640px,100%)] rounded-md border border-line bg-card py-1 shadow-lg"
          >
            {shown.map((suggestion, i) => (
              <li
                key={`${suggestion.kind} ${suggestion.query}`}
                id={`${listId}-${i}`}
                role="option"
                aria-selected={i === at}
                className={`flex cursor-pointer items-baseline gap-2 px-3 py-1 ${i === at ? 'bg-spruce-pale' : 'hover:bg-sheet'}`}
                onMouseDown={(event) => {
                  event.preventDefault();
                  take(suggestion);
                }}
              >
                <span className="w-14 shrink-0 text-[12px] text-ink-3">{KIND_LABELS[suggestion.kind]}</span>
                <span className="font-semibold whitespace-nowrap">{suggestion.label}</span>
                <span className="truncate text-[12px] text-ink-2">{suggestion.detail}</span>
                {suggestion.photos !== null && (
                  <span className="figures ml-auto text-ink-2">{numberText(suggestion.photos)}</span>
                )}
              </li>
            ))}
          </ul>
        )}
      </div>
      <p className="flex h-8 items-center gap-1.5 whitespace-nowrap" aria-live="polite" data-testid="found">
        <b className="figures font-title text-[16px]">{found ? numberText(found.count) : '…'}</b>{' '}
        <span className="text-ink-2">
          {found?.count === 1 ? 'photo' : 'photos'}
          {found && found.folded > 0 && (
            <span title="Photos behind the leads of closed bundles"> + {numberText(found.folded)} in bundles</span>
          )}
          {found && ` · ${found.milliseconds} ms`}
        </span>
      </p>
      <select
        aria-label="Order"
        className="h-8 rounded border border-line bg-card px-2"
        value={sort}
        onChange={(event) => show({ sort: event.target.value as Sort })}
      >
        {SORTS.map((value) => (
          <option key={value} value={value}>
            {SORT_LABELS[value]}
          </option>
        ))}
      </select>
      {GROUP_LABELS[sort] && (
        <label className="flex h-8 items-center gap-1.5 whitespace-nowrap">
          <input
            type="checkbox"
            className="accent-spruce"
            checked={headings}
            onChange={(event) => onHeadings(event.target.checked)}
          />
          Headings
        </label>
      )}
      <select
        aria-label="Size of the pictures"
        className="h-8 rounded border border-line bg-card px-2"
        value={size}
        onChange={(event) => onSize(Number(event.target.value))}
      >
        {SHEET_SIZES.map(({ height, label }) => (
          <option key={height} value={height}>
            {label}
          </option>
        ))}
      </select>
      {onSave && (
        <Tooltip text="Keep this query" keyName={shownKey('saveSearch')}>
          <Button look="primary" onClick={onSave}>
            Save search
          </Button>
        </Tooltip>
      )}
    </div>
  );
}

const KIND_LABELS: Record<Suggestion['kind'], string> = {
  term: 'term',
  folder: 'folder',
  drive: 'drive',
  field: 'field',
  value: 'value',
  search: 'search',
};

/** Tokens are parts that must all hold; one that is an "or" keeps its brackets. */
function joined(tokens: readonly string[]): string {
  const texts = tokens.map((token) => {
    const { query } = parseQuery(token);
    return query.kind === 'any' ? `(${queryText(query)})` : token;
  });
  return queryText(parseQuery(texts.join(' ')).query);
}

function Token({ token, onRemove }: { token: string; onRemove: () => void }) {
  const { query } = parseQuery(token);
  const denies = query.kind === 'not';
  const part = denies ? query.of : query;
  const name = part.kind === 'criterion' ? criterionOf(part.criterion)?.label : undefined;
  const operator =
    part.kind === 'criterion' && part.operator !== '=' && part.operator !== '..' ? `${part.operator} ` : '';
  const value =
    part.kind === 'criterion' ? `${operator}${part.value}${part.to ? ` – ${part.to}` : ''}` : queryText(part);
  return (
    <span
      className={`flex max-w-full items-center gap-1.5 rounded px-2 py-0.5 ${denies ? 'bg-red-pale text-red' : 'bg-ground'}`}
    >
      {(denies || name) && (
        <span className={denies ? '' : 'text-ink-2'}>{[denies && 'not', name].filter(Boolean).join(' ')}</span>
      )}
      <b className="truncate font-semibold">{value}</b>
      <button type="button" aria-label={`Remove ${token}`} className="text-ink-3 hover:text-ink" onClick={onRemove}>
        <X size={12} />
      </button>
    </span>
  );
}
