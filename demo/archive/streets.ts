// The streets of the island's two towns, as a file of map tiles: what a survey would say that nobody has made.

import geojsonvt from 'geojson-vt';
import { TileType } from 'pmtiles';
import vtpbf from 'vt-pbf';
import { tileArchive, type MadeTile } from '@stellin/core/timeplace/tileArchive';
import type { Point } from '@stellin/core/timeplace/areas';
import { COAST } from './coast';
import { randomOf } from './random';

const BOX = { south: 55.78, west: 3.18, north: 56.12, east: 3.86 };
const [MIN_ZOOM, MAX_ZOOM] = [8, 14];
/** Of a tile, in its own units. */
const EXTENT = 4096;
const METRES_PER_DEGREE = 111_195;

type Shape = GeoJSON.Feature<GeoJSON.LineString | GeoJSON.Polygon | GeoJSON.Point>;
type Layers = Record<'water' | 'landuse' | 'buildings' | 'roads' | 'paths' | 'places', Shape[]>;

const TOWNS = [
  { at: COAST.Saltmarsh, turned: 24, names: ['Net Lane', 'Harbour Street', 'Kite Row', 'Tar Street', 'Mill Street'] },
  { at: COAST.Kessel, turned: -11, names: ['Ferry Street', 'Kiln Lane', 'Church Street', 'Rope Walk', 'Sand Street'] },
] as const;
/** Between two streets, and from end to end, in metres. */
const BLOCK = 130;
const LENGTH = 5 * BLOCK;
const HOUSE = 22;

/** The file. */
export function paintStreets(): Uint8Array {
  const layers = layersOf();
  const indexes = Object.entries(layers).map(([name, features]) => {
    const collection: GeoJSON.FeatureCollection = { type: 'FeatureCollection', features };
    return { name, index: geojsonvt(collection, { maxZoom: MAX_ZOOM, indexMaxZoom: MAX_ZOOM, extent: EXTENT }) };
  });
  const tiles: MadeTile[] = [];
  for (let zoom = MIN_ZOOM; zoom <= MAX_ZOOM; zoom++) {
    const [first, last] = [tileAt(BOX.north, BOX.west, zoom), tileAt(BOX.south, BOX.east, zoom)];
    for (let column = first.column; column <= last.column; column++)
      for (let row = first.row; row <= last.row; row++) {
        const drawn = indexes.flatMap(({ name, index }) => {
          const tile = index.getTile(zoom, column, row);
          return tile ? [[name, tile] as const] : [];
        });
        if (drawn.length === 0) continue;
        tiles.push({ ...{ zoom, column, row }, bytes: vtpbf.fromGeojsonVt(Object.fromEntries(drawn), { version: 2 }) });
      }
  }
  return tileArchive({ tiles, type: TileType.Mvt, box: BOX, metadata: { attribution: 'Norland survey (made up)' } });
}

/** Which tile of the usual web map a point lies in. */
function tileAt(latitude: number, longitude: number, zoom: number): { column: number; row: number } {
  const radians = (latitude * Math.PI) / 180;
  const north = (1 - Math.log(Math.tan(radians) + 1 / Math.cos(radians)) / Math.PI) / 2;
  return { column: Math.floor(((longitude + 180) / 360) * 2 ** zoom), row: Math.floor(north * 2 ** zoom) };
}

function layersOf(): Layers {
  const layers: Layers = { water: [], landuse: [], buildings: [], roads: [], paths: [], places: [] };
  for (const town of TOWNS) addTown(layers, town);
  // The road around the island, and the path over the hill.
  const road = [
    COAST.Saltmarsh,
    COAST['Great Marsh'],
    COAST.Kessel,
    COAST['Hask Hill'],
    COAST['Kolmer Point'],
    COAST.Saltmarsh,
  ];
  layers.roads.push(lineOf(winding(road, 'the road'), 'Island Road'));
  layers.paths.push(lineOf(winding([COAST['Great Marsh'], COAST['Hask Hill']], 'the path'), 'Hill path'));
  layers.landuse.push(areaOf(around(COAST['Great Marsh'], 1400, 'the marsh'), 'Great Marsh'));
  layers.water.push(areaOf(around({ latitude: 55.914, longitude: 3.43 }, 350, 'the mere'), 'The Mere'));
  for (const [name, { latitude, longitude }] of Object.entries(COAST))
    layers.places.push({
      ...{ type: 'Feature', properties: { name } },
      geometry: { type: 'Point', coordinates: [longitude, latitude] },
    });
  return layers;
}

function addTown(layers: Layers, { at, turned, names }: (typeof TOWNS)[number]): void {
  const random = randomOf(`streets of ${names[0]}`);
  const angle = (turned * Math.PI) / 180;
  const spot = (right: number, up: number): Point =>
    moved(at, right * Math.cos(angle) - up * Math.sin(angle), right * Math.sin(angle) + up * Math.cos(angle));
  names.forEach((name, i) => {
    const aside = (i - 2) * BLOCK;
    layers.roads.push(lineOf([spot(aside, -LENGTH / 2), spot(aside, LENGTH / 2)], name));
    layers.roads.push(lineOf([spot(-LENGTH / 2, aside), spot(LENGTH / 2, aside)], ''));
    for (let along = -LENGTH / 2 + HOUSE; along < LENGTH / 2; along += HOUSE * 1.6) {
      if (random.chance(0.2)) continue;
      const [left, depth] = [aside + 12, random.between(10, 24)];
      const corners = [
        spot(left, along),
        spot(left + depth, along),
        spot(left + depth, along + HOUSE),
        spot(left, along + HOUSE),
      ];
      layers.buildings.push(areaOf(corners, ''));
    }
  });
  layers.landuse.push(areaOf(around(spot(LENGTH * 0.7, 0), 120, `green of ${names[0]}`), ''));
}

/** The point that lies `east` and `north` metres from another. */
function moved({ latitude, longitude }: Point, east: number, north: number): Point {
  const perDegree = METRES_PER_DEGREE * Math.cos((latitude * Math.PI) / 180);
  return { latitude: latitude + north / METRES_PER_DEGREE, longitude: longitude + east / perDegree };
}

/** A way through some points that does not go straight. */
function winding(points: readonly Point[], seed: string): Point[] {
  const random = randomOf(seed);
  return points.flatMap((point, i) => {
    const next = points[i + 1];
    if (!next) return [point];
    return Array.from({ length: 8 }, (_, step) => {
      const part = step / 8;
      const between = {
        latitude: point.latitude + (next.latitude - point.latitude) * part,
        longitude: point.longitude + (next.longitude - point.longitude) * part,
      };
      return step === 0 ? between : moved(between, random.between(-250, 250), random.between(-250, 250));
    });
  });
}

/** Something round that was not drawn with a compass. */
function around(middle: Point, metres: number, seed: string): Point[] {
  const random = randomOf(seed);
  return Array.from({ length: 16 }, (_, i) => {
    const [angle, far] = [(i / 16) * 2 * Math.PI, metres * random.between(0.7, 1.2)];
    return moved(middle, Math.cos(angle) * far, Math.sin(angle) * far);
  });
}

const position = ({ latitude, longitude }: Point) => [longitude, latitude];

function lineOf(points: readonly Point[], name: string): Shape {
  return {
    ...{ type: 'Feature', properties: { name } },
    geometry: { type: 'LineString', coordinates: points.map(position) },
  };
}

function areaOf(corners: readonly Point[], name: string): Shape {
  const ring = [...corners, ...corners.slice(0, 1)].map(position);
  return { ...{ type: 'Feature', properties: { name } }, geometry: { type: 'Polygon', coordinates: [ring] } };
}
