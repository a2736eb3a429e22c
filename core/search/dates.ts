// Dates as they are typed in a query: a year, month, day, hour or minute, each an interval of local time.

export interface DateInterval {
  /** `YYYY-MM-DDTHH:MM:SS`, the first moment in it. */
  from: string;
  /** The first moment after it. */
  to: string;
}

/** The interval a date stands for, undefined when it is none (`2019-13`). */
export function dateInterval(text: string): DateInterval | undefined {
  const match = /^(\d{4})(?:-(\d{2})(?:-(\d{2})(?:T(\d{2})(?::(\d{2}))?)?)?)?$/.exec(text);
  if (!match) return undefined;
  const given = match
    .slice(1)
    .filter((part) => part !== undefined)
    .map(Number);
  const [year = 0, month = 1, day = 1, hour = 0, minute = 0] = given;
  if (year === 0) return undefined;
  const start = utc(year, month, day, hour, minute);
  const exact = [
    start.getUTCFullYear(),
    start.getUTCMonth() + 1,
    start.getUTCDate(),
    start.getUTCHours(),
    start.getUTCMinutes(),
  ];
  if (exact.join() !== [year, month, day, hour, minute].join()) return undefined;
  const last = given.length - 1;
  const step = [0, 1, 2, 3, 4].map((index) => (index === last ? 1 : 0));
  const end = utc(
    year + (step[0] ?? 0),
    month + (step[1] ?? 0),
    day + (step[2] ?? 0),
    hour + (step[3] ?? 0),
    minute + (step[4] ?? 0),
  );
  return { from: local(start), to: local(end) };
}

function utc(year: number, month: number, day: number, hour: number, minute: number): Date {
  const date = new Date(0);
  // setUTCFullYear, since Date.UTC takes years below 100 for those of the last century.
  date.setUTCFullYear(year, month - 1, day);
  date.setUTCHours(hour, minute);
  return date;
}

function local(date: Date): string {
  return date.toISOString().slice(0, 19);
}
