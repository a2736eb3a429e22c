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
 * The photos of a set that lie in a view, by cell, and how many those are. `latitudes` and `longitudes` by ordinal, NaN where
 * there is none. Throws a RangeError when the view has more than `MAX_CELLS`.
 */
export function mapCells(
  photos: PhotoSet,
  named: PhotoSet,
  { latitudes, longitudes }: { latitudes: Float64Array; longitudes: Float64Array },
  view: MapView,
): OnMap {
  const { columns, rows } = cellsOf(view);
  if (columns * rows > MAX_CELLS) throw new RangeError('the map is cut into too many cells');
  const counts = new Int32Array(columns * rows);
  const namedCounts = new Int32Array(columns * rows);
  const firsts = new Int32Array(columns * rows);
  const norths = new Float64Array(columns * rows);
  const easts = new Float64Array(columns * rows);
  const { south, west, north, east, level } = view;
  const rowOf = rowFinder(view, rows);
  const crosses = west > east;
  const leftmost = Math.floor(across(west, level));
  const world = 2 ** level;
  let inView = 0;
  const extent = { south: Infinity, west: 0, north: -Infinity, east: 0 };
  let [leftmostAt, rightmostAt] = [Infinity, -Infinity];
  photos.forEach((ordinal) => {
    const latitude = latitudes[ordinal] ?? NaN;
    const longitude = longitudes[ordinal] ?? NaN;
    // Without a position nothing is true.
    if (!(latitude >= south && latitude <= north)) return;
    if (crosses ? !(longitude >= west || longitude <= east) : !(longitude >= west && longitude <= east)) return;
    inView++;
    // Counted from the western side, so that what lies on both sides of the date line lies together.
    const eastward = crosses && longitude < west ? longitude + 360 : longitude;
    extent.south = Math.min(extent.south, latitude);
    extent.north = Math.max(extent.north, latitude);
    if (eastward < leftmostAt) {
      leftmostAt = eastward;
      extent.west = longitude;
    }
    if (eastward > rightmostAt) {
      rightmostAt = eastward;
      extent.east = longitude;
    }
    const column = (Math.floor(across(longitude, level)) - leftmost + world) % world;
    const cell = rowOf(latitude) * columns + Math.min(columns - 1, column);
    if (counts[cell] === 0) firsts[cell] = ordinal;
    counts[cell] = (counts[cell] ?? 0) + 1;
    if (named.has(ordinal)) namedCounts[cell] = (namedCounts[cell] ?? 0) + 1;
    norths[cell] = (norths[cell] ?? 0) + latitude;
    easts[cell] = (easts[cell] ?? 0) + eastward;
  });
  const cells = new Map<number, MapCell>();
  counts.forEach((count, cell) => {
    if (count === 0) return;
    const longitude = (easts[cell] ?? 0) / count;
    cells.set(cell, {
      latitude: (norths[cell] ?? 0) / count,
      longitude: shortest(longitude),
      photos: count,
      named: namedCounts[cell] ?? 0,
      first: firsts[cell] ?? 0,
    });
  });
  joinNear(cells, columns, level);
  return { photos: inView, extent: inView === 0 ? null : extent, cells: [...cells.values()] };
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

/** Finds the row of a latitude in a view without the logarithm of each: by steps of latitude, each of which begins in a known row. */
function rowFinder({ south, north, level }: MapView, rows: number): (latitude: number) => number {
  const top = Math.floor(down(north, level));
  const steps = rows * STEPS_PER_ROW;
  const perDegree = north > south ? steps / (north - south) : 0;
  const first = Int32Array.from({ length: steps + 1 }, (_, step) => {
    const latitude = perDegree > 0 ? north - step / perDegree : north;
    return Math.max(0, Math.min(rows - 1, Math.floor(down(latitude, level)) - top));
  });
  /** The latitude with which each row ends. */
  const ends = Float64Array.from({ length: rows }, (_, row) => latitudeOf(top + row + 1, level));
  return (latitude) => {
    let row = first[Math.floor((north - latitude) * perDegree)] ?? rows - 1;
    while (row < rows - 1 && latitude <= (ends[row] ?? 0)) row++;
    return row;
  };
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
