// What a camera's clock was behind, by a photo that was taken at a spot which a track passes.

import type { Point } from './areas';
import { momentOf, type ClockReading } from './following';
import type { Track } from './track';

export interface Passing {
  /** Seconds that the clock was behind. */
  aheadSeconds: number;
  /** How far from the spot the track passed. */
  metres: number;
}

/** A track that keeps farther away than this did not pass, in metres. */
const PASSED_METRES = 1000;
/** Ways past a spot that are this much longer than the nearest one are as near, in metres: receivers are no more exact. */
const AS_NEAR_METRES = 20;
/** The length of a degree of latitude on a sphere of the earth's mean radius, 6371.0088 km (IUGG). */
const METRES_PER_DEGREE = 111_195;

/**
 * What a clock was behind if the photo was taken where it is said to be: by when a track was nearest. Where tracks passed several
 * times, that time is meant which the clock is least wrong for. `clock`: what it said, as `momentOf` takes it. Undefined when no
 * track came near or the clock says no time.
 */
export function passingOf(
  tracks: readonly Track[],
  spot: Point,
  clock: string,
  { zoneMinutes }: Pick<ClockReading, 'zoneMinutes'>,
): Passing | undefined {
  const said = momentOf(clock, { zoneMinutes, aheadSeconds: 0 });
  if (Number.isNaN(said)) return undefined;
  const least = Math.min(...tracks.map((track) => nearest(track, spot)));
  if (!(least <= PASSED_METRES)) return undefined;
  let moment: number | undefined;
  for (const track of tracks)
    eachWay(track, spot, said, (metres, at) => {
      if (metres > least + AS_NEAR_METRES) return;
      if (moment === undefined || Math.abs(at - said) < Math.abs(moment - said)) moment = at;
    });
  return moment === undefined
    ? undefined
    : { aheadSeconds: Math.round((moment - said) / 1000), metres: Math.round(least) };
}

function nearest(track: Track, spot: Point): number {
  let least = Infinity;
  eachWay(track, spot, NaN, (metres) => {
    if (metres < least) least = metres;
  });
  return least;
}

/**
 * Tells of each point of a track, and of the nearest place on the way from it to the next one of its part, how far it is from
 * the spot and when the track was there; where it stood still, at the moment `said` if it did then. The earth is taken as flat
 * around the spot: what is far away is not asked for.
 */
function eachWay(
  { times, latitudes, longitudes, starts }: Track,
  spot: Point,
  said: number,
  tell: (metres: number, moment: number) => void,
): void {
  const perDegree = METRES_PER_DEGREE * Math.cos((spot.latitude * Math.PI) / 180);
  const begins = new Set(starts);
  let [x, y] = [0, 0];
  for (let i = 0; i < times.length; i++) {
    const [fromX, fromY] = [x, y];
    const turned = ((((longitudes[i] ?? 0) - spot.longitude + 540) % 360) + 360) % 360;
    x = (turned - 180) * perDegree;
    y = ((latitudes[i] ?? 0) - spot.latitude) * METRES_PER_DEGREE;
    const moment = times[i] ?? 0;
    tell(Math.hypot(x, y), moment);
    if (begins.has(i)) continue;
    const [alongX, alongY] = [x - fromX, y - fromY];
    const began = times[i - 1] ?? 0;
    const length = alongX ** 2 + alongY ** 2;
    const part = length === 0 ? (said - began) / (moment - began) : -(fromX * alongX + fromY * alongY) / length;
    if (!(part > 0 && part < 1)) continue;
    tell(Math.hypot(fromX + part * alongX, fromY + part * alongY), began + part * (moment - began));
  }
}
