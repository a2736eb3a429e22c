// The query line: a sentence of tokens with a place to type the next. A token is edited where it stands; the whole can be
// shown as text. Typing suggests; Enter takes what is typed or the suggestion in focus.

import { ListTree, MapPin, Type, X } from 'lucide-react';
import { useImperativeHandle, useRef, useState, type KeyboardEvent, type Ref } from 'react';
import { Link } from 'react-router';
import { likeAsked } from '@stellin/core/lookalikes/asked';
import { criterionOf } from '@stellin/core/query/criteria';
import { parseQuery, queryText, tokensOf } from '@stellin/core/search/language';
import type { Suggestion } from '@stellin/contract/search';
import { sortOrder, SORTS } from '@stellin/core/search/sorts';
import { numberText } from '@stellin/contract/wording';
import { shownKey } from '../foundation/keys';
import { usePhoto, type Result } from '../photos/queries';
import { SHEET_SIZES } from '../photos/sheetSize';
import { Button } from '../parts/Button';
import { Combobox } from '../parts/Combobox';
import { placesLink } from '../parts/deskLink';
import { Tooltip } from '../parts/Tooltip';
import { useRecentSearches, useSuggestions } from './queries';
import { Misunderstood } from './Misunderstood';
import { joined, replaced } from './tokens';
import { Select } from '../parts/Select';
import { Checkbox } from '../parts/Checkbox';

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
  /** How the result has changed underneath. */
  changed: string;
  onBuild: () => void;
  onSave: (() => void) | undefined;
}

