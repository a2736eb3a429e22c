// Whether what a photo says of where it was taken can be true.

import { contains, type Point } from './areas';
import { metresBetween } from './nearest';
import { extentOf, type OwnPlace } from './ownPlaces';

/** A position contradicts names when all places that they may mean are farther away than this, in metres. */
export const CONTRADICTING_METRES = 50_000;

/** A camera that went so far between two photos, in metres, faster than any aeroplane, in metres per second, was not there. */
export const JUMP_METRES = 100_000;
export const JUMP_METRES_PER_SECOND = 500_000 / 600;

/** How far a position is from the nearest of some places; 0 within one. Undefined where none of them is known to lie anywhere. */
export function metresFromAny(point: Point, places: readonly (OwnPlace | Point)[]): number | undefined {
  const distances = places.flatMap((place) => {
    if (!('id' in place)) return [metresBetween(point, place)];
    const area = extentOf(place);
    if (area && contains(area, point)) return [0];
    return place.point ? [metresBetween(point, place.point)] : [];
  });
  return distances.length === 0 ? undefined : Math.min(...distances);
}
