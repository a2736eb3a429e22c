// Events: photos that were taken one after the other and hang together, found by the gaps between them.

import type { Point } from './areas';
import { metresBetween } from './nearest';

/** Photos in the order they were taken. */
export interface Moments {
  /** When each was taken, in seconds, ascending. */
  seconds: Float64Array;
  /** Where; NaN where it is not known. */
  latitudes: Float64Array;
  longitudes: Float64Array;
}

/** An event: photos from one up to before another, by their places in the order. */
export interface EventSpan {
  from: number;
  until: number;
}

/**
 * A gap ends an event when it is 17 times as long as the geometric mean of the ten gaps before it, itself and the ten behind it
 * (J. Platt, M. Czerwinski, B. Field, PhotoTOC, 2003).
 */
const LONG_FACTOR = 17;
const GAPS_ASIDE = 10;
/** No shorter gap ends an event, however dense its photos are; any longer one does, however sparse they are. In seconds. */
const [SHORTEST_GAP, LONGEST_GAP] = [20 * 60, 36 * 3600];
/** A gap in which somebody went so far ends an event, in metres, if it is not too short. */
const FAR_METRES = 50_000;

/** The events of photos, in their order; each photo is in one. */
export function eventsIn({ seconds, latitudes, longitudes }: Moments): EventSpan[] {
  const count = seconds.length;
  if (count === 0) return [];
  const gaps = Float64Array.from({ length: count - 1 }, (_, i) => (seconds[i + 1] ?? 0) - (seconds[i] ?? 0));
  // The sum of the logarithms of all gaps before each, so that any mean is a difference of two.
  const sums = new Float64Array(count);
  gaps.forEach((gap, i) => (sums[i + 1] = (sums[i] ?? 0) + Math.log(Math.max(1, gap))));
  const isEnd = (i: number): boolean => {
    const gap = gaps[i] ?? 0;
    if (gap < SHORTEST_GAP) return false;
    if (gap > LONGEST_GAP || wentFar(i)) return true;
    const [first, last] = [Math.max(0, i - GAPS_ASIDE), Math.min(gaps.length, i + GAPS_ASIDE + 1)];
    const mean = ((sums[last] ?? 0) - (sums[first] ?? 0)) / (last - first);
    return Math.log(gap) >= Math.log(LONG_FACTOR) + mean;
  };
  const pointAt = (i: number): Point | undefined =>
    Number.isNaN(latitudes[i]) ? undefined : { latitude: latitudes[i] ?? 0, longitude: longitudes[i] ?? 0 };
  const wentFar = (i: number): boolean => {
    const [before, after] = [pointAt(i), pointAt(i + 1)];
    return before !== undefined && after !== undefined && metresBetween(before, after) > FAR_METRES;
  };
  const events: EventSpan[] = [];
  let from = 0;
  for (let i = 0; i < gaps.length; i++) {
    if (!isEnd(i)) continue;
    events.push({ from, until: i + 1 });
    from = i + 1;
  }
  events.push({ from, until: count });
  return events;
}
