// The photos of a result as a map shows them: counted by square cells of the Mercator projection (EPSG:3857).

import type { GeoBox } from '../../timeplace/areas';
import type { PhotoSet } from './photoSet';
import { across, down, FINEST_LEVEL, type SpatialOrder } from './spatialOrder';

export interface MapView extends GeoBox {
  /** The world is 2 to the power of this many cells wide. */
  level: number;
}

/** Photos that are shown as one. */
export interface MapCell {
  /** The middle of all of them. */
  latitude: number;
  longitude: number;
  photos: number;
  /** How many of them say the name of a place. */
  named: number;
  /** One of them, by ordinal. */
  first: number;
}

/** What of a result lies in a view. */
export interface OnMap {
  photos: number;
  /** The box in which all of them lie; null where there are none. */
  extent: GeoBox | null;
  cells: MapCell[];
}

/** The most cells in a view. */
export const MAX_CELLS = 1 << 16;
/** Of the width of the world: cells that only touch a view are looked at too. */
const EDGE = 1e-12;
/** Cells whose middles are nearer to one another than this are shown as one; in widths of a cell. */
const JOINED_BELOW_CELLS = 0.75;
/** The cells around one: how many columns to the right and rows below. */
const NEIGHBOURS = [-1, 0, 1]
  .flatMap((right) => [-1, 0, 1].map((below) => [right, below] as const))
  .filter(([a, b]) => a !== 0 || b !== 0);

/** How wide and high a view is in cells; more than `MAX_CELLS` of them can't be counted. */
export function cellsOf({ south, west, north, east, level }: MapView): { columns: number; rows: number } {
  const columns = Math.floor(across(east, level)) - Math.floor(across(west, level));
  return {
    columns: (west > east ? columns + 2 ** level : columns) + 1,
    rows: Math.floor(down(south, level)) - Math.floor(down(north, level)) + 1,
  };
}

/**
 * The photos of a set that lie in a view, by cell, and how many those are. `order`: all photos that have a position. Throws a
 * RangeError when the view has more than `MAX_CELLS`.
 */
export function mapCells(photos: PhotoSet, named: PhotoSet, order: SpatialOrder, view: MapView): OnMap {
  const { columns, rows } = cellsOf(view);
  if (columns * rows > MAX_CELLS) throw new RangeError('the map is cut into too many cells');
  const { west, east, north, level } = view;
  const world = 2 ** level;
  const [left, top] = [Math.floor(across(west, level)), Math.floor(down(north, level))];
  const sums = new Map<number, Sum>();
  const whole = emptySum();
  const add = (cell: number, from: number, until: number): void => {
    const known = sums.get(cell) ?? emptySum();
    addUp(known, { photos, named, order, view }, from, until);
    if (known.photos > 0) sums.set(cell, known);
  };
  /** Cells are counted from the western side of the view, so that those on both sides of the date line stand beside one another. */
  const cellAt = (column: number, row: number): number =>
    Math.max(0, Math.min(rows - 1, row - top)) * columns + Math.min(columns - 1, (column - left + world) % world);
  order.eachCell(
    Math.min(level, FINEST_LEVEL),
    (column, row, at) => meets(column, row, at, view),
    (column, row, from, until) => {
      if (level <= FINEST_LEVEL) add(cellAt(column, row), from, until);
      // Finer than the order is: each photo has its own cell.
      else
        for (let i = from; i < until; i++) {
          const [x, y] = [across(order.longitudes[i] ?? 0, level), down(order.latitudes[i] ?? 0, level)];
          add(cellAt(Math.min(world - 1, Math.floor(x)), Math.floor(y)), i, i + 1);
        }
    },
  );
  const cells = new Map<number, MapCell>();
  for (const [cell, sum] of sums) {
    widen(whole, sum);
    const { photos: count, named: namedCount, first, norths, easts } = sum;
    const middle = { latitude: norths / count, longitude: shortest(easts / count) };
    cells.set(cell, { ...middle, photos: count, named: namedCount, first });
  }
  joinNear(cells, columns, level);
  const extent = { south: whole.south, west: whole.west, north: whole.north, east: whole.east };
  return { photos: whole.photos, extent: whole.photos === 0 ? null : extent, cells: [...cells.values()] };

  /** Whether a cell may have something of the view; what lies beside it all the same is told when it is added up. */
  function meets(column: number, row: number, at: number, { south: least }: MapView): boolean {
    const size = 2 ** at;
    if ((row + 1) / size < down(north, 0) - EDGE || row / size > down(least, 0) + EDGE) return false;
    const [begin, end] = [column / size, (column + 1) / size];
    const [from, to] = [across(west, 0) - EDGE, across(east, 0) + EDGE];
    return west > east ? end >= from || begin <= to : end >= from && begin <= to;
  }
}

