// The time ruler: the stretches that a span of time is cut into, from decades to hours, so that some dozens are seen at once.

export const RULER_UNITS = ['decade', 'year', 'month', 'day', 'hour'] as const;
export type RulerUnit = (typeof RULER_UNITS)[number];

export interface Stretches {
  unit: RulerUnit;
  /** `YYYY-MM-DDTHH:MM:SS`, ascending: each stretch from one up to the next. */
  bounds: string[];
}

const MAX_BARS = 130;
/** Fewer stretches than that, and a finer unit is taken where there is one. */
const MIN_BARS = 14;

/** Cuts a span (in seconds since 1970, local time as if UTC) into the stretches of the unit that suits its length. */
export function stretchesOf(from: number, until: number): Stretches {
  const cuts = RULER_UNITS.map((unit) => ({ unit, bounds: boundsOf(unit, from, until) }));
  const fitting = cuts.find(({ bounds }) => bounds !== undefined && bounds.length > MIN_BARS);
  const finest = cuts.filter(({ bounds }) => bounds !== undefined).at(-1);
  const { unit, bounds } = fitting ?? finest ?? { unit: 'decade' as const, bounds: undefined };
  return { unit, bounds: bounds ?? [textOf(beginOf(unit, from)), textOf(next(unit, beginOf(unit, until - 1)))] };
}

/** The bounds of all stretches that overlap a span; undefined for too many. */
function boundsOf(unit: RulerUnit, from: number, until: number): string[] | undefined {
  const bounds: string[] = [];
  let at = beginOf(unit, from);
  for (; at.getTime() / 1000 < until; at = next(unit, at)) {
    if (bounds.length > MAX_BARS) return undefined;
    bounds.push(textOf(at));
  }
  bounds.push(textOf(at));
  return bounds;
}

function beginOf(unit: RulerUnit, seconds: number): Date {
  const date = new Date(seconds * 1000);
  const parts = [date.getUTCFullYear(), date.getUTCMonth(), date.getUTCDate(), date.getUTCHours()] as const;
  const [year, month, day, hour] = parts;
  const begin: Record<RulerUnit, readonly [number, number, number, number]> = {
    decade: [Math.floor(year / 10) * 10, 0, 1, 0],
    year: [year, 0, 1, 0],
    month: [year, month, 1, 0],
    day: [year, month, day, 0],
    hour: [year, month, day, hour],
  };
  return utc(...begin[unit]);
}

function next(unit: RulerUnit, date: Date): Date {
  const [year, month, day, hour] = [date.getUTCFullYear(), date.getUTCMonth(), date.getUTCDate(), date.getUTCHours()];
  const following: Record<RulerUnit, readonly [number, number, number, number]> = {
    decade: [year + 10, 0, 1, 0],
    year: [year + 1, 0, 1, 0],
    month: [year, month + 1, 1, 0],
    day: [year, month, day + 1, 0],
    hour: [year, month, day, hour + 1],
  };
  return utc(...following[unit]);
}

function utc(year: number, month: number, day: number, hour: number): Date {
  const date = new Date(0);
  // setUTCFullYear, since Date.UTC takes years below 100 for those of the last century.
  date.setUTCFullYear(year, month, day);
  date.setUTCHours(hour);
  return date;
}

function textOf(date: Date): string {
  return date.toISOString().slice(0, 19);
}

/** How a stretch that begins so is written in a query: as short as says it. */
export function stretchText(unit: RulerUnit, from: string): string {
  const written: Record<RulerUnit, string> = {
    decade: `${from.slice(0, 3)}X`,
    year: from.slice(0, 4),
    month: from.slice(0, 7),
    day: from.slice(0, 10),
    hour: from.slice(0, 13),
  };
  return written[unit];
}
