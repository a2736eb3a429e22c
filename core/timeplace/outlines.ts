// Outlines cut to pieces of the map, so that a map loads only what it shows.

import type { GeoBox } from './areas';
import type { Ring } from './borders';

/** All around the world; outlines that cross the date line reach beyond it before they are cut. */
const WORLD = { south: -90, west: -180, north: 90, east: 180 };
/** Nearer to a pole than this an edge from one end of the map to the other goes along the pole, not across the date line. */
const POLE_LATITUDE = 89.9;

/** The parts of a ring on both sides of the date line, each within the world; the ring itself where it does not cross it. */
export function cutAtDateLine(ring: Ring): Ring[] {
  let turns = 0;
  let before: readonly number[] | undefined;
  const unrolled = ring.map((corner) => {
    const [x = 0, y = 0] = corner;
    const [x0 = x, y0 = y] = before ?? [];
    before = corner;
    const isAlongPole = Math.abs(y) > POLE_LATITUDE && Math.abs(y0) > POLE_LATITUDE;
    if (Math.abs(x - x0) > 180 && !isAlongPole) turns += x < x0 ? 1 : -1;
    return [x + turns * 360, y];
  });
  if (unrolled.every(([x = 0]) => Math.abs(x) <= 180)) return [ring];
  return [-360, 0, 360].flatMap((shift) => {
    const part = clippedRing(
      unrolled.map(([x = 0, y = 0]) => [x + shift, y]),
      WORLD,
    );
    return part.length > 0 ? [part] : [];
  });
}

type Corner = readonly number[];
/** A side of a box: whether a corner lies within it, and where a line from one corner to another meets it. */
interface Side {
  holds: (corner: Corner) => boolean;
  meets: (from: Corner, to: Corner) => Corner;
}

/**
 * The part of a ring that lies in a box (I. E. Sutherland and G. W. Hodgman, Reentrant polygon clipping, CACM 17 (1), 1974);
 * empty where none does. Parts that lie apart stay joined along the sides of the box: to be filled, not to be drawn as lines.
 */
export function clippedRing(ring: Ring, box: GeoBox): Ring {
  let corners: Ring = ring;
  for (const { holds, meets } of sidesOf(box)) {
    const kept: Corner[] = [];
    let before = corners.at(-1);
    for (const corner of corners) {
      if (before && holds(corner) !== holds(before)) kept.push(meets(before, corner));
      if (holds(corner)) kept.push(corner);
      before = corner;
    }
    corners = kept;
  }
  const [first] = corners;
  return first === undefined || corners.length < 3 ? [] : [...corners, first];
}

/** The parts of a line that lie in a box. */
export function clippedLine(line: Ring, box: GeoBox): Ring[] {
  let parts: Ring[] = [line];
  for (const { holds, meets } of sidesOf(box))
    parts = parts.flatMap((part) => {
      const kept: Corner[][] = [];
      let open: Corner[] | undefined;
      part.forEach((corner, i) => {
        const before = part[i - 1];
        if (holds(corner)) {
          if (!open) {
            open = before ? [meets(before, corner)] : [];
            kept.push(open);
          }
          open.push(corner);
        } else if (open && before) {
          open.push(meets(before, corner));
          open = undefined;
        }
      });
      return kept;
    });
  return parts.filter(({ length }) => length > 1);
}

function sidesOf({ south, west, north, east }: GeoBox): Side[] {
  const across =
    (axis: 0 | 1, at: number) =>
    (from: Corner, to: Corner): Corner => {
      const [a = 0, b = 0] = [from[axis], to[axis]];
      const part = (at - a) / (b - a);
      const other = axis === 0 ? 1 : 0;
      const met = (from[other] ?? 0) + part * ((to[other] ?? 0) - (from[other] ?? 0));
      return axis === 0 ? [at, met] : [met, at];
    };
  return [
    { holds: ([x = 0]) => x >= west, meets: across(0, west) },
    { holds: ([x = 0]) => x <= east, meets: across(0, east) },
    { holds: ([, y = 0]) => y >= south, meets: across(1, south) },
    { holds: ([, y = 0]) => y <= north, meets: across(1, north) },
  ];
}
