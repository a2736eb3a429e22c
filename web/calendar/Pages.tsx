// The pages of a part of the calendar in rows: by arrow keys from one to the next, Enter opens one.

import { useEffect, useRef, useState, type KeyboardEvent } from 'react';
import type { CalendarUnit } from '@stellin/core/timeplace/calendar';
import type { CalendarPage, CalendarShown } from '@stellin/contract/calendar';
import { countText, numberText } from '@stellin/contract/wording';
import { previewUrl } from '../foundation/api';
import { pageInFull, pageText, weekdayColumn } from './calendarText';

const COLUMNS: Readonly<Record<CalendarUnit, number>> = { year: 6, month: 4, day: 7 };
const HEIGHTS: Readonly<Record<CalendarUnit, string>> = { year: 'h-28', month: 'h-28', day: 'h-20' };
const WEEKDAYS = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'];

interface Props {
  shown: CalendarShown;
  onOpen: (page: CalendarPage) => void;
}

export function Pages({ shown: { unit, pages: all }, onOpen }: Props) {
  // Of years there may be many without a photo.
  const pages = unit === 'year' ? all.filter(({ photos }) => photos > 0) : all;
  const columns = COLUMNS[unit];
  const [at, setAt] = useState(() =>
    Math.max(
      0,
      pages.findIndex(({ photos }) => photos > 0),
    ),
  );
  const list = useRef<HTMLDivElement>(null);
  // Whoever opens it, or a page of it, goes on by keys from there.
  useEffect(() => list.current?.querySelector<HTMLElement>('[tabindex="0"]')?.focus(), []);
  const go = (to: number) => {
    const next = Math.max(0, Math.min(pages.length - 1, to));
    setAt(next);
    list.current?.querySelectorAll<HTMLElement>('[data-page]')[next]?.focus();
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const steps: Record<string, number> = {
      ...{ ArrowLeft: -1, ArrowRight: 1, ArrowUp: -columns, ArrowDown: columns },
      ...{ Home: -pages.length, End: pages.length },
    };
    const step = steps[event.key];
    if (step === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    go(at + step);
  };
  const [first] = pages;
  if (!first) return <p className="text-ink-2">No photo of this result has a date.</p>;
  return (
    <>
      {unit === 'day' && (
        <div className="mb-1 grid grid-cols-7 gap-1.5 text-[12px] text-ink-2" aria-hidden="true">
          {WEEKDAYS.map((name) => (
            <span key={name} className="truncate px-1">
              {name}
            </span>
          ))}
        </div>
      )}
      <div
        ref={list}
        role="group"
        aria-label={`By ${unit}`}
        className="grid gap-1.5"
        style={{ gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))` }}
        onKeyDown={onKeyDown}
      >
        {pages.map((page, i) => (
          <Page
            key={page.name}
            {...{ unit, page }}
            isReached={i === at}
            column={unit === 'day' && i === 0 ? weekdayColumn(page.name) + 1 : undefined}
            onFocus={() => setAt(i)}
            onOpen={() => page.photos > 0 && onOpen(page)}
          />
        ))}
      </div>
    </>
  );
}

interface PageProps {
  unit: CalendarUnit;
  page: CalendarPage;
  /** The one that Tab comes to. */
  isReached: boolean;
  column: number | undefined;
  onFocus: () => void;
  onOpen: () => void;
}

function Page({
  unit,
  page: { name, photos, photoId, previewVersion },
  isReached,
  column,
  onFocus,
  onOpen,
}: PageProps) {
  const isEmpty = photos === 0;
  return (
    <button
      type="button"
      data-page={name}
      tabIndex={isReached ? 0 : -1}
      aria-disabled={isEmpty}
      aria-label={`${pageInFull(unit, name)}: ${countText(photos, 'photo')}`}
      className={`relative flex overflow-hidden rounded border text-left ${HEIGHTS[unit]} ${isEmpty ? 'cursor-default border-line/60 text-ink-3' : 'border-line bg-card hover:border-spruce'}`}
      style={column === undefined ? undefined : { gridColumnStart: column }}
      onFocus={onFocus}
      onClick={onOpen}
    >
      {photoId !== null && previewVersion > 0 && (
        <img
          src={previewUrl(photoId, previewVersion)}
          alt=""
          loading="lazy"
          className="absolute inset-0 h-full w-full object-cover"
        />
      )}
      <span
        className={`relative m-1 h-fit rounded px-1.5 ${isEmpty ? '' : 'bg-card/90 font-semibold'} ${unit === 'day' ? 'text-[12px]' : 'text-[14px]'}`}
      >
        {pageText(unit, name)}
      </span>
      {!isEmpty && (
        <span className="figures absolute right-1 bottom-1 rounded bg-card/90 px-1.5 text-[12px]">
          {numberText(photos)}
        </span>
      )}
    </button>
  );
}
