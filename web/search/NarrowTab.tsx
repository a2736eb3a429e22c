// The Narrow tab: what the photos of the result have, facet by facet. A click narrows, a second value of the same facet
// widens; a value can be left out, or asked for alone.

import { Check, ChevronDown, ChevronRight, Minus } from 'lucide-react';
import { useDeferredValue, useState } from 'react';
import {
  excludeValue,
  FACETS,
  onlyValue,
  ownFacet,
  toggleValue,
  type Facet,
  type FacetId,
} from '@stellin/core/search/facets';
import { parseQuery, queryText } from '@stellin/core/search/language';
import type { Query } from '@stellin/core/query/query';
import { MAX_FACETS, type FacetResult, type FacetValue } from '@stellin/contract/search';
import { countText, numberText } from '@stellin/contract/wording';
import { useFacets, useOwnFields } from './queries';
import { TextField } from '../parts/Field';

interface Props {
  query: string;
  show: (change: { query: string }) => void;
}

const USUAL = 12;
const MORE = 200;
/** A facet with more values than this gets a field to search in them. */
const SEARCHED = 9;

type Step = (query: Query, id: FacetId, value: Query) => Query;

export function NarrowTab({ query, show }: Props) {
  const { data: own = [] } = useOwnFields();
  const known = [...FACETS, ...own.map(ownFacet)];
  const all = known.slice(0, MAX_FACETS);
  const { data: facets = [] } = useFacets(query, { facets: all.map(({ id }) => id), limit: USUAL });
  return (
    <div className="flex h-full overflow-x-auto" role="group" aria-label="Narrow the result">
      {all.map((facet) => {
        const result = facets.find(({ id }) => id === facet.id);
        // Fields of projects that nothing here says anything of would be empty columns.
        const isShown = result && (facet.criterion !== 'own' || result.distinct > 0 || result.values.length > 0);
        return isShown ? <FacetColumn key={facet.id} facet={facet} first={result} query={query} show={show} /> : null;
      })}
      {known.length > all.length && (
        <p className="w-40 shrink-0 p-3 text-[12px] text-ink-2">
          {countText(known.length - all.length, 'more field')} of projects can be asked for in the query only.
        </p>
      )}
    </div>
  );
}

function FacetColumn({ facet, first, query, show }: Props & { facet: Facet; first: FacetResult }) {
  const [typed, setTyped] = useState('');
  const [whole, setWhole] = useState(false);
  const containing = useDeferredValue(typed.trim());
  const isOwn = whole || containing !== '';
  const { data: own } = useFacets(
    query,
    isOwn ? { facets: [facet.id], limit: MORE, containing } : { facets: [facet.id], limit: USUAL },
  );
  const result = (isOwn ? own?.[0] : undefined) ?? first;
  const most = Math.max(1, ...result.values.map(({ photos }) => photos));
  const apply = (step: Step, value: string) =>
    show({ query: queryText(step(parseQuery(query).query, facet.id, parseQuery(value).query)) });
  const hidden = result.distinct - result.values.length;
  return (
    <section
      aria-label={facet.label}
      className={`flex h-full shrink-0 flex-col border-r border-line ${facet.id === 'term' ? 'w-60' : 'w-48'}`}
    >
      <h3 className="flex items-baseline justify-between px-3 pt-2 pb-1 font-semibold">
        {facet.label}
        <span className="figures text-[12px] font-normal text-ink-3">{numberText(first.distinct)}</span>
      </h3>
      {(first.distinct > SEARCHED || typed !== '') && (
        <TextField
          label={`Search ${facet.label.toLowerCase()}`}
          hideLabel
          type="search"
          placeholder="Search"
          className="mx-2 mb-1"
          boxClass="h-6 !px-2 text-[12px]"
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
        />
      )}
      <ul className="min-h-0 flex-1 overflow-y-auto px-1 pb-2">
        {result.values.map((value) => (
          <Value key={value.query} facet={facet} value={value} most={most} query={query} level={0} apply={apply} />
        ))}
        {result.missing && (result.missing.photos > 0 || result.missing.chosen) && (
          <ValueRow
            label="without"
            photos={result.missing.photos}
            most={most}
            chosen={result.missing.chosen ? 'any' : null}
            quiet
            onToggle={() => apply(toggleValue, result.missing?.query ?? '')}
          />
        )}
        {result.values.length === 0 && !result.missing?.photos && <li className="px-2 text-ink-3">nothing</li>}
        {hidden > 0 && !whole && containing === '' && facet.id !== 'term' && (
          <li>
            <button
              type="button"
              className="px-2 py-0.5 text-[12px] text-slate hover:underline"
              onClick={() => setWhole(true)}
            >
              {numberText(hidden)} more
            </button>
          </li>
        )}
      </ul>
    </section>
  );
}

