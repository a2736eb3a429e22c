// The calendar of a result: years, months of a year, days of a month, each with its photos; and the events in it.

import { ArrowLeft, X } from 'lucide-react';
import { useState } from 'react';
import { ofPage } from '@stellin/core/search/calendarQuery';
import { choiceOf } from '@stellin/core/search/facets';
import { parseQuery, queryText } from '@stellin/core/search/language';
import { isCalendarPart } from '@stellin/core/timeplace/calendar';
import type { CalendarShown } from '@stellin/contract/calendar';
import { countText } from '@stellin/contract/wording';
import { Button } from '../parts/Button';
import { Queried } from '../parts/Queried';
import { Events } from './Events';
import { Pages } from './Pages';
import { pageInFull } from './calendarText';
import { useCalendar } from './queries';

interface Props {
  query: string;
  show: (change: { query: string }) => void;
  mayName: boolean;
  onClose: () => void;
}

export function Calendar({ query, show, mayName, onClose }: Props) {
  const [part, setPart] = useState(() => partOf(query));
  const calendar = useCalendar(query, part);
  const look = (next: string) => {
    show({ query: next });
    onClose();
  };
  const up = () => (part === '' ? onClose() : setPart(part.length === 4 ? '' : part.slice(0, 4)));
  return (
    <section
      aria-label="Calendar"
      className="flex min-h-0 min-w-0 flex-1 flex-col bg-ground"
      onKeyDown={(event) => {
        if (event.key !== 'Escape' && event.key !== 'Backspace') return;
        event.preventDefault();
        event.stopPropagation();
        if (event.key === 'Escape') onClose();
        else up();
      }}
    >
      <header className="flex items-center gap-3 border-b border-line bg-card px-3 py-1.5">
        <Button aria-label="One step out" disabled={part === ''} onClick={up}>
          <ArrowLeft size={15} />
        </Button>
        <Trail part={part} onPart={setPart} />
        {calendar.data && <Counts shown={calendar.data} />}
        <span className="ml-auto flex gap-2">
          {part !== '' && (
            <Button onClick={() => look(queryText(ofPage(parseQuery(query).query, part)))}>
              Show {pageInFull(part.length === 4 ? 'year' : 'month', part)}
            </Button>
          )}
          <Button aria-label="Close the calendar" onClick={onClose}>
            <X size={15} />
          </Button>
        </span>
      </header>
      <div className="flex min-h-0 flex-1">
        <div key={part} className="min-w-0 flex-1 overflow-y-auto p-3">
          <Queried query={calendar} pending={<p className="text-ink-2">Counting …</p>}>
            {(shown) => (
              <Pages
                key={shown.part}
                shown={shown}
                onOpen={(page) => (shown.unit === 'day' ? look(page.query) : setPart(page.name))}
              />
            )}
          </Queried>
        </div>
        <Events query={query} part={part} mayName={mayName} onShow={look} />
      </div>
    </section>
  );
}

/** Where one is, with the way back. */
function Trail({ part, onPart }: { part: string; onPart: (part: string) => void }) {
  const steps = [
    { part: '', text: 'All years' },
    ...(part === '' ? [] : [{ part: part.slice(0, 4), text: part.slice(0, 4) }]),
    ...(part.length > 4 ? [{ part, text: pageInFull('month', part) }] : []),
  ];
  return (
    <nav aria-label="Where in the calendar" className="flex items-baseline gap-2">
      {steps.map((step, i) =>
        i === steps.length - 1 ? (
          <h2 key={step.part} className="font-title text-[17px] font-semibold">
            {step.text}
          </h2>
        ) : (
          <span key={step.part} className="flex gap-2">
            <button type="button" className="text-slate hover:underline" onClick={() => onPart(step.part)}>
              {step.text}
            </button>
            <span className="text-ink-3">›</span>
          </span>
        ),
      )}
    </nav>
  );
}

function Counts({ shown: { photos, roughly, undated, unit } }: { shown: CalendarShown }) {
  return (
    <p className="figures text-[12px] text-ink-2">
      {countText(photos, 'photo')}
      {roughly > 0 && `, ${roughly} of them not known to the day`}
      {unit === 'year' && undated > 0 && `; ${undated} undated`}
    </p>
  );
}

/** The year or month that a query asks for; '' for all years. */
function partOf(query: string): string {
  const { any } = choiceOf(parseQuery(query).query, 'year');
  const [only] = any;
  const value = any.length === 1 && only?.operator === '=' ? only.value : '';
  const known = [value.slice(0, 7), value.slice(0, 4)].find((text) => /^\d{4}/.test(value) && isCalendarPart(text));
  return known ?? '';
}
