// Dates as they are typed in a query: EDTF, or relative to the day on which the query is asked.

import { edtfInterval, type DateInterval } from '../timeplace/edtf';

export type { DateInterval } from '../timeplace/edtf';

/** The interval a date stands for, undefined when it is none. `today` is the day of asking, `YYYY-MM-DD`. */
export function dateInterval(text: string, today: string): DateInterval | undefined {
  return edtfInterval(text) ?? relativeInterval(text, today);
}

/** Whether a text is a date, whatever the day. */
export function isDate(text: string): boolean {
  return dateInterval(text, '2000-01-01') !== undefined;
}

type Unit = 'day' | 'week' | 'month' | 'year';

/** What a query may say instead of a date. */
export const RELATIVE_DATES = [
  'today',
  'yesterday',
  'this week',
  'this month',
  'this year',
  'last week',
  'last month',
  'last year',
  'last 7 days',
] as const;

/** `today`, `yesterday`, `this month`, `last year` (the whole one before), `last 7 days` (today and the six before it). */
function relativeInterval(text: string, today: string): DateInterval | undefined {
  const said = text.trim().toLowerCase();
  const now = Date.parse(`${today}T00:00:00Z`);
  if (said === 'today') return days(now, 1);
  if (said === 'yesterday') return days(shift(now, 'day', -1), 1);
  const match = /^(this|last)(?: (\d{1,4}))? (day|week|month|year)(s?)$/.exec(said);
  if (!match) return undefined;
  const [, which, count, unit, plural] = match as unknown as [string, string, string | undefined, Unit, string];
  if (count !== undefined) {
    if (which === 'this' || Number(count) === 0 || (plural === '') !== (Number(count) === 1)) return undefined;
    const tomorrow = shift(now, 'day', 1);
    return interval(shift(tomorrow, unit, -Number(count)), tomorrow);
  }
  if (plural) return undefined;
  const begin = beginOf(now, unit);
  return which === 'this' ? interval(begin, shift(begin, unit, 1)) : interval(shift(begin, unit, -1), begin);
}

function days(from: number, count: number): DateInterval {
  return interval(from, shift(from, 'day', count));
}

function interval(from: number, to: number): DateInterval {
  return { from: textOf(from), to: textOf(to) };
}

function textOf(time: number): string {
  return new Date(time).toISOString().slice(0, 19);
}

/** Weeks begin on Monday (ISO 8601). */
function beginOf(time: number, unit: Unit): number {
  const date = new Date(time);
  if (unit === 'week') return shift(time, 'day', -((date.getUTCDay() + 6) % 7));
  if (unit === 'month') date.setUTCDate(1);
  if (unit === 'year') date.setUTCMonth(0, 1);
  return date.getTime();
}

function shift(time: number, unit: Unit, by: number): number {
  const date = new Date(time);
  if (unit === 'day') date.setUTCDate(date.getUTCDate() + by);
  else if (unit === 'week') date.setUTCDate(date.getUTCDate() + 7 * by);
  else {
    const day = date.getUTCDate();
    date.setUTCDate(1);
    date.setUTCMonth(date.getUTCMonth() + (unit === 'month' ? by : 12 * by));
    const last = new Date(Date.UTC(date.getUTCFullYear(), date.getUTCMonth() + 1, 0)).getUTCDate();
    date.setUTCDate(Math.min(day, last));
  }
  return date.getTime();
}
