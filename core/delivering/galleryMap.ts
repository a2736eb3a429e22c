// The map of a gallery, as a drawing that needs nothing else: land, and the spots where pictures were taken. Mercator (EPSG:3857).

import { across, down } from '../search/index/spatialOrder';

export interface Position {
  latitude: number;
  longitude: number;
}

/** The part of the world that a map shows, in parts of the world’s width from the date line and the upper side. */
export interface MapFrame {
  left: number;
  top: number;
  /** Of the map. */
  width: number;
  /** In degrees. */
  west: number;
  east: number;
  south: number;
  north: number;
}

/** A spot on the map, in its own units, with what was taken there. */
export interface Spot<Photo> {
  x: number;
  y: number;
  photos: Photo[];
}

export const MAP_WIDTH = 1200;
export const MAP_HEIGHT = 750;
/** Pictures closer together than this are one spot. */
const SPOT_SIZE = 26;
/** The least that a map shows, in degrees from west to east: nothing but a point tells nobody where it is. */
const LEAST_DEGREES = 0.5;
/** Around the outermost spots, in parts of the map. */
const MARGIN = 0.12;

/**
 * What a map has to show so that all of some positions, one at least, are on it. `times`: so many times as wide as that takes, so
 * that something is in sight that is known.
 */
export function frameOf(positions: readonly Position[], times = 1): MapFrame {
  const xs = positions.map(({ longitude }) => across(longitude, 0));
  const ys = positions.map(({ latitude }) => down(latitude, 0));
  const [left, right] = [least(xs), most(xs)];
  const [top, bottom] = [least(ys), most(ys)];
  const ratio = MAP_WIDTH / MAP_HEIGHT;
  const needed = Math.max(right - left, (bottom - top) * ratio) / (1 - 2 * MARGIN);
  const width = Math.min(1, Math.max(needed, LEAST_DEGREES / 360) * times);
  const height = width / ratio;
  const x = Math.min(1 - width, Math.max(0, (left + right - width) / 2));
  const y = Math.min(1 - height, Math.max(0, (top + bottom - height) / 2));
  return {
    ...{ left: x, top: y, width },
    ...{ west: x * 360 - 180, east: (x + width) * 360 - 180 },
    ...{ north: latitudeOf(y), south: latitudeOf(y + height) },
  };
}

/** Where pictures lie on the map, those that lie close together as one spot. */
export function spotsOf<Photo extends { position: Position | null }>(
  photos: readonly Photo[],
  frame: MapFrame,
): Spot<Photo>[] {
  const spots = new Map<string, Spot<Photo>>();
  for (const photo of photos) {
    if (photo.position === null) continue;
    const [x, y] = placeOn(frame, photo.position);
    const key = `${Math.floor(x / SPOT_SIZE)}/${Math.floor(y / SPOT_SIZE)}`;
    const spot = spots.get(key) ?? { x: 0, y: 0, photos: [] };
    // Its middle is that of all that lies there.
    const count = spot.photos.push(photo);
    spot.x += (x - spot.x) / count;
    spot.y += (y - spot.y) / count;
    spots.set(key, spot);
  }
  return [...spots.values()];
}

/** Lines of corners [longitude, latitude] as the path of a drawing, closed or not. */
export function pathOn(frame: MapFrame, lines: readonly (readonly (readonly number[])[])[], closed: boolean): string {
  return lines
    .map((corners) => {
      const points = corners.map(([longitude = 0, latitude = 0]) =>
        placeOn(frame, { latitude, longitude })
          .map((each) => each.toFixed(1))
          .join(' '),
      );
      return `M${points.join('L')}${closed ? 'Z' : ''}`;
    })
    .join('');
}

/** Where a position lies on the map, in its own units. */
export function placeOn({ left, top, width }: MapFrame, { latitude, longitude }: Position): [number, number] {
  const scale = MAP_WIDTH / width;
  return [(across(longitude, 0) - left) * scale, (down(latitude, 0) - top) * scale];
}

function latitudeOf(y: number): number {
  return (Math.atan(Math.sinh(Math.PI * (1 - 2 * y))) * 180) / Math.PI;
}

// Not by spreading: there may be more than a call takes.
function least(numbers: readonly number[]): number {
  return numbers.reduce((one, other) => Math.min(one, other), Infinity);
}
function most(numbers: readonly number[]): number {
  return numbers.reduce((one, other) => Math.max(one, other), -Infinity);
}
