// What placing a photo says of it: its position, and the names of the place as edits of fields.

import type { FieldValues } from '../metadata/fields';
import { textsOf } from '../metadata/values';
import type { FieldEdit } from './editing';
import type { Point } from '../timeplace/areas';

/** The names of where a photo was taken, by the fields that say them (IPTC Core, location created); '' where none is known. */
export interface NamesOfPlace {
  sublocation: string;
  city: string;
  provinceState: string;
  country: string;
  countryCode: string;
}

/** In the order in which a place is told, the narrowest first. */
export const NAME_FIELDS = [
  'sublocation',
  'city',
  'provinceState',
  'country',
  'countryCode',
] as const satisfies readonly (keyof NamesOfPlace)[];

/** The names of where it was taken that a photo says. */
export function namesIn(fields: FieldValues): NamesOfPlace {
  const said = NAME_FIELDS.map((field) => [field, textsOf(fields[field])[0] ?? ''] as const);
  return Object.fromEntries(said) as Record<keyof NamesOfPlace, string>;
}

/** The names that are said, as people tell a place, the narrowest first; the code of the country says nothing more. */
export function namesTold(names: NamesOfPlace): string[] {
  return NAME_FIELDS.flatMap((field) => (field === 'countryCode' || names[field] === '' ? [] : [names[field]]));
}

/** What becomes of names that a photo says already: stay, be replaced; or no names are put in. */
export const NAMING_WAYS = ['fill', 'replace', 'none'] as const;
export type NamingWay = (typeof NAMING_WAYS)[number];

/** How names of a place are put in. `shown`: also as a location shown in the picture (IPTC Extension). */
export interface Naming {
  way: NamingWay;
  shown: boolean;
}

/** The names as edits; none for `none`. */
export function nameEdits(names: NamesOfPlace, { way, shown }: Naming): FieldEdit[] {
  const said = NAME_FIELDS.filter((name) => names[name] !== '');
  return [
    ...(way === 'none' ? [] : said.map((name): FieldEdit => ({ target: name, mode: way, value: names[name] }))),
    ...(shown && said.length > 0
      ? [{ target: 'locationShown', mode: 'add', value: [shownOf(names)] } satisfies FieldEdit]
      : []),
  ];
}

/** The position as an edit that takes the place of the one before. */
export function positionEdit({
  latitude,
  longitude,
  altitude,
  direction,
}: Point & { altitude?: number | undefined; direction?: number | undefined }): FieldEdit {
  const value = {
    ...{ latitude, longitude },
    ...(altitude === undefined ? {} : { altitude }),
    ...(direction === undefined ? {} : { direction }),
  };
  return { target: 'position', mode: 'replace', value };
}

/** The names as the IPTC structure of a location has them. */
function shownOf({ sublocation, city, provinceState, country, countryCode }: NamesOfPlace): Record<string, string> {
  const members = {
    Sublocation: sublocation,
    City: city,
    ProvinceState: provinceState,
    CountryName: country,
    CountryCode: countryCode,
  };
  return Object.fromEntries(Object.entries(members).filter(([, value]) => value !== ''));
}
