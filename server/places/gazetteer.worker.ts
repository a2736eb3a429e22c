// Worker thread: holds the gazetteer and the outlines of the world, each read when it is first asked for.

import type { Ring } from '@stellin/core/timeplace/borders';
import type { Gazetteer, FoundPlace, Town, Whereabouts } from '@stellin/core/timeplace/gazetteer';
import { clippedLine, clippedRing } from '@stellin/core/timeplace/outlines';
import type { GeoBox, Point } from '@stellin/core/timeplace/areas';
import { OUTLINE_DETAILS, type Outline, type OutlineDetail } from '@stellin/contract/places';
import { readGazetteerFile } from './gazetteerFile';
import { borderLines, landPolygons, readAtlas, type Scale } from './atlas';

interface World {
  gazetteer: Gazetteer;
  /** Those with most people first, without the parts of others. */
  largest: readonly Town[];
}

let world: World | undefined;

function opened(): World {
  if (world) return world;
  const gazetteer = readGazetteerFile();
  return (world = {
    gazetteer,
    largest: gazetteer.towns.filter(({ isPart }) => !isPart).sort((a, b) => b.population - a.population),
  });
}

export function find({ text, limit, near }: { text: string; limit: number; near: readonly Point[] }): FoundPlace[] {
  return opened().gazetteer.find(text, limit, near);
}

/** Of each name the towns that have exactly it, in a country if one is given. */
export function called(names: readonly { name: string; country: string }[]): FoundPlace[][] {
  const { gazetteer } = opened();
  return names.map(({ name, country }) => gazetteer.called(name, country));
}

export function whereabouts(points: readonly Point[]): Whereabouts[] {
  const { gazetteer } = opened();
  return points.map((point) => gazetteer.whereabouts(point));
}

/** The largest towns in a box; across the date line where its west is greater than its east. */
export function towns({ box, limit }: { box: GeoBox; limit: number }): Town[] {
  const { south, west, north, east } = box;
  const found: Town[] = [];
  for (const town of opened().largest) {
    const { latitude, longitude } = town;
    if (latitude < south || latitude > north) continue;
    if (west <= east ? longitude < west || longitude > east : longitude < west && longitude > east) continue;
    if (found.push(town) === limit) break;
  }
  return found;
}

const SCALES: Readonly<Record<OutlineDetail, Scale>> = { whole: '110m', middle: '50m', fine: '10m' };
/** Digits behind the point: about what a screen can show at that detail. */
const DIGITS: Readonly<Record<OutlineDetail, number>> = { whole: 2, middle: 3, fine: 4 };
const drawn = new Map<OutlineDetail, { land: Ring[][]; borders: Ring[] }>();

/** What of the world lies in a square of the map. */
export function outline({ detail, column, row }: { detail: OutlineDetail; column: number; row: number }): Outline {
  const side = OUTLINE_DETAILS[detail];
  const [west, south] = [column * side - 180, Math.min(90, row * side - 90)];
  const box = { west, south, east: Math.min(180, west + side), north: Math.min(90, south + side) };
  let shapes = drawn.get(detail);
  if (!shapes) {
    const atlas = readAtlas(SCALES[detail]);
    shapes = { land: landPolygons(atlas), borders: borderLines(atlas) };
    drawn.set(detail, shapes);
  }
  const round = (line: Ring) => rounded(line, DIGITS[detail]);
  const polygons = shapes.land.filter(([outer]) => outer && touches(outer, box));
  return {
    land: polygons
      .map((rings) => rings.map((ring) => round(clippedRing(ring, box))).filter(({ length }) => length > 3))
      .filter(({ length }) => length > 0),
    borders: shapes.borders.flatMap((line) => clippedLine(line, box)).map(round),
    coasts: polygons.flatMap((rings) => rings.flatMap((ring) => clippedLine(ring, box))).map(round),
  };
}

function touches(ring: Ring, { south, west, north, east }: GeoBox): boolean {
  let [left, right, bottom, top] = [Infinity, -Infinity, Infinity, -Infinity];
  for (const [x = 0, y = 0] of ring) {
    if (x < left) left = x;
    if (x > right) right = x;
    if (y < bottom) bottom = y;
    if (y > top) top = y;
  }
  return left <= east && right >= west && bottom <= north && top >= south;
}

/** Corners with so many digits; those that then are the same as the one before are left out. */
function rounded(line: Ring, digits: number): number[][] {
  const factor = 10 ** digits;
  const corners: number[][] = [];
  for (const [x = 0, y = 0] of line) {
    const corner = [Math.round(x * factor) / factor, Math.round(y * factor) / factor];
    const last = corners.at(-1);
    if (last?.[0] !== corner[0] || last?.[1] !== corner[1]) corners.push(corner);
  }
  return corners;
}
