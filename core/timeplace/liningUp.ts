// Lining up two cameras: the photos of one are moved along until those that show the same moment stand below one another.

/** What is known of a photo: milliseconds of local time, as its camera's clock had it. */
export interface Moment {
  photoId: number;
  at: number;
}

/** A photo that is shown, and how far from the left, in pixels. */
export interface Stood {
  photoId: number;
  left: number;
}

/** How a row is seen: the time at its left end, and how long a pixel is, in milliseconds. */
export interface RowView {
  from: number;
  perPixel: number;
  width: number;
}

/** Milliseconds of a local time `YYYY-MM-DDTHH:MM:SS`; NaN when it is none. */
export function momentOfLocal(clock: string): number {
  return Date.parse(`${clock}Z`);
}

/** The photos of a row, sorted by time, that are in sight; those that begin left of it count as far as they reach, `reach` pixels. */
export function inSight(moments: readonly Moment[], { from, perPixel, width }: RowView, reach: number): Stood[] {
  return moments.flatMap(({ photoId, at }) => {
    const left = (at - from) / perPixel;
    return left > -reach && left < width ? [{ photoId, left: Math.round(left) }] : [];
  });
}

/** By how much the second camera is moved at first, in milliseconds: not at all where their photos meet in time, else until they begin together. */
export function firstShift(first: readonly Moment[], second: readonly Moment[]): number {
  const [a, b] = [spanOf(first), spanOf(second)];
  if (!a || !b || (a.begin <= b.end && b.begin <= a.end)) return 0;
  return a.begin - b.begin;
}

/**
 * A view of so many pixels of a day in which both took photos; of several the one with most. Where there is none, of the day on
 * which the second camera took most.
 */
export function firstView(first: readonly Moment[], second: readonly Moment[], shift: number, width: number): RowView {
  let best: { both: number; photos: number; begin: number; end: number } | undefined;
  let [firstAt, secondEnd, firstEnd] = [0, 0, 0];
  for (const [i, { at }] of second.entries()) {
    const begin = at + shift;
    while ((first[firstAt]?.at ?? Infinity) < begin - DAY) firstAt++;
    while ((first[firstEnd]?.at ?? Infinity) < begin + DAY) firstEnd++;
    while ((second[secondEnd]?.at ?? Infinity) < at + DAY) secondEnd++;
    const [photos, both] = [secondEnd - i, Math.min(secondEnd - i, firstEnd - firstAt)];
    if (best && (both < best.both || (both === best.both && photos <= best.photos))) continue;
    best = { both, photos, begin, end: (second[secondEnd - 1]?.at ?? at) + shift };
  }
  if (!best) return { from: 0, perPixel: MOST_PER_PIXEL, width };
  const { begin, end } = best;
  const perPixel = Math.min(MOST_PER_PIXEL, Math.max(USUAL_PER_PIXEL, (end - begin) / (width * SHARE_USED)));
  return { from: (begin + end - width * perPixel) / 2, perPixel, width };
}

/** From fifty pixels a second to six years in a thousand. */
export const LEAST_PER_PIXEL = 20;
export const MOST_PER_PIXEL = 200_000_000;
/** At first no closer than so: two minutes in a thousand pixels. */
const USUAL_PER_PIXEL = 120;
const SHARE_USED = 0.8;

function spanOf(moments: readonly Moment[]): { begin: number; end: number } | undefined {
  const [first, last] = [moments[0], moments.at(-1)];
  return first && last && { begin: first.at, end: last.at };
}

const SECOND = 1000;
const MINUTE = 60 * SECOND;
const HOUR = 60 * MINUTE;
const DAY = 24 * HOUR;
/** Times that an axis is marked at, each so far from the next, in milliseconds. */
const STEPS = [1, 2, 5, 10, 30]
  .map((seconds) => seconds * SECOND)
  .concat([1, 2, 5, 10, 30].map((minutes) => minutes * MINUTE))
  .concat([1, 3, 6, 12].map((hours) => hours * HOUR))
  .concat([1, 2, 7, 14, 28, 91].map((days) => days * DAY));
const YEAR = 364 * DAY;

/** Round times on an axis, each at least `apart` pixels from the next. */
export function axisMarks({ from, perPixel, width }: RowView, apart: number): { at: number; left: number }[] {
  const step = STEPS.find((each) => each / perPixel >= apart) ?? YEAR;
  const first = Math.ceil(from / step) * step;
  const count = Math.max(0, Math.ceil((from + width * perPixel - first) / step));
  return Array.from({ length: count }, (_, i) => first + i * step).map((at) => ({
    at,
    left: Math.round((at - from) / perPixel),
  }));
}
