// What part of the world a map shows, as the server is asked for it.

import type { MapView } from '@stellin/core/search/index/mapCells';
import type { GeoBox } from '@stellin/core/timeplace/areas';

/** Cells of the map are so wide, in pixels: about what a disc with its count takes. */
export const CELL_PIXELS = 72;
const TILE_PIXELS = 256;
const MAX_LEVEL = 24;
/** No map of the Mercator projection reaches farther north or south. */
export const MAX_LATITUDE = 85.05;

/** The cells that are as wide as a disc at a zoom; the world is 256 pixels wide at zoom 0. */
export function levelOf(zoom: number): number {
  const cells = Math.log2((TILE_PIXELS * 2 ** zoom) / CELL_PIXELS);
  return Math.max(0, Math.min(MAX_LEVEL, Math.round(cells)));
}

/** What lies in an extent [west, south, east, north] in degrees, which may reach beyond the date line or around the world. */
export function boxOf([west = 0, south = 0, east = 0, north = 0]: readonly number[]): GeoBox {
  const clamped = { south: Math.max(-MAX_LATITUDE, south), north: Math.min(MAX_LATITUDE, north) };
  if (east - west >= 360) return { ...clamped, west: -180, east: 180 };
  return { ...clamped, west: withinWorld(west), east: withinWorld(east) };
}

export function viewOf(extent: readonly number[], zoom: number): MapView {
  return { ...boxOf(extent), level: levelOf(zoom) };
}

/** A longitude as it is said, whatever turn of the world it was met on. */
export function withinWorld(longitude: number): number {
  const turned = ((((longitude + 180) % 360) + 360) % 360) - 180;
  return turned === -180 && longitude > 0 ? 180 : turned;
}