/** What is added up of the photos of a cell. Longitudes go on to the east where the view crosses the date line. */
interface Sum {
  photos: number;
  named: number;
  /** The least ordinal. */
  first: number;
  norths: number;
  easts: number;
  south: number;
  north: number;
  /** Of the photos farthest west and east in the view. */
  west: number;
  east: number;
  westmost: number;
  eastmost: number;
}

function emptySum(): Sum {
  return {
    ...{ photos: 0, named: 0, first: Infinity, norths: 0, easts: 0 },
    ...{ south: Infinity, north: -Infinity, west: 0, east: 0, westmost: Infinity, eastmost: -Infinity },
  };
}

interface Counted {
  photos: PhotoSet;
  named: PhotoSet;
  order: SpatialOrder;
  view: MapView;
}

/** Adds up the photos in a part of the order that lie in the view: one loop with nothing called in it, since they may be all of a million. */
function addUp(sum: Sum, { photos, named, order, view }: Counted, from: number, until: number): void {
  const { ordinals, latitudes, longitudes } = order;
  const [bits, namedBits] = [photos.bits, named.bits];
  const { south, west, north, east } = view;
  const crosses = west > east;
  let { photos: count, named: namedCount, first, norths, easts } = sum;
  let { south: southmost, north: northmost, westmost, eastmost } = sum;
  let [westAt, eastAt] = [-1, -1];
  for (let i = from; i < until; i++) {
    const ordinal = ordinals[i] ?? 0;
    if ((((bits[ordinal >>> 5] ?? 0) >>> (ordinal & 31)) & 1) === 0) continue;
    const latitude = latitudes[i] ?? 0;
    const longitude = longitudes[i] ?? 0;
    if (latitude < south || latitude > north) continue;
    if (crosses ? longitude < west && longitude > east : longitude < west || longitude > east) continue;
    const eastward = crosses && longitude < west ? longitude + 360 : longitude;
    count++;
    namedCount += ((namedBits[ordinal >>> 5] ?? 0) >>> (ordinal & 31)) & 1;
    if (ordinal < first) first = ordinal;
    norths += latitude;
    easts += eastward;
    if (latitude < southmost) southmost = latitude;
    if (latitude > northmost) northmost = latitude;
    if (eastward < westmost) {
      westmost = eastward;
      westAt = i;
    }
    if (eastward > eastmost) {
      eastmost = eastward;
      eastAt = i;
    }
  }
  Object.assign(sum, { photos: count, named: namedCount, first, norths, easts });
  Object.assign(sum, { south: southmost, north: northmost, westmost, eastmost });
  if (westAt >= 0) sum.west = longitudes[westAt] ?? 0;
  if (eastAt >= 0) sum.east = longitudes[eastAt] ?? 0;
}

/** Takes into a sum how many there are of another one, and how far they reach. */
function widen(sum: Sum, other: Sum): void {
  sum.photos += other.photos;
  sum.south = Math.min(sum.south, other.south);
  sum.north = Math.max(sum.north, other.north);
  if (other.westmost < sum.westmost) [sum.westmost, sum.west] = [other.westmost, other.west];
  if (other.eastmost > sum.eastmost) [sum.eastmost, sum.east] = [other.eastmost, other.east];
}

/** Joins cells whose photos lie so near that their marks would lie over one another, the fuller one taking the other. */
function joinNear(cells: Map<number, MapCell>, columns: number, level: number): void {
  const fullest = [...cells].sort(([, a], [, b]) => b.photos - a.photos);
  for (const [at, cell] of fullest) {
    if (cells.get(at) !== cell) continue;
    for (const [right, below] of NEIGHBOURS) {
      const column = (at % columns) + right;
      const beside = at + right + below * columns;
      const other = cells.get(beside);
      if (!other || column < 0 || column >= columns || other.photos > cell.photos) continue;
      const east = shortest(other.longitude - cell.longitude);
      const dx = (east / 360) * 2 ** level;
      const dy = down(other.latitude, level) - down(cell.latitude, level);
      if (Math.hypot(dx, dy) >= JOINED_BELOW_CELLS) continue;
      const photos = cell.photos + other.photos;
      cell.latitude = (cell.latitude * cell.photos + other.latitude * other.photos) / photos;
      cell.longitude = shortest(cell.longitude + (east * other.photos) / photos);
      cell.photos = photos;
      cell.named += other.named;
      cells.delete(beside);
    }
  }
}

/** Degrees of longitude the short way around the globe. */
function shortest(degrees: number): number {
  return degrees > 180 ? degrees - 360 : degrees < -180 ? degrees + 360 : degrees;
}