export function QueryLine(props: Props) {
  const { ref, query, sort, show, size, onSize, headings, onHeadings, found, changed, onBuild, onSave } = props;
  const [asText, setAsText] = useState(false);
  const input = useRef<HTMLInputElement>(null);
  // Tokens would show only what is understood of it.
  const isMistyped = parseQuery(query).errors.length > 0;
  useImperativeHandle(ref, () => ({ focus: () => input.current?.focus() }));
  const field = { query, sort, show, input, problem: found?.errors[0]?.message };
  return (
    <div className="flex shrink-0 items-start gap-3 border-b border-line bg-card px-3 py-2">
      <div className="relative flex min-w-0 flex-1 items-start gap-1">
        {asText || isMistyped ? (
          <QueryText {...field} onClose={isMistyped ? undefined : () => setAsText(false)} />
        ) : (
          <Tokens {...field} />
        )}
        <Tooltip text={asText ? 'The query as tokens' : 'The query as text'}>
          <button
            type="button"
            aria-label="Query as text"
            aria-pressed={asText}
            className={`rounded p-2 ${asText ? 'bg-spruce-pale text-spruce' : 'text-ink-2 hover:bg-ground'}`}
            onClick={() => setAsText(!asText)}
          >
            <Type size={15} />
          </button>
        </Tooltip>
        <Tooltip text="Build the query" keyName={shownKey('build')}>
          <button
            type="button"
            aria-label="Build the query"
            className="rounded p-2 text-ink-2 hover:bg-ground"
            onClick={onBuild}
          >
            <ListTree size={15} />
          </button>
        </Tooltip>
        <Tooltip text="On the map">
          <Link to={placesLink(query)} aria-label="On the map" className="rounded p-2 text-ink-2 hover:bg-ground">
            <MapPin size={15} />
          </Link>
        </Tooltip>
      </div>
      <p className="flex h-8 items-center gap-1.5 whitespace-nowrap" aria-live="polite" data-testid="found">
        <b className="figures font-title text-[16px]">{found ? numberText(found.count) : '…'}</b>{' '}
        <span className="text-ink-2" title={found && `found in ${found.milliseconds} ms`}>
          {found?.count === 1 ? 'photo' : 'photos'}
          {found && found.folded > 0 && (
            <span title="Photos behind the leads of closed bundles"> + {numberText(found.folded)} in bundles</span>
          )}
        </span>
        {changed && <span className="rounded bg-amber-pale px-1.5 text-[12px] text-amber">{changed}</span>}
      </p>
      <Select
        label="Order"
        className="w-32"
        value={sort}
        onChange={(value) => show({ sort: value })}
        options={SORTS.map((value) => ({ value: value, label: sortOrder(value).label }))}
      />
      {sortOrder(sort).groupBy && (
        <Checkbox checked={headings} onChange={onHeadings} className="h-8 items-center! whitespace-nowrap">
          Headings
        </Checkbox>
      )}
      <Select
        label="Size of the pictures"
        value={size}
        onChange={(value) => onSize(Number(value))}
        options={SHEET_SIZES.map(({ height, label }) => ({ value: height, label }))}
      />
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

interface FieldProps extends Result {
  show: (change: Partial<Result>) => void;
  input: React.RefObject<HTMLInputElement | null>;
  /** What of the query was not understood. */
  problem: string | undefined;
}

/** The whole query as it is written. */
function QueryText({ query, show, input, problem, onClose }: FieldProps & { onClose: (() => void) | undefined }) {
  const [text, setText] = useState(query);
  const [shown, setShown] = useState(query);
  // Changed elsewhere, by a facet or by going back.
  if (shown !== query) {
    setShown(query);
    setText(query);
  }
  const error = parseQuery(text).errors[0];
  const commit = () => {
    if (!error && text.trim() !== query) show({ query: text.trim() });
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key === 'Enter') commit();
    else if (event.key !== 'Escape') return;
    else if (text !== query) setText(query);
    else if (onClose) onClose();
    else input.current?.blur();
    event.preventDefault();
  };
  return (
    <div className="min-w-0 flex-1">
      <input
        ref={input}
        autoFocus={onClose !== undefined}
        aria-label="Query"
        aria-invalid={error !== undefined}
        className={`h-8 w-full rounded border bg-card px-2.5 font-mono text-[12px] outline-none ${error ? 'border-red' : 'border-ink-3 focus:border-spruce'}`}
        value={text}
        spellCheck={false}
        placeholder="term:Delta rating:>=3"
        onChange={(event) => setText(event.target.value)}
        onKeyDown={onKeyDown}
        onBlur={commit}
      />
      {error ? (
        <Misunderstood text={text} error={error} asked={text === query} onWords={(words) => show({ query: words })} />
      ) : (
        problem && <Problem message={problem} />
      )}
    </div>
  );
}

function Problem({ message }: { message: string }) {
  return (
    <p role="status" className="mt-1 px-1 text-[12px] text-red">
      Not understood: {message}.
    </p>
  );
}

function Tokens({ query, sort, show, input, problem }: FieldProps) {
  const [text, setText] = useState('');
  /** The token that is edited where it stands; null: what is typed comes last. */
  const [edited, setEdited] = useState<number | null>(null);
  const [hasFocus, setHasFocus] = useState(false);
  const line = useRef<HTMLDivElement>(null);
  const tokens = tokensOf(query);
  const others = edited === null ? tokens : replaced(tokens, edited, '');
  const { data: suggested = [] } = useSuggestions(text, joined(others));
  const { data: recent = [] } = useRecentSearches(hasFocus && text === '' && edited === null);
  const isEmpty = text.trim() === '';
  const suggestions: Suggestion[] = isEmpty
    ? recent
        .filter((search) => search.query !== query)
        .slice(0, 8)
        .map((search) => ({ kind: 'search', label: search.query, detail: '', query: search.query, photos: null }))
    : suggested;
  const error = isEmpty ? undefined : parseQuery(text).errors[0];

  const finish = () => {
    setText('');
    setEdited(null);
  };
  const commit = (more: string) => {
    show({ query: joined(edited === null ? [...tokens, more] : replaced(tokens, edited, more)) });
    finish();
  };
  const edit = (place: number) => {
    setEdited(place);
    setText(tokens[place] ?? '');
    setTimeout(() => input.current?.select());
  };
  const take = (suggestion: Suggestion) => {
    if (isEmpty) {
      show({ query: suggestion.query, sort: recent.find((search) => search.query === suggestion.query)?.sort ?? sort });
      finish();
    } else if (suggestion.kind === 'field') {
      setText(suggestion.query);
      input.current?.focus();
    } else commit(suggestion.query);
  };
  const onKeyDown = (event: KeyboardEvent<HTMLInputElement>, list: { isOpen: boolean; inFocus: boolean }) => {
    const atStart = event.currentTarget.selectionStart === 0 && event.currentTarget.selectionEnd === 0;
    if (event.key === 'Enter') {
      if (list.inFocus) return false;
      if (!error && (text.trim() || edited !== null)) commit(text.trim());
    } else if (event.key === 'Escape') {
      if (list.isOpen) return false;
      if (edited !== null || text !== '') finish();
      else input.current?.blur();
    } else if (
      (event.key === 'Backspace' || event.key === 'ArrowLeft') &&
      text === '' &&
      edited === null &&
      tokens.length
    )
      edit(tokens.length - 1);
    else if (event.key === 'ArrowLeft' && atStart && edited !== null && edited > 0) edit(edited - 1);
    else return false;
    return true;
  };
  const field = (
    <Combobox
      key="field"
      ref={input}
      anchor={line}
      label={edited === null ? 'Query' : 'Token of the query'}
      listLabel={isEmpty ? 'Asked lately' : 'Suggestions'}
      text={text}
      onText={setText}
      opensEmpty
      optionClass="items-baseline gap-2 px-3 py-1"
      options={suggestions.map((suggestion, i) => ({
        key: `${suggestion.kind} ${suggestion.query} ${i}`,
        content: <Suggested suggestion={suggestion} asked={isEmpty} />,
        onPick: () => take(suggestion),
      }))}
      aria-invalid={error !== undefined}
      placeholder={tokens.length ? 'add …' : 'Words, a term, or a field like rating:>=3'}
      className={`h-6 bg-transparent px-1 outline-none placeholder:text-ink-3 ${edited === null ? 'min-w-24 flex-1' : 'rounded bg-spruce-pale font-mono text-[12px]'}`}
      style={edited === null ? undefined : { width: `${Math.max(8, text.length + 2)}ch`, maxWidth: '100%' }}
      spellCheck={false}
      onKeyDown={onKeyDown}
      onFocus={() => setHasFocus(true)}
      onBlur={() => {
        setHasFocus(false);
        // What was typed into a token is not lost; what was typed for a new one, or is not understood, stays in the line.
        if (edited !== null && !error) commit(text);
      }}
    />
  );
  return (
    <div className="min-w-0 flex-1">
      <div
        ref={line}
        className={`flex min-h-8 flex-wrap items-center gap-1 rounded border px-1.5 py-[3px] ${error ? 'border-red' : 'border-ink-3 focus-within:border-spruce'}`}
        onClick={() => input.current?.focus()}
      >
        {tokens.map((token, i) =>
          i === edited ? (
            field
          ) : (
            <Token
              key={`${i} ${token}`}
              token={token}
              onEdit={() => edit(i)}
              onRemove={() => show({ query: joined(replaced(tokens, i, '')) })}
            />
          ),
        )}
        {edited === null && field}
      </div>
      {error ? <Misunderstood text={text} error={error} onWords={commit} /> : problem && <Problem message={problem} />}
    </div>
  );
}

/** A suggestion, or a query asked lately. */
function Suggested({ suggestion, asked }: { suggestion: Suggestion; asked: boolean }) {
  return (
    <>
      <span className="w-14 shrink-0 text-[12px] text-ink-3">{asked ? 'asked' : KIND_LABELS[suggestion.kind]}</span>
      <span className={asked ? 'truncate font-mono text-[12px]' : 'font-semibold whitespace-nowrap'}>
        {suggestion.label}
      </span>
      <span className="truncate text-[12px] text-ink-2">{suggestion.detail}</span>
      {suggestion.photos !== null && (
        <span className="figures ml-auto text-ink-2">{numberText(suggestion.photos)}</span>
      )}
    </>
  );
}

const KIND_LABELS: Record<Suggestion['kind'], string> = {
  term: 'term',
  person: 'person',
  place: 'place',
  folder: 'folder',
  drive: 'drive',
  camera: 'camera',
  lens: 'lens',
  dossier: 'dossier',
  field: 'field',
  value: 'value',
  search: 'search',
};

function Token({ token, onEdit, onRemove }: { token: string; onEdit: () => void; onRemove: () => void }) {
  const { query } = parseQuery(token);
  const denies = query.kind === 'not';
  const part = denies ? query.of : query;
  const name = part.kind === 'criterion' ? criterionOf(part.criterion)?.label : undefined;
  const operator =
    part.kind === 'criterion' && part.operator !== '=' && part.operator !== '..' ? `${part.operator} ` : '';
  const like = part.kind === 'criterion' && part.criterion === 'like' ? likeAsked(part.value) : undefined;
  const { data: liked } = usePhoto(like?.photoId);
  const value = like
    ? `${liked?.name ?? like.photoId}${like.strictness === 'usual' ? '' : ` (${like.strictness})`}`
    : part.kind === 'criterion'
      ? `${operator}${part.value}${part.to ? ` – ${part.to}` : ''}`
      : queryText(part);
  return (
    <span
      className={`flex max-w-full items-center gap-1.5 rounded py-0.5 pr-2 ${denies ? 'bg-red-pale text-red' : 'bg-ground'}`}
    >
      <button
        type="button"
        aria-label={`Edit ${token}`}
        className="flex min-w-0 items-center gap-1.5 pl-2"
        onClick={(event) => {
          event.stopPropagation();
          onEdit();
        }}
      >
        {(denies || name) && (
          <span className={denies ? '' : 'text-ink-2'}>{[denies && 'not', name].filter(Boolean).join(' ')}</span>
        )}
        <b className="truncate font-semibold">{value}</b>
      </button>
      <button
        type="button"
        aria-label={`Remove ${token}`}
        className="text-ink-3 hover:text-ink"
        onClick={(event) => {
          event.stopPropagation();
          onRemove();
        }}
      >
        <X size={12} />
      </button>
    </span>
  );
}
