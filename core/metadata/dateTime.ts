// Dates as metadata has them: ISO 8601 of any precision, from a year to fractions of a second, with or without a zone.

export interface DateTimeParts {
  year: string;
  month?: string;
  day?: string;
  /** `HH:MM:SS`; seconds are 00 where only minutes are known. */
  time?: string;
  knowsSeconds?: boolean;
  /** Digits behind the full stop. */
  fraction?: string;
  /** `±HH:MM`, or `Z`. */
  zone?: string;
}

const DATE_TIME =
  /^(\d{4})(?:-(\d{2})(?:-(\d{2})(?:[T ](\d{2}):(\d{2})(?::(\d{1,2})(?:\.(\d{1,9}))?)?(Z|[+-]\d{2}:\d{2})?)?)?)?$/;

/** The parts of a date, undefined when it is none (`2019-13`, `2019-02-30`). */
export function dateTimeParts(text: string): DateTimeParts | undefined {
  const match = DATE_TIME.exec(text);
  if (!match) return undefined;
  const [, year = '', month, day, hour, minute, second, fraction, zone] = match;
  if (year === '0000') return undefined;
  if (month !== undefined && !isDay(Number(year), Number(month), Number(day ?? '1'))) return undefined;
  if (hour === undefined) return { year, month, day };
  if (Number(hour) > 23 || Number(minute) > 59 || Number(second ?? 0) > 59) return undefined;
  const time = `${hour}:${minute}:${(second ?? '0').padStart(2, '0')}`;
  return { year, month, day, time, knowsSeconds: second !== undefined, fraction, zone };
}

const MONTH_DAYS = [31, 29, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31];

function isDay(year: number, month: number, day: number): boolean {
  const isLeap = year % 4 === 0 && (year % 100 !== 0 || year % 400 === 0);
  return day >= 1 && day <= (month === 2 && !isLeap ? 28 : (MONTH_DAYS[month - 1] ?? 0));
}

/** The date with its zone in numbers, as most blocks have it. */
export function numericZone(text: string): string {
  return text.endsWith('Z') && dateTimeParts(text) ? `${text.slice(0, -1)}+00:00` : text;
}

/** Whether two dates can be the same moment: what one of them leaves open, the other may know. */
export function sameMoment(a: string, b: string): boolean {
  const [left, right] = [dateTimeParts(a), dateTimeParts(b)];
  if (!left || !right) return a === b;
  const open = (x: string | undefined, y: string | undefined) => x === undefined || y === undefined || x === y;
  const zone = (text: string | undefined) => (text === 'Z' ? '+00:00' : text);
  const fraction = (text: string | undefined) => text?.replace(/0+$/, '') || undefined;
  return (
    left.year === right.year &&
    open(left.month, right.month) &&
    open(left.day, right.day) &&
    open(left.time, right.time) &&
    open(fraction(left.fraction), fraction(right.fraction)) &&
    open(zone(left.zone), zone(right.zone))
  );
}
