// Finding where a photo was taken by when: the camera's clock is put right, then the track is asked where it was at that moment.

import type { Point } from './areas';
import type { Track } from './track';

/** How a camera's clock becomes a moment. */
export interface ClockReading {
  /** Minutes east of UTC that its local time is meant in, where a photo does not say its zone itself. */
  zoneMinutes: number;
  /** Seconds that are added to what the clock says: it was so much behind. */
  aheadSeconds: number;
}

export interface Following extends ClockReading {
  /** Between two points with more than this between them nothing is guessed, in seconds. */
  maxGapSeconds: number;
  /** Between two points: on the way from one to the other, or at the nearer one. */
  way: 'between' | 'nearest';
}

export type Followed =
  | ({ found: true; altitude: number | undefined } & Point)
  /** Taken before the track begins or after it ends, in a gap of it, or at a time that is not known. */
  | { found: false; why: 'before' | 'after' | 'gap' | 'timeless' };

/** The moment of a local time (`YYYY-MM-DDTHH:MM:SS`, with fractions or a zone or without) in milliseconds; NaN when it is none. */
export function momentOf(clock: string | null, { zoneMinutes, aheadSeconds }: ClockReading): number {
  const found = /^(\d{4}-\d{2}-\d{2}T\d{2}:\d{2}:\d{2}(?:\.\d+)?)(Z|[+-]\d{2}:?\d{2})?$/.exec(clock ?? '');
  if (!found) return NaN;
  const [, local = '', zone] = found;
  const minutes = zone === undefined ? zoneMinutes : zoneMinutesOf(zone);
  return Date.parse(`${local}Z`) - minutes * 60_000 + aheadSeconds * 1000;
}

function zoneMinutesOf(zone: string): number {
  if (zone === 'Z') return 0;
  const [, sign = '+', hours = '0', minutes = '0'] = /^([+-])(\d{2}):?(\d{2})$/.exec(zone) ?? [];
  return (sign === '-' ? -1 : 1) * (Number(hours) * 60 + Number(minutes));
}

/** Where a track was at a moment. */
export function follow(track: Track, moment: number, { maxGapSeconds, way }: Following): Followed {
  const { times } = track;
  if (Number.isNaN(moment)) return { found: false, why: 'timeless' };
  const gap = maxGapSeconds * 1000;
  const after = firstFrom(times, moment);
  const [at, before] = [times[after], times[after - 1]];
  if (at === moment) return pointOf(track, after);
  // Beyond its ends a track still says something of what is no farther away than a gap.
  if (before === undefined)
    return at !== undefined && at - moment <= gap ? pointOf(track, after) : { found: false, why: 'before' };
  if (at === undefined) return moment - before <= gap ? pointOf(track, after - 1) : { found: false, why: 'after' };
  if (at - before > gap) {
    // In a gap only what is near one of its ends is known.
    if (moment - before <= gap / 2 && moment - before <= at - moment) return pointOf(track, after - 1);
    return at - moment <= gap / 2 ? pointOf(track, after) : { found: false, why: 'gap' };
  }
  const part = (moment - before) / (at - before);
  return way === 'nearest' ? pointOf(track, part < 0.5 ? after - 1 : after) : between(track, after - 1, part);
}

/** Where one of several tracks was at a moment: the first that was anywhere. */
export function followAny(tracks: readonly Track[], moment: number, following: Following): Followed {
  let told: Followed = { found: false, why: Number.isNaN(moment) ? 'timeless' : 'before' };
  for (const [i, track] of tracks.entries()) {
    const found = follow(track, moment, following);
    if (found.found) return found;
    if (i === 0 || found.why === 'gap') told = found;
  }
  return told;
}

function pointOf({ latitudes, longitudes, altitudes }: Track, i: number): Followed {
  const altitude = altitudes[i] ?? NaN;
  return {
    ...{ found: true, latitude: latitudes[i] ?? 0, longitude: longitudes[i] ?? 0 },
    altitude: Number.isNaN(altitude) ? undefined : altitude,
  };
}

/** Straight from a point to the next one, the short way around the globe. */
function between(track: Track, i: number, part: number): Followed {
  const [a, b] = [pointOf(track, i), pointOf(track, i + 1)];
  if (!a.found || !b.found) return a;
  let east = b.longitude - a.longitude;
  if (east > 180) east -= 360;
  if (east < -180) east += 360;
  const longitude = a.longitude + east * part;
  const altitude =
    a.altitude === undefined || b.altitude === undefined ? undefined : a.altitude + (b.altitude - a.altitude) * part;
  return {
    found: true,
    latitude: a.latitude + (b.latitude - a.latitude) * part,
    longitude: longitude > 180 ? longitude - 360 : longitude < -180 ? longitude + 360 : longitude,
    altitude,
  };
}

/** Offsets of clocks that are tried: whole quarters of an hour, in which zones differ, up to fourteen hours. */
const QUARTER_SECONDS = 900;
const MAX_QUARTERS = 56;

/**
 * What a clock most likely was behind, in seconds, by which most photos come to lie on the track; of several the smallest.
 * Undefined when no photo does.
 */
export function proposedAhead(
  tracks: readonly Track[],
  clocks: readonly (string | null)[],
  following: Following,
): number | undefined {
  const moments = clocks
    .map((clock) => momentOf(clock, { ...following, aheadSeconds: 0 }))
    .filter((at) => !Number.isNaN(at));
  let best: { ahead: number; photos: number } | undefined;
  for (let quarter = 0; quarter <= MAX_QUARTERS; quarter++)
    for (const ahead of quarter === 0 ? [0] : [quarter * QUARTER_SECONDS, -quarter * QUARTER_SECONDS]) {
      const photos = moments.filter((at) => followAny(tracks, at + ahead * 1000, following).found).length;
      if (photos > (best?.photos ?? 0)) best = { ahead, photos };
    }
  return best?.ahead;
}

function firstFrom(times: Float64Array, moment: number): number {
  let [low, high] = [0, times.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((times[middle] ?? 0) < moment) low = middle + 1;
    else high = middle;
  }
  return low;
}
