// The photos of a result by pages of the calendar, each page with one of its photos to show; and the events among them.

import { eventsIn } from '../../timeplace/events';
import { countByTime, type Met } from './facets';
import type { FinderIndex } from './finderIndex';

export interface CalendarPage {
  /** As many as may be of the page. */
  photos: number;
  /** The ordinal of the photo that stands for the page: the best rated, of these the one whose time is known best, of these the first; -1 for none. */
  best: number;
}

/** The photos of a result by pages of about one length between bounds, which ascend, in seconds. */
export function calendarPages(index: FinderIndex, bounds: readonly number[], met: Met): CalendarPage[] {
  const pages = countByTime(index, bounds, met).map((photos): CalendarPage => ({ photos, best: -1 }));
  const from = index.taken.from.values;
  const isBetter = betterIn(index);
  const [begin = 0, end = 0] = [bounds[0], bounds.at(-1)];
  const last = pages.length - 1;
  met.visible.forEach((ordinal) => {
    const start = from[ordinal] ?? NaN;
    if (!(start >= begin && start < end)) return;
    let at = Math.floor(((start - begin) / (end - begin)) * pages.length);
    while (at > 0 && start < (bounds[at] ?? 0)) at--;
    while (at < last && start >= (bounds[at + 1] ?? 0)) at++;
    const page = pages[at];
    if (page && (page.best < 0 || isBetter(ordinal, page.best))) page.best = ordinal;
  });
  return pages;
}

/** Seconds from one up to before another. */
export interface Stretch {
  from: number;
  until: number;
}

export interface FoundEvent {
  /** The first and the last photo of it, in seconds. */
  from: number;
  to: number;
  photos: number;
  /** The photo that stands for it, by ordinal. */
  best: number;
  /** The middle of those that have a position; null where none has. */
  middle: { latitude: number; longitude: number } | null;
}

/** Photos whose time is known less exactly belong to no event, in seconds. */
const EXACT_SECONDS = 3600;

/** The events among photos in the order they were taken: those of at least `least` photos. */
export function foundEvents(index: FinderIndex, order: Int32Array, least: number): FoundEvent[] {
  const [from, until] = [index.taken.from.values, index.taken.until.values];
  const { latitude, longitude } = index.position;
  const exact = order.filter((ordinal) => (until[ordinal] ?? NaN) - (from[ordinal] ?? NaN) <= EXACT_SECONDS);
  const moments = {
    seconds: Float64Array.from(exact, (ordinal) => from[ordinal] ?? NaN),
    latitudes: Float64Array.from(exact, (ordinal) => latitude.get(ordinal)),
    longitudes: Float64Array.from(exact, (ordinal) => longitude.get(ordinal)),
  };
  const isBetter = betterIn(index);
  return eventsIn(moments).flatMap((event): FoundEvent[] => {
    const [first, last] = [moments.seconds[event.from] ?? 0, moments.seconds[event.until - 1] ?? 0];
    const photos = event.until - event.from;
    if (photos < least) return [];
    const some = exact.subarray(event.from, event.until);
    const best = some.reduce((found, ordinal) => (isBetter(ordinal, found) ? ordinal : found));
    return [{ from: first, to: last, photos, best, middle: middleOf(moments, event) }];
  });
}

/** Whether a photo stands for others rather than another: better rated; then known more exactly; then earlier. */
function betterIn(index: FinderIndex): (ordinal: number, than: number) => boolean {
  const [from, until, ratings] = [index.taken.from.values, index.taken.until.values, index.measures.rating];
  const lengthOf = (ordinal: number) => (until[ordinal] ?? 0) - (from[ordinal] ?? 0);
  return (ordinal, than) =>
    (ratings.get(ordinal) - ratings.get(than) ||
      lengthOf(than) - lengthOf(ordinal) ||
      (from[than] ?? 0) - (from[ordinal] ?? 0)) > 0;
}

/** The position in the middle of a sorted row of them: one far away does not move it. */
function middleOf(
  { latitudes, longitudes }: { latitudes: Float64Array; longitudes: Float64Array },
  { from, until }: { from: number; until: number },
): FoundEvent['middle'] {
  const known = Array.from({ length: until - from }, (_, i) => from + i).filter((i) => !Number.isNaN(latitudes[i]));
  const middle = known.sort((a, b) => (latitudes[a] ?? 0) - (latitudes[b] ?? 0))[known.length >> 1];
  return middle === undefined ? null : { latitude: latitudes[middle] ?? 0, longitude: longitudes[middle] ?? 0 };
}
