// The nearest of many points on the globe: a k-d tree over their places in space (J. L. Bentley, Multidimensional binary search
// trees, CACM 18 (9), 1975), so that poles and the date line are like everywhere else.

import { EARTH_METRES, type Point } from './areas';

/** Parts of the tree with fewer points are looked through one by one. */
const LEAF_POINTS = 8;

export interface Nearest {
  /** Which of the points, by its place in the list they were given in. */
  at: number;
  /** Along the great circle. */
  metres: number;
}

/** Points in an order in which the middle of each part divides it. */
export interface PackedPoints {
  /** x, y and z of each point on a globe of radius 1, in the order of the tree. */
  places: Float64Array;
  order: Int32Array;
}

/** Points of which the nearest can be found; immutable once made, and their order can be kept and taken up again. */
export class NearestPoints {
  constructor(readonly packed: PackedPoints) {}

  static of(points: readonly Point[]): NearestPoints {
    const order = Int32Array.from(points, (_, i) => i);
    const given = new Float64Array(points.length * 3);
    points.forEach((point, i) => given.set(spaceOf(point), i * 3));
    divide({ places: given, order }, 0, points.length, 0);
    const places = new Float64Array(points.length * 3);
    order.forEach((from, to) => places.set(given.subarray(from * 3, from * 3 + 3), to * 3));
    return new NearestPoints({ places, order });
  }

  /** The nearest point of those that are meant and not farther than so many metres; undefined when there is none. */
  find(point: Point, isMeant: (at: number) => boolean = () => true, maxMetres = Infinity): Nearest | undefined {
    const [x, y, z] = spaceOf(point);
    const { places, order } = this.packed;
    let best = -1;
    // Squared length of the chord, which grows as the way along the globe does.
    let bestChord = chordOf(maxMetres);
    const search = (from: number, to: number, axis: number): void => {
      if (to - from <= LEAF_POINTS) {
        for (let i = from; i < to; i++) look(i);
        return;
      }
      const middle = (from + to) >> 1;
      look(middle);
      const across = (axis === 0 ? x : axis === 1 ? y : z) - (places[middle * 3 + axis] ?? 0);
      const next = (axis + 1) % 3;
      if (across < 0) search(from, middle, next);
      else search(middle + 1, to, next);
      if (across * across > bestChord) return;
      if (across < 0) search(middle + 1, to, next);
      else search(from, middle, next);
    };
    const look = (i: number): void => {
      const [dx, dy, dz] = [x - (places[i * 3] ?? 0), y - (places[i * 3 + 1] ?? 0), z - (places[i * 3 + 2] ?? 0)];
      const chord = dx * dx + dy * dy + dz * dz;
      const at = order[i] ?? 0;
      // Of several at one place the first is found, whatever way the tree took.
      if (chord > bestChord || (chord === bestChord && best >= 0 && at > best) || !isMeant(at)) return;
      best = at;
      bestChord = chord;
    };
    search(0, order.length, 0);
    return best < 0 ? undefined : { at: best, metres: metresOf(bestChord) };
  }
}

/** Puts a part in order: what is smaller along the axis before its middle, the rest behind it (quickselect, C. A. R. Hoare 1961). */
function divide({ places, order }: PackedPoints, from: number, to: number, axis: number): void {
  if (to - from <= LEAF_POINTS) return;
  const middle = (from + to) >> 1;
  const value = (i: number) => places[(order[i] ?? 0) * 3 + axis] ?? 0;
  for (let low = from, high = to - 1; low < high;) {
    const pivot = value((low + high) >> 1);
    let [i, j] = [low, high];
    while (i <= j) {
      while (value(i) < pivot) i++;
      while (value(j) > pivot) j--;
      if (i > j) break;
      const kept = order[i] ?? 0;
      order[i++] = order[j] ?? 0;
      order[j--] = kept;
    }
    if (middle <= j) high = j;
    else if (middle >= i) low = i;
    else break;
  }
  divide({ places, order }, from, middle, (axis + 1) % 3);
  divide({ places, order }, middle + 1, to, (axis + 1) % 3);
}

/** Where a point of the globe lies in space, the globe's radius being 1. */
function spaceOf({ latitude, longitude }: Point): [x: number, y: number, z: number] {
  const [phi, lambda] = [(latitude * Math.PI) / 180, (longitude * Math.PI) / 180];
  return [Math.cos(phi) * Math.cos(lambda), Math.cos(phi) * Math.sin(lambda), Math.sin(phi)];
}

function chordOf(metres: number): number {
  return metres >= Math.PI * EARTH_METRES ? Infinity : (2 * Math.sin(metres / EARTH_METRES / 2)) ** 2;
}

function metresOf(chord: number): number {
  return 2 * EARTH_METRES * Math.asin(Math.min(1, Math.sqrt(chord) / 2));
}

/** The way between two points along the great circle, in metres. */
export function metresBetween(a: Point, b: Point): number {
  const [ax, ay, az] = spaceOf(a);
  const [bx, by, bz] = spaceOf(b);
  return metresOf((ax - bx) ** 2 + (ay - by) ** 2 + (az - bz) ** 2);
}
