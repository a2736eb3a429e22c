// A plan that is tied to the map: two spots or more of which it is known where in the world they are. Then every spot has a point of
// the world, and every point in reach has a spot.

import type { Point } from '../timeplace/areas';
import { pixelOf, placementOf, pointOf, type Placement } from '../timeplace/pinning';
import { isWithin, type PinShape, type PlanSize, type Spot } from './pins';

/** A spot of a plan and where in the world it is. */
export interface Tie extends Spot, Point {}

/** A plan with its ties, as a way from spots to points and back. */
export interface Tied {
  pointAt: (spot: Spot) => Point;
  spotAt: (point: Point) => Spot;
  /** How many metres of ground the plan is wide. */
  metresWide: number;
}

/** How a plan lies in the world; undefined while it is not tied by two different spots. */
export function tiedBy(ties: readonly Tie[], { width, height }: PlanSize): Tied | undefined {
  const placement = placementOf(ties.map((tie) => ({ ...tie, x: tie.x * width, y: tie.y * height })));
  if (!placement || !isInvertible(placement)) return undefined;
  const pointAt = ({ x, y }: Spot) => pointOf(placement, x * width, y * height);
  return {
    pointAt,
    spotAt: (point) => {
      const { x, y } = pixelOf(placement, point);
      return { x: x / width, y: y / height };
    },
    metresWide: metresBetween(pointAt({ x: 0, y: 0.5 }), pointAt({ x: 1, y: 0.5 })),
  };
}

function isInvertible({ a, b, d, e }: Placement): boolean {
  return Number.isFinite(a * e - b * d) && a * e - b * d !== 0;
}

/** Metres in a degree of latitude, near enough for what a plan shows. */
const DEGREE_METRES = 111_320;

function metresBetween(a: Point, b: Point): number {
  const east = (a.longitude - b.longitude) * Math.cos((((a.latitude + b.latitude) / 2) * Math.PI) / 180);
  return Math.hypot(a.latitude - b.latitude, east) * DEGREE_METRES;
}

/** Points or views that are farther from a photo than this part of the width of the plan are not proposed for it. */
const REACH = 0.05;

/** The pin that a photo with a position belongs to: the area that holds it, else the nearest point or view in reach. */
export function pinFor<Pin extends PinShape>(
  pins: readonly Pin[],
  point: Point,
  { tied, size: { width, height } }: { tied: Tied; size: PlanSize },
): Pin | undefined {
  const spot = tied.spotAt(point);
  const area = pins.find(({ corners }) => corners !== null && isWithin(corners, spot));
  if (area) return area;
  const away = (pin: Spot) => Math.hypot(pin.x - spot.x, ((pin.y - spot.y) * height) / width);
  const [near] = pins.filter((pin) => pin.kind !== 'area' && away(pin) <= REACH).sort((a, b) => away(a) - away(b));
  return near;
}

/** The box of the world that a plan covers, with `REACH` around it. */
export function reachOf(tied: Tied): { south: number; west: number; north: number; east: number } {
  const corners = [-REACH, 1 + REACH].flatMap((x) => [-REACH, 1 + REACH].map((y) => tied.pointAt({ x, y })));
  const latitudes = corners.map(({ latitude }) => latitude);
  const longitudes = corners.map(({ longitude }) => longitude);
  return {
    south: Math.max(-90, Math.min(...latitudes)),
    west: Math.max(-180, Math.min(...longitudes)),
    north: Math.min(90, Math.max(...latitudes)),
    east: Math.min(180, Math.max(...longitudes)),
  };
}
