// Between points of the globe and places of the map, which is drawn in the Mercator projection (EPSG:3857).

import type { Extent } from 'ol/extent';
import { fromLonLat, toLonLat, transformExtent } from 'ol/proj';
import type { Point } from '@stellin/core/timeplace/areas';
import { MAX_LATITUDE, withinWorld } from './view';

const DEGREES = 'EPSG:4326';
const MAP = 'EPSG:3857';

/** Where a point lies on the map; what lies farther north or south than the map stands at its edge. */
export function onMap({ latitude, longitude }: Point): number[] {
  return fromLonLat([longitude, Math.max(-MAX_LATITUDE, Math.min(MAX_LATITUDE, latitude))]);
}

/** Where a place of the map lies on the globe, whatever turn of the world it was met on. */
export function pointAt(coordinate: number[]): Point {
  const [longitude = 0, latitude = 0] = toLonLat(coordinate);
  return { latitude, longitude: withinWorld(longitude) };
}

/** An extent of the map in degrees: [west, south, east, north]. */
export function inDegrees(extent: Extent): Extent {
  return transformExtent(extent, MAP, DEGREES);
}

/** An extent in degrees on the map. */
export function extentOnMap([west = 0, south = 0, east = 0, north = 0]: readonly number[]): Extent {
  const clamped = [west, Math.max(-MAX_LATITUDE, south), east, Math.min(MAX_LATITUDE, north)];
  return transformExtent(clamped, DEGREES, MAP);
}
