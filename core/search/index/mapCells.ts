// The photos of a result as a map shows them: counted by square cells of the Mercator projection (EPSG:3857).

import type { GeoBox } from '../../timeplace/areas';
import type { PhotoSet } from './photoSet';

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

/** Where photos are, by ordinal; NaN where that is not known. */
export interface Positions {
  latitudes: Float64Array;
  longitudes: Float64Array;
}

/** The most cells in a view. */
export const MAX_CELLS = 1 << 16;
/** No map of this projection reaches farther north or south. */
const MAX_LATITUDE = 85.05112878;
/** How finely the table is cut by which the row of a latitude is looked up. */
const STEPS_PER_ROW = 8;
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
 * The photos of a set that lie in a view, by cell, and how many those are. Throws a RangeError when the view has more than `MAX_CELLS`.
 */
export function mapCells(photos: PhotoSet, named: PhotoSet, positions: Positions, view: MapView): OnMap {
  const { columns, rows } = cellsOf(view);
  if (columns * rows > MAX_CELLS) throw new RangeError('the map is cut into too many cells');
  const { sums, ...counted } = count(photos.bits, named.bits, positions, view, { columns, rows });
  const cells = new Map<number, MapCell>();
  sums.photos.forEach((count, cell) => {
    if (count === 0) return;
    cells.set(cell, {
      latitude: (sums.norths[cell] ?? 0) / count,
      longitude: shortest((sums.easts[cell] ?? 0) / count),
      photos: count,
      named: sums.named[cell] ?? 0,
      first: sums.firsts[cell] ?? 0,
    });
  });
  joinNear(cells, columns, view.level);
  return { ...counted, cells: [...cells.values()] };
}

/** What is added up of each cell of a view. */
interface Sums {
  photos: Int32Array;
  named: Int32Array;
  firsts: Int32Array;
  norths: Float64Array;
  easts: Float64Array;
}

/**
 * Adds up the photos of a set in a view, which may be all of a million: so there is one loop over the bits of the set, with nothing
 * called in it.
 */
function count(
  bits: Uint32Array,
  namedBits: Uint32Array,
  { latitudes, longitudes }: Positions,
  view: MapView,
  { columns, rows }: { columns: number; rows: number },
): Omit<OnMap, 'cells'> & { sums: Sums } {
  const { south, west, north, east, level } = view;
  const size = columns * rows;
  const [counts, namedCounts, firsts] = [new Int32Array(size), new Int32Array(size), new Int32Array(size)];
  const [norths, easts] = [new Float64Array(size), new Float64Array(size)];
  const { first, ends, perDegree } = rowTable(view, rows);
  const crosses = west > east;
  const world = 2 ** level;
  const perColumn = world / 360;
  const leftmost = Math.floor(across(west, level));
  let inView = 0;
  let [southmost, northmost, westmost, eastmost] = [Infinity, -Infinity, Infinity, -Infinity];
  const extent = { south: 0, west: 0, north: 0, east: 0 };
  for (let at = 0; at < bits.length; at++) {
    for (let left = bits[at] ?? 0; left !== 0; left &= left - 1) {
      const ordinal = (at << 5) + (31 - Math.clz32(left & -left));
      const latitude = latitudes[ordinal] ?? NaN;
      // Without a position nothing is true.
      if (!(latitude >= south && latitude <= north)) continue;
      const longitude = longitudes[ordinal] ?? NaN;
      if (crosses ? longitude < west && longitude > east : longitude < west || longitude > east) continue;
      inView++;
      // Counted from the western side, so that what lies on both sides of the date line lies together.
      const eastward = crosses && longitude < west ? longitude + 360 : longitude;
      if (latitude < southmost) southmost = latitude;
      if (latitude > northmost) northmost = latitude;
      if (eastward < westmost) {
        westmost = eastward;
        extent.west = longitude;
      }
      if (eastward > eastmost) {
        eastmost = eastward;
        extent.east = longitude;
      }
      let row = first[((north - latitude) * perDegree) | 0] ?? rows - 1;
      while (row < rows - 1 && latitude <= (ends[row] ?? 0)) row++;
      let column = (((longitude + 180) * perColumn) | 0) - leftmost;
      if (column < 0) column += world;
      if (column >= columns) column = columns - 1;
      const cell = row * columns + column;
      const known = counts[cell] ?? 0;
      if (known === 0) firsts[cell] = ordinal;
      counts[cell] = known + 1;
      const isNamed = ((namedBits[ordinal >>> 5] ?? 0) >>> (ordinal & 31)) & 1;
      namedCounts[cell] = (namedCounts[cell] ?? 0) + isNamed;
      norths[cell] = (norths[cell] ?? 0) + latitude;
      easts[cell] = (easts[cell] ?? 0) + eastward;
    }
  }
  extent.south = southmost;
  extent.north = northmost;
  const sums = { photos: counts, named: namedCounts, firsts, norths, easts };
  return { photos: inView, extent: inView === 0 ? null : extent, sums };
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

/**
 * By what the row of a latitude in a view is found without the logarithm of each: by steps of latitude from the north, so many per
 * degree, each of which begins in a known row; and the latitude with which each row ends.
 */
function rowTable(
  { south, north, level }: MapView,
  rows: number,
): { first: Int32Array; ends: Float64Array; perDegree: number } {
  const top = Math.floor(down(north, level));
  const steps = rows * STEPS_PER_ROW;
  const perDegree = north > south ? steps / (north - south) : 0;
  const first = Int32Array.from({ length: steps + 1 }, (_, step) => {
    const latitude = perDegree > 0 ? north - step / perDegree : north;
    return Math.max(0, Math.min(rows - 1, Math.floor(down(latitude, level)) - top));
  });
  const ends = Float64Array.from({ length: rows }, (_, row) => latitudeOf(top + row + 1, level));
  return { first, ends, perDegree };
}

/** Degrees of longitude the short way around the globe. */
function shortest(degrees: number): number {
  return degrees > 180 ? degrees - 360 : degrees < -180 ? degrees + 360 : degrees;
}

/** How many cells east of the date line a longitude lies. */
function across(longitude: number, level: number): number {
  return ((longitude + 180) / 360) * 2 ** level;
}

/** How many cells below the map's upper side a latitude lies. */
function down(latitude: number, level: number): number {
  const radians = (Math.max(-MAX_LATITUDE, Math.min(MAX_LATITUDE, latitude)) * Math.PI) / 180;
  return (0.5 - Math.log(Math.tan(Math.PI / 4 + radians / 2)) / (2 * Math.PI)) * 2 ** level;
}

function latitudeOf(cells: number, level: number): number {
  const y = Math.PI * (1 - (2 * cells) / 2 ** level);
  return (Math.atan(Math.sinh(y)) * 180) / Math.PI;
}
