// Outlines of the world as they ship along (Natural Earth, public domain): countries, land, and where countries meet.

import { createRequire } from 'node:module';
import { feature, mesh } from 'topojson-client';
import type { Ring } from '@stellin/core/timeplace/borders';
import { cutAtDateLine } from '@stellin/core/timeplace/outlines';

type Atlas = Parameters<typeof feature>[0];

const require = createRequire(__filename);

/** Coasts and borders, more of them the larger the scale. */
export type Scale = '110m' | '50m' | '10m';

/** Each is read when it is asked for: the finest has four megabytes. */
const ATLASES: Readonly<Record<Scale, () => unknown>> = {
  '110m': () => require('world-atlas/countries-110m.json'),
  '50m': () => require('world-atlas/countries-50m.json'),
  '10m': () => require('world-atlas/countries-10m.json'),
};

export function readAtlas(scale: Scale): Atlas {
  return ATLASES[scale]() as Atlas;
}

/** The rings of each country. */
export function countryShapes(atlas: Atlas): Ring[][] {
  return geometriesOf(atlas, 'countries').map((geometry) => polygonsOf(geometry).flat());
}

/** The polygons of all land, each with its holes. */
export function landPolygons(atlas: Atlas): Ring[][] {
  return geometriesOf(atlas, 'land').flatMap(polygonsOf);
}

/** Where two countries meet. */
export function borderLines(atlas: Atlas): Ring[] {
  return mesh(atlas, objectOf(atlas, 'countries') as Parameters<typeof mesh>[1], (a, b) => a !== b).coordinates;
}

function geometriesOf(atlas: Atlas, name: string): GeoJSON.Geometry[] {
  const found = feature(atlas, objectOf(atlas, name));
  return 'features' in found ? found.features.map(({ geometry }) => geometry) : [found.geometry];
}

function objectOf(atlas: Atlas, name: string) {
  const found = atlas.objects[name];
  if (!found) throw new Error(`the atlas has no ${name}`);
  return found;
}

function polygonsOf(geometry: GeoJSON.Geometry): Ring[][] {
  if (geometry.type === 'Polygon') return cut(geometry.coordinates);
  return geometry.type === 'MultiPolygon' ? geometry.coordinates.flatMap(cut) : [];
}

/** A polygon that crosses the date line as several; of such none has holes. */
function cut(rings: Ring[]): Ring[][] {
  const [outer, ...holes] = rings;
  const parts = outer ? cutAtDateLine(outer) : [];
  return parts.length > 1 ? parts.map((part) => [part]) : [[...parts, ...holes]];
}
