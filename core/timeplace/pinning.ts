// Laying a picture of a map over the map: by pins, each a spot of the picture and the point of the world that it shows.

import type { Point } from './areas';

/** A spot of a picture in pixels from its upper left corner, and where in the world it is. */
export interface MapPin extends Point {
  x: number;
  y: number;
}

/** How pixels become places of the map in metres (EPSG:3857): east = a·x + b·y + c, north = d·x + e·y + f. */
export interface Placement {
  a: number;
  b: number;
  c: number;
  d: number;
  e: number;
  f: number;
}

/** Equatorial radius of WGS 84, on which EPSG:3857 is drawn, in metres. */
const RADIUS = 6_378_137;
/** Pins that span less of a triangle than this share of what they could are taken for a line. */
const FLAT = 1e-6;

/**
 * The placement that fits some pins best (least squares): with three or more that do not lie on a line any affine one, with fewer
 * one that keeps angles. Undefined with less than two different pins.
 */
export function placementOf(pins: readonly MapPin[]): Placement | undefined {
  const places = pins.map((pin) => ({ x: pin.x, y: pin.y, ...onMapOf(pin) }));
  return affine(places) ?? similar(places);
}

/** How far from where a pin says the placement puts its spot, in metres on the ground. */
export function metresOff({ a, b, c, d, e, f }: Placement, pin: MapPin): number {
  const { east, north } = onMapOf(pin);
  const off = Math.hypot(a * pin.x + b * pin.y + c - east, d * pin.x + e * pin.y + f - north);
  return off * Math.cos((pin.latitude * Math.PI) / 180);
}

interface Placed {
  x: number;
  y: number;
  east: number;
  north: number;
}

function affine(pins: readonly Placed[]): Placement | undefined {
  if (pins.length < 3) return undefined;
  const [mx, my, me, mn] = middleOf(pins);
  let [xx, xy, yy, xe, ye, xn, yn] = [0, 0, 0, 0, 0, 0, 0];
  for (const { x, y, east, north } of pins) {
    const [u, v, s, t] = [x - mx, y - my, east - me, north - mn];
    xx += u * u;
    xy += u * v;
    yy += v * v;
    xe += u * s;
    ye += v * s;
    xn += u * t;
    yn += v * t;
  }
  const determinant = xx * yy - xy * xy;
  if (!(determinant > FLAT * xx * yy) || determinant === 0) return undefined;
  const [a, b] = [(xe * yy - ye * xy) / determinant, (ye * xx - xe * xy) / determinant];
  const [d, e] = [(xn * yy - yn * xy) / determinant, (yn * xx - xn * xy) / determinant];
  return { a, b, c: me - a * mx - b * my, d, e, f: mn - d * mx - e * my };
}

/** Turned, enlarged and moved, since on the map north is up while pixels are counted downwards. */
function similar(pins: readonly Placed[]): Placement | undefined {
  const [mx, my, me, mn] = middleOf(pins);
  let [size, along, across] = [0, 0, 0];
  for (const { x, y, east, north } of pins) {
    const [u, v, s, t] = [x - mx, -(y - my), east - me, north - mn];
    size += u * u + v * v;
    along += u * s + v * t;
    across += u * t - v * s;
  }
  if (size === 0 || (along === 0 && across === 0)) return undefined;
  const [cos, sin] = [along / size, across / size];
  const [a, b, d, e] = [cos, sin, sin, -cos];
  return { a, b, c: me - a * mx - b * my, d, e, f: mn - d * mx - e * my };
}

function middleOf(pins: readonly Placed[]): [x: number, y: number, east: number, north: number] {
  const mean = (of: (pin: Placed) => number) => pins.reduce((sum, pin) => sum + of(pin), 0) / Math.max(1, pins.length);
  return [mean(({ x }) => x), mean(({ y }) => y), mean(({ east }) => east), mean(({ north }) => north)];
}

function onMapOf({ latitude, longitude }: Point): { east: number; north: number } {
  const phi = (latitude * Math.PI) / 180;
  return {
    east: (RADIUS * longitude * Math.PI) / 180,
    north: RADIUS * Math.log(Math.tan(Math.PI / 4 + phi / 2)),
  };
}

/** The point of the world that a placement gives to a pixel. */
export function pointOf({ a, b, c, d, e, f }: Placement, x: number, y: number): Point {
  const [east, north] = [a * x + b * y + c, d * x + e * y + f];
  return {
    latitude: ((2 * Math.atan(Math.exp(north / RADIUS)) - Math.PI / 2) * 180) / Math.PI,
    longitude: ((east / RADIUS) * 180) / Math.PI,
  };
}

/** The pixel to which a placement gives a point of the world; it must not map all on a line. */
export function pixelOf({ a, b, c, d, e, f }: Placement, point: Point): { x: number; y: number } {
  const { east, north } = onMapOf(point);
  const [right, up, determinant] = [east - c, north - f, a * e - b * d];
  return { x: (right * e - up * b) / determinant, y: (up * a - right * d) / determinant };
}
