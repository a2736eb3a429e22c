// Places as they are typed in a query: a point with a radius, a box, a polygon.

import { numberOf } from '../query/units';

export interface Point {
  /** Decimal degrees, south and west negative. */
  latitude: number;
  longitude: number;
}

/** What lies between two latitudes and two longitudes; west is greater than east across the date line. */
export interface GeoBox {
  south: number;
  west: number;
  north: number;
  east: number;
}

export type Area =
  | { kind: 'circle'; centre: Point; metres: number }
  | ({ kind: 'box' } & GeoBox)
  | { kind: 'polygon'; corners: Point[] };

const DISTANCES = { m: 1, km: 1000 };
const MAX_CORNERS = 500;
/** Mean radius of the Earth in metres (IUGG). */
export const EARTH_METRES = 6_371_008.8;

/**
 * The area a text stands for: `54.3,8.6,20km` (latitude, longitude, radius), `54.1,8.2,54.6,9.0` (south, west, north,
 * east; west may be greater than east, across the date line), `54.1,8.2 54.6,9.0 54.2,9.4` (corners). Undefined when it is none.
 */
export function areaOf(text: string): Area | undefined {
  const groups = text.trim().split(/\s+/);
  if (groups.length > 1) return polygonOf(groups);
  const [a = '', b = '', c = '', d, ...more] = text.split(',');
  const [first, second] = [numberOf(a), numberOf(b)];
  if (first === undefined || second === undefined || more.length > 0) return undefined;
  if (d === undefined) {
    const centre = pointOf(first, second);
    const metres = numberOf(/\p{L}$/u.test(c) ? c : `${c}km`, DISTANCES);
    return centre && metres !== undefined && metres >= 0 ? { kind: 'circle', centre, metres } : undefined;
  }
  const corner = pointOf(numberOf(c) ?? NaN, numberOf(d) ?? NaN);
  return corner && pointOf(first, second) && first <= corner.latitude
    ? { kind: 'box', south: first, west: second, north: corner.latitude, east: corner.longitude }
    : undefined;
}

function polygonOf(groups: readonly string[]): Area | undefined {
  if (groups.length < 3 || groups.length > MAX_CORNERS) return undefined;
  const corners = groups.map((group) => {
    const [latitude, longitude, ...more] = group.split(',').map((part) => numberOf(part) ?? NaN);
    return more.length ? undefined : pointOf(latitude ?? NaN, longitude ?? NaN);
  });
  return corners.every((corner) => corner !== undefined) ? { kind: 'polygon', corners } : undefined;
}

function pointOf(latitude: number, longitude: number): Point | undefined {
  return Math.abs(latitude) <= 90 && Math.abs(longitude) <= 180 ? { latitude, longitude } : undefined;
}

/** Whether a point lies in an area. */
export function contains(area: Area, { latitude, longitude }: Point): boolean {
  return insideTest(area)(latitude, longitude);
}

/** The test whether points lie in an area. */
export function insideTest(area: Area): (latitude: number, longitude: number) => boolean {
  switch (area.kind) {
    case 'circle':
      return nearTest(area.centre, area.metres);
    case 'box': {
      const { south, west, north, east } = area;
      return west <= east
        ? (latitude, longitude) => latitude >= south && latitude <= north && longitude >= west && longitude <= east
        : (latitude, longitude) => latitude >= south && latitude <= north && (longitude >= west || longitude <= east);
    }
    case 'polygon':
      return (latitude, longitude) => inPolygon(area.corners, latitude, longitude);
  }
}

/** The southernmost and northernmost latitude that an area may reach. */
export function latitudesOf(area: Area): [south: number, north: number] {
  switch (area.kind) {
    case 'circle': {
      // A little more than the shortest degree of latitude has.
      const degrees = area.metres / 110_000;
      return [area.centre.latitude - degrees, area.centre.latitude + degrees];
    }
    case 'box':
      return [area.south, area.north];
    case 'polygon': {
      const latitudes = area.corners.map(({ latitude }) => latitude);
      return [Math.min(...latitudes), Math.max(...latitudes)];
    }
  }
}

/** Whether the way along the great circle is not longer (haversine formula). */
function nearTest(centre: Point, metres: number): (latitude: number, longitude: number) => boolean {
  const radians = Math.PI / 180;
  const cosine = Math.cos(centre.latitude * radians);
  return (latitude, longitude) => {
    const north = Math.sin(((latitude - centre.latitude) * radians) / 2);
    const east = Math.sin(((longitude - centre.longitude) * radians) / 2);
    const chord = north * north + cosine * Math.cos(latitude * radians) * east * east;
    return 2 * EARTH_METRES * Math.asin(Math.sqrt(Math.min(1, chord))) <= metres;
  };
}

/** Even-odd rule on latitude and longitude as on a flat map. */
function inPolygon(corners: readonly Point[], latitude: number, longitude: number): boolean {
  let inside = false;
  let before = corners[corners.length - 1];
  for (const corner of corners) {
    if (before && corner.latitude > latitude !== before.latitude > latitude) {
      const part = (latitude - corner.latitude) / (before.latitude - corner.latitude);
      if (longitude < corner.longitude + part * (before.longitude - corner.longitude)) inside = !inside;
    }
    before = corner;
  }
  return inside;
}
