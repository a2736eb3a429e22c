// The calendar: the years of a span of time, the months of a year, or the days of a month.

import { edtfInterval } from './edtf';

export const CALENDAR_UNITS = ['year', 'month', 'day'] as const;
export type CalendarUnit = (typeof CALENDAR_UNITS)[number];

/** Neighbouring stretches of one unit. */
export interface CalendarPages {
  unit: CalendarUnit;
  /** As a query says each: `1932`, `1932-07`, `1932-07-04`; ascending. */
  names: string[];
  /** Seconds since 1970, local time as if UTC: each page from one up to the next. */
  bounds: number[];
}

const MONTHS_PER_YEAR = 12;
const SECONDS_PER_DAY = 86_400;

/** A year or a month, as a page is named. */
const PART = /^\d{4}(-\d\d)?$/;

/** Whether a text names a year or a month of the calendar. */
export function isCalendarPart(text: string): boolean {
  return PART.test(text) && edtfInterval(text) !== undefined && !/-2[1-4]$/.test(text);
}

/** What a part of the calendar is cut into: a year into months, a month into days. Throws a RangeError when it is neither. */
export function pagesWithin(part: string): CalendarPages {
  if (!isCalendarPart(part)) throw new RangeError(`${part} is no year and no month`);
  const [from, to] = spanOf(part);
  const unit = part.length === 4 ? 'month' : 'day';
  const count = unit === 'month' ? MONTHS_PER_YEAR : (to - from) / SECONDS_PER_DAY;
  return pagesOf(
    unit,
    Array.from({ length: count }, (_, i) => `${part}-${String(i + 1).padStart(2, '0')}`),
  );
}

/** The years of a span, in seconds: the last `most` of them where there are more. */
export function yearsOf(from: number, until: number, most: number): CalendarPages {
  const [first, last] = [yearOf(from), yearOf(until - 1)];
  const count = Math.min(most, last - first + 1);
  return pagesOf(
    'year',
    Array.from({ length: count }, (_, i) => String(last - count + 1 + i).padStart(4, '0')),
  );
}

function pagesOf(unit: CalendarUnit, names: string[]): CalendarPages {
  const spans = names.map(spanOf);
  return { unit, names, bounds: [...spans.map(([from]) => from), spans.at(-1)?.[1] ?? 0] };
}

/** From when until when a page goes, in seconds. */
function spanOf(name: string): [from: number, until: number] {
  const { from = '', to = '' } = edtfInterval(name) ?? {};
  return [Date.parse(`${from}Z`) / 1000, Date.parse(`${to}Z`) / 1000];
}

function yearOf(seconds: number): number {
  return new Date(seconds * 1000).getUTCFullYear();
}