interface ValueProps {
  facet: Facet;
  value: FacetValue;
  most: number;
  query: string;
  level: number;
  apply: (step: Step, value: string) => void;
}

function Value({ facet, value, most, query, level, apply }: ValueProps) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <ValueRow
        label={value.label}
        detail={value.detail}
        photos={value.photos}
        most={most}
        chosen={value.chosen}
        level={level}
        open={value.narrower ? open : undefined}
        onOpen={() => setOpen(!open)}
        onToggle={() => apply(toggleValue, value.query)}
        onExclude={() => apply(excludeValue, value.query)}
        onOnly={() => apply(onlyValue, value.query)}
      />
      {open && value.termId !== null && (
        <Narrower facet={facet} under={value.termId} most={most} query={query} level={level + 1} apply={apply} />
      )}
    </>
  );
}

/** The terms below one that photos of the result have. */
function Narrower({ facet, under, most, query, level, apply }: Omit<ValueProps, 'value'> & { under: number }) {
  const { data } = useFacets(query, { facets: ['term'], limit: MORE, under });
  return data?.[0]?.values.map((value) => (
    <Value key={value.query} facet={facet} value={value} most={most} query={query} level={level} apply={apply} />
  ));
}

interface RowProps {
  label: string;
  detail?: string;
  photos: number;
  most: number;
  chosen: 'any' | 'none' | null;
  level?: number;
  quiet?: boolean;
  /** Whether what is below is shown; undefined where there is nothing. */
  open?: boolean | undefined;
  onOpen?: () => void;
  onToggle: () => void;
  onExclude?: () => void;
  onOnly?: () => void;
}

function ValueRow({
  label,
  detail,
  photos,
  most,
  chosen,
  level = 0,
  quiet,
  open,
  onOpen,
  onToggle,
  onExclude,
  onOnly,
}: RowProps) {
  const looks = { any: 'bg-spruce-pale font-semibold', none: 'bg-red-pale text-red line-through' };
  return (
    <li className={`group relative flex items-center rounded ${chosen ? looks[chosen] : 'hover:bg-sheet'}`}>
      <span
        aria-hidden="true"
        className="absolute bottom-0 left-0 h-[2px] rounded bg-spruce/40"
        style={{ width: `${(100 * photos) / most}%` }}
      />
      {level > 0 && <span style={{ width: level * 12 }} className="shrink-0" />}
      {open !== undefined ? (
        <button
          type="button"
          aria-label={open ? `Fold ${label}` : `Narrower terms of ${label}`}
          aria-expanded={open}
          className="shrink-0 p-0.5 text-ink-3 hover:text-ink"
          onClick={onOpen}
        >
          {open ? <ChevronDown size={12} /> : <ChevronRight size={12} />}
        </button>
      ) : (
        <span className="w-4 shrink-0" />
      )}
      <button
        type="button"
        aria-pressed={chosen === 'any'}
        title={[detail, label].filter(Boolean).join(' › ')}
        className="flex min-w-0 flex-1 items-center gap-1.5 py-[3px] pr-1 text-left"
        onClick={onToggle}
      >
        {chosen === 'any' && <Check size={12} className="shrink-0 text-spruce" aria-hidden="true" />}
        {chosen === 'none' && <Minus size={12} className="shrink-0" aria-hidden="true" />}
        <span className={`truncate ${quiet ? 'text-ink-2 italic' : ''}`}>{label}</span>
        {detail && <span className="truncate text-[11px] text-ink-3">{detail}</span>}
        <span className="figures ml-auto pl-1 text-[12px] font-normal text-ink-2">{numberText(photos)}</span>
      </button>
      {onOnly && onExclude && (
        <span className="absolute right-0 hidden items-center gap-1 rounded bg-card pr-1 pl-1 text-[11px] shadow-sm group-focus-within:flex group-hover:flex">
          <button type="button" aria-label={`Only ${label}`} className="text-slate hover:underline" onClick={onOnly}>
            only
          </button>
          <button type="button" aria-label={`Not ${label}`} className="text-red hover:underline" onClick={onExclude}>
            not
          </button>
        </span>
      )}
    </li>
  );
}
