// How pages of the calendar and events are named for people.

import { format, parseISO } from 'date-fns';
import type { CalendarUnit } from '@stellin/core/timeplace/calendar';

/** A page by itself: `1932`, `July`, `4`. */
export function pageText(unit: CalendarUnit, name: string): string {
  const texts: Record<CalendarUnit, () => string> = {
    year: () => name,
    month: () => format(parseISO(name), 'LLLL'),
    day: () => String(Number(name.slice(8))),
  };
  return texts[unit]();
}

/** A page with all it lies in: `1932`, `July 1932`, `4 July 1932`. */
export function pageInFull(unit: CalendarUnit, name: string): string {
  const patterns: Record<CalendarUnit, string> = { year: 'yyyy', month: 'LLLL yyyy', day: 'd LLLL yyyy' };
  return format(parseISO(name), patterns[unit]);
}

/** When an event was: of one day the hours, of several the days. */
export function spanText(from: string, to: string): string {
  const [start, end] = [parseISO(from), parseISO(to)];
  if (from.slice(0, 16) === to.slice(0, 16)) return format(start, 'd LLL yyyy, HH:mm');
  if (from.slice(0, 10) === to.slice(0, 10)) return `${format(start, 'd LLL yyyy, HH:mm')} – ${format(end, 'HH:mm')}`;
  if (from.slice(0, 7) === to.slice(0, 7)) return `${format(start, 'd')} – ${format(end, 'd LLL yyyy')}`;
  return `${format(start, 'd LLL')} – ${format(end, 'd LLL yyyy')}`;
}

/** In which column of a week a day stands, Monday in the first: 0 to 6. */
export function weekdayColumn(day: string): number {
  return (parseISO(day).getDay() + 6) % 7;
}
