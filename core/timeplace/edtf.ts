// Dates that may be uncertain, after the Extended Date/Time Format (EDTF, ISO 8601-2:2019; Library of Congress, levels 0
// and 1 and the decades of level 2), as intervals of local time.

export interface DateInterval {
  /** `YYYY-MM-DDTHH:MM:SS`, the first moment in it; undefined when it is open. */
  from?: string;
  /** The first moment after it; undefined when it is open. */
  to?: string;
}

/** Months with which the seasons 21 to 24 begin, as on the northern half. */
const SEASON_MONTHS: Readonly<Record<number, number>> = { 21: 3, 22: 6, 23: 9, 24: 12 };
const QUALIFIER = /[?~%]$/;

/**
 * The interval that a date stands for: `2019`, `2019-06`, `2019-06-11`, `2019-06-11T14:30`, `193X`, `19XX`, `2019-06-XX`,
 * `1951-22` (summer), `1932~`, `1930/1939`, `../1940`, `1930/..`. Undefined when it is none (`2019-13`). Qualifiers (`?`
 * uncertain, `~` about, `%` both) are allowed and do not widen it.
 */
export function edtfInterval(text: string): DateInterval | undefined {
  const [start, end, ...more] = text.split('/');
  if (start === undefined || more.length > 0) return undefined;
  if (end === undefined) return simpleInterval(start);
  const from = openEnd(start) ? {} : simpleInterval(start);
  const to = openEnd(end) ? {} : simpleInterval(end);
  if (!from || !to || (openEnd(start) && openEnd(end))) return undefined;
  if (from.from && to.to && from.from >= to.to) return undefined;
  return { ...(from.from ? { from: from.from } : {}), ...(to.to ? { to: to.to } : {}) };
}

function openEnd(text: string): boolean {
  return text === '..' || text === '';
}

function simpleInterval(written: string): DateInterval | undefined {
  const text = written.replace(QUALIFIER, '').toUpperCase();
  const match = /^(\d{4}|\d{3}X|\d{2}XX)(?:-(\d{2}|XX)(?:-(\d{2}|XX)(?:T(\d{2})(?::(\d{2})(?::(\d{2}))?)?)?)?)?$/.exec(
    text,
  );
  if (!match) return undefined;
  const [, years = '', month, day, ...time] = match;
  const unknown = years.length - years.replaceAll('X', '').length;
  if (unknown > 0) return month === undefined ? span([Number(years.replaceAll('X', '0'))], 10 ** unknown) : undefined;
  const year = Number(years);
  if (month === undefined || month === 'XX') return day === undefined || day === 'XX' ? span([year]) : undefined;
  const season = SEASON_MONTHS[Number(month)];
  if (season) return day === undefined ? span([year, season], 3) : undefined;
  if (day === undefined || day === 'XX') return time[0] === undefined ? span([year, Number(month)]) : undefined;
  return span([year, Number(month), Number(day), ...time.filter((part) => part !== undefined).map(Number)]);
}

/** The interval of so many units of the last part given: years, months, days, hours, minutes, seconds. */
function span(given: number[], length = 1): DateInterval | undefined {
  const [year = 0, month = 1, day = 1, hour = 0, minute = 0, second = 0] = given;
  if (year === 0) return undefined;
  const parts = [year, month, day, hour, minute, second];
  const start = utc(parts);
  const exact = [
    start.getUTCFullYear(),
    start.getUTCMonth() + 1,
    start.getUTCDate(),
    start.getUTCHours(),
    start.getUTCMinutes(),
    start.getUTCSeconds(),
  ];
  if (exact.join() !== parts.join()) return undefined;
  const end = utc(parts.map((part, i) => (i === given.length - 1 ? part + length : part)));
  return { from: localText(start), to: localText(end) };
}

function utc([year = 0, month = 1, day = 1, hour = 0, minute = 0, second = 0]: readonly number[]): Date {
  const date = new Date(0);
  // setUTCFullYear, since Date.UTC takes years below 100 for those of the last century.
  date.setUTCFullYear(year, month - 1, day);
  date.setUTCHours(hour, minute, second);
  return date;
}

function localText(date: Date): string {
  return date.toISOString().slice(0, 19);
}
