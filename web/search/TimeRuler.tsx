// The time ruler: how many photos of the result were taken when. A slim line until it is pointed at or has the focus; then it lies over what is
// below it. Dragging selects a stretch, as do the arrow keys with
// Shift; it zooms from decades to hours.

import { addSeconds, differenceInSeconds, format, parseISO, subSeconds } from 'date-fns';
import { CalendarDays, ZoomIn, ZoomOut } from 'lucide-react';
import { useId, useRef, useState, type KeyboardEvent, type PointerEvent, type Ref } from 'react';
import { withoutFacet } from '@stellin/core/search/facets';
import { parseQuery, queryText } from '@stellin/core/search/language';
import { allOf, type Query } from '@stellin/core/query/query';
import { stretchText, type RulerUnit } from '@stellin/core/search/ruler';
import { countText, numberText } from '@stellin/contract/wording';
import { useRuler } from './queries';

interface Props {
  query: string;
  show: (change: { query: string }) => void;
  onCalendar: () => void;
  ref?: Ref<HTMLDivElement>;
}

interface Stretch {
  from: string;
  to: string;
  photos: number;
}

/** How far keys go. */
const KEY_STEPS: Readonly<Record<string, number>> = {
  ...{ ArrowLeft: -1, ArrowRight: 1, PageUp: -10, PageDown: 10, Home: -1e9, End: 1e9 },
};

export function TimeRuler({ query, show, onCalendar, ref }: Props) {
  const [view, setView] = useState<{ from: string; to: string } | null>(null);
  const { data, isPlaceholderData: isBusy } = useRuler(query, view);
  const [at, setAt] = useState<number | null>(null);
  const [anchor, setAnchor] = useState<number | null>(null);
  const dragging = useRef(false);
  const bars = useRef<HTMLDivElement>(null);
  const listId = useId();
  if (!data || (data.whole === null && data.chosen === null)) return null;
  const { unit, stretches, chosen, whole, missing } = data;
  const most = Math.max(1, ...stretches.map(({ photos }) => photos));
  const [low, high] = at === null ? [-1, -1] : [Math.min(anchor ?? at, at), Math.max(anchor ?? at, at)];

  const ask = (first: number, last: number) => {
    const [from, to] = [stretches[first], stretches[last]];
    if (!from || !to) return;
    const rest = withoutFacet(parseQuery(query).query, 'year');
    show({ query: queryText(allOf([rest, stretchQuery(unit, from, to)])) });
    setAnchor(null);
  };
  const clear = () => {
    show({ query: queryText(withoutFacet(parseQuery(query).query, 'year')) });
    setAt(null);
    setAnchor(null);
  };
  const zoomIn = () => {
    const [first, last] = at === null ? chosenPlaces(stretches, chosen) : [low, high];
    const [from, to] = [stretches[first], stretches[last]];
    if (from && to && unit !== 'hour') setView({ from: from.from, to: to.to });
    setAt(null);
    setAnchor(null);
  };
  const zoomOut = () => {
    setView((before) => before && wider(before, whole));
    setAt(null);
    setAnchor(null);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const step = KEY_STEPS[event.key];
    // Bars that are about to be others are not chosen from.
    if (isBusy && (step !== undefined || event.key === 'Enter')) event.preventDefault();
    else if (step !== undefined) {
      const from = at ?? (step > 0 ? -1 : stretches.length);
      const target = Math.max(0, Math.min(stretches.length - 1, from + step));
      setAnchor(event.shiftKey ? (anchor ?? at ?? target) : null);
      setAt(target);
    } else if (event.key === 'Enter' && at !== null) ask(low, high);
    else if (event.key === '+') zoomIn();
    else if (event.key === '-') zoomOut();
    else if (event.key === 'Escape') clear();
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const placeAt = (event: PointerEvent): number => {
    const box = bars.current?.getBoundingClientRect();
    if (!box) return 0;
    const place = Math.floor(((event.clientX - box.left) / box.width) * stretches.length);
    return Math.max(0, Math.min(stretches.length - 1, place));
  };

  return (
    <div data-not-printed className="group relative z-20 h-7 shrink-0 border-b border-line bg-card">
      <div className="absolute inset-x-0 top-0 flex items-end gap-2 border-line bg-card px-3 pt-1 group-focus-within:border-b group-focus-within:shadow group-hover:border-b group-hover:shadow">
        <div
          ref={ref}
          role="listbox"
          tabIndex={0}
          aria-label={`Time ruler by ${unit}`}
          aria-multiselectable="true"
          aria-busy={isBusy}
          aria-activedescendant={at === null ? undefined : `${listId}-${at}`}
          className="relative min-w-0 flex-1 touch-none select-none"
          onKeyDown={onKeyDown}
          onPointerDown={(event) => {
            dragging.current = true;
            event.currentTarget.setPointerCapture(event.pointerId);
            const place = placeAt(event);
            setAnchor(place);
            setAt(place);
          }}
          onPointerMove={(event) => dragging.current && setAt(placeAt(event))}
          onPointerUp={(event) => {
            if (!dragging.current) return;
            dragging.current = false;
            const place = placeAt(event);
            ask(Math.min(anchor ?? place, place), Math.max(anchor ?? place, place));
          }}
          onDoubleClick={zoomIn}
        >
          <div ref={bars} className="flex h-[22px] items-end group-focus-within:h-10 group-hover:h-10">
            {stretches.map((stretch, i) => (
              <Bar
                key={stretch.from}
                id={`${listId}-${i}`}
                {...{ stretch, unit, chosen, most }}
                picked={i >= low && i <= high}
              />
            ))}
          </div>
          <Axis unit={unit} stretches={stretches} />
        </div>
        <RulerTools
          {...{ missing, onCalendar }}
          onZoomIn={unit === 'hour' ? undefined : zoomIn}
          onZoomOut={view === null ? undefined : zoomOut}
          onClear={chosen === null ? undefined : clear}
        />
      </div>
    </div>
  );
}

interface BarProps {
  id: string;
  stretch: Stretch;
  unit: RulerUnit;
  chosen: Chosen;
  /** Photos of the fullest stretch. */
  most: number;
  picked: boolean;
}

function Bar({ id, stretch, unit, chosen, most, picked }: BarProps) {
  const { from, photos } = stretch;
  const label = `${labelOf(unit, from)}: ${countText(photos, 'photo')}`;
  return (
    <div
      id={id}
      role="option"
      aria-selected={picked || isChosen(stretch, chosen)}
      aria-label={label}
      title={label}
      className={`flex h-full min-w-0 flex-1 items-end border-r border-card ${picked ? 'bg-spruce-pale' : 'hover:bg-ground'}`}
    >
      <span
        className={`block w-full ${isChosen(stretch, chosen) || chosen === null ? 'bg-spruce' : 'bg-ink-3/40'}`}
        style={{ height: photos === 0 ? 0 : `max(2px, ${(100 * Math.sqrt(photos / most)).toFixed(1)}%)` }}
      />
    </div>
  );
}

interface ToolsProps {
  /** So many photos have no date. */
  missing: number;
  onCalendar: () => void;
  /** Undefined where it can’t be done. */
  onZoomIn: (() => void) | undefined;
  onZoomOut: (() => void) | undefined;
  onClear: (() => void) | undefined;
}

function RulerTools({ missing, onCalendar, onZoomIn, onZoomOut, onClear }: ToolsProps) {
  return (
    <div className="flex items-center gap-1 text-[12px] text-ink-2 group-focus-within:pb-1 group-hover:pb-1">
      {missing > 0 && <span className="figures whitespace-nowrap">{numberText(missing)} undated</span>}
      <IconButton label="Calendar" disabled={false} onClick={onCalendar}>
        <CalendarDays size={15} />
      </IconButton>
      <IconButton label="Zoom in on the chosen stretch" disabled={!onZoomIn} onClick={onZoomIn}>
        <ZoomIn size={15} />
      </IconButton>
      <IconButton label="Zoom out" disabled={!onZoomOut} onClick={onZoomOut}>
        <ZoomOut size={15} />
      </IconButton>
      {onClear && (
        <button type="button" className="text-slate hover:underline" onClick={onClear}>
          All years
        </button>
      )}
    </div>
  );
}

interface IconProps {
  label: string;
  disabled: boolean;
  onClick: (() => void) | undefined;
  children: React.ReactNode;
}

function IconButton(props: IconProps) {
  return (
    <button
      type="button"
      aria-label={props.label}
      title={props.label}
      disabled={props.disabled}
      className="rounded p-1 text-ink-2 hover:bg-ground hover:text-ink disabled:opacity-40"
      onClick={props.onClick}
    >
      {props.children}
    </button>
  );
}

const MAX_LABELS = 13;

/** Names some stretches, as many as have room. */
function Axis({ unit, stretches }: { unit: RulerUnit; stretches: readonly Stretch[] }) {
  const every = Math.ceil(stretches.length / MAX_LABELS);
  return (
    <div
      className="relative hidden h-4 text-[11px] text-ink-3 group-focus-within:block group-hover:block"
      aria-hidden="true"
    >
      {stretches.map(({ from }, i) =>
        i % every === 0 && i + every <= stretches.length + every / 2 ? (
          <span
            key={from}
            className="figures absolute whitespace-nowrap"
            style={{ left: `${(100 * i) / stretches.length}%` }}
          >
            {axisLabel(unit, from)}
          </span>
        ) : null,
      )}
    </div>
  );
}

const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];

function monthOf(from: string): string {
  return MONTHS[Number(from.slice(5, 7)) - 1] ?? '';
}

function axisLabel(unit: RulerUnit, from: string): string {
  const labels: Record<RulerUnit, string> = {
    decade: `${from.slice(0, 4)}s`,
    year: from.slice(0, 4),
    month: `${monthOf(from)} ${from.slice(0, 4)}`,
    day: `${Number(from.slice(8, 10))} ${monthOf(from)}`,
    hour: `${Number(from.slice(8, 10))} ${monthOf(from)} ${from.slice(11, 13)} h`,
  };
  return labels[unit];
}

function labelOf(unit: RulerUnit, from: string): string {
  return unit === 'day' || unit === 'hour' ? `${axisLabel(unit, from)} ${from.slice(0, 4)}` : axisLabel(unit, from);
}

function stretchQuery(unit: RulerUnit, first: Stretch, last: Stretch): Query {
  const [value, to] = [stretchText(unit, first.from), stretchText(unit, last.from)];
  return value === to
    ? { kind: 'criterion', criterion: 'taken', operator: '=', value }
    : { kind: 'criterion', criterion: 'taken', operator: '..', value, to };
}

type Chosen = { from: string | null; to: string | null } | null;

function isChosen({ from, to }: Stretch, chosen: Chosen): boolean {
  return chosen !== null && (chosen.from === null || to > chosen.from) && (chosen.to === null || from < chosen.to);
}

function chosenPlaces(stretches: readonly Stretch[], chosen: Chosen): [number, number] {
  const places = stretches.flatMap((stretch, i) => (isChosen(stretch, chosen) ? [i] : []));
  return [places[0] ?? -1, places.at(-1) ?? -1];
}

/** Three times as wide, but no wider than all photos; null for the whole. */
function wider({ from, to }: { from: string; to: string }, whole: { from: string; to: string } | null) {
  const [start, end] = [parseISO(from), parseISO(to)];
  const length = differenceInSeconds(end, start);
  const text = (time: Date) => format(time, "yyyy-MM-dd'T'HH:mm:ss");
  const next = { from: text(subSeconds(start, length)), to: text(addSeconds(end, length)) };
  return whole && next.from <= whole.from && next.to >= whole.to ? null : next;
}
