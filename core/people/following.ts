// What the fields of a photo say of the people in it: they follow the faces and persons of the catalogue. Names and regions
// that came with the file and are nobody of the catalogue stay as they are.

import type { FieldId, FieldValue, FieldValues } from '../metadata/fields';
import { textsOf } from '../metadata/values';
import { matchBoxes, overlap, type Box } from './boxes';
import { boxOf, regionOf, regionsField, regionsOf, type SeenPicture } from './regions';

/** Somebody who may be named in files: with the box of the face, if there is one. */
export interface Shown {
  name: string;
  box?: Box | undefined;
  /** What files say of them besides the name. */
  details?: { note: string; uri?: string };
}

/** The fields by which files name people (IPTC Extension, PersonInImage and PersonInImageWDetails; MWG regions). */
export const PEOPLE_FIELDS = ['personInImage', 'personInImageDetails', 'regions'] as const satisfies FieldId[];
export type PeopleFields = Pick<FieldValues, (typeof PEOPLE_FIELDS)[number]>;

/**
 * The fields when the people of a photo are no longer those of `before` but those of `after`: names that were there because
 * of somebody who is gone go, new ones are added at the end; regions go and come with the boxes. `undefined` where nothing
 * is left.
 */
export function followPeople(
  fields: PeopleFields,
  before: readonly Shown[],
  after: readonly Shown[],
  picture: SeenPicture,
): {
  personInImage: string[] | undefined;
  personInImageDetails: FieldValue | undefined;
  regions: FieldValue | undefined;
} {
  return {
    personInImage: followNames(fields, before, after),
    personInImageDetails: followDetails(fields, before, after),
    regions: followRegions(fields, before, after, picture),
  };
}

function followNames(fields: PeopleFields, before: readonly Shown[], after: readonly Shown[]): string[] | undefined {
  const now = new Set(after.map(({ name }) => name));
  const gone = new Set(before.map(({ name }) => name).filter((name) => !now.has(name)));
  const names = [...new Set([...textsOf(fields.personInImage).filter((name) => !gone.has(name)), ...now])];
  return names.length > 0 ? names : undefined;
}

/** Entries of others stay; ours, by their names, say what is known now, and keep what else they say. */
function followDetails(
  { personInImageDetails }: PeopleFields,
  before: readonly Shown[],
  after: readonly Shown[],
): FieldValue | undefined {
  const there = Array.isArray(personInImageDetails) ? personInImageDetails : [];
  const detailed = (shown: readonly Shown[]) => new Map(shown.flatMap((one) => (one.details ? [[one.name, one]] : [])));
  const [was, now] = [detailed(before), detailed(after)];
  const named = (name: string) => there.find((entry) => nameIn(entry) === name);
  const left = there.filter((entry) => {
    const name = nameIn(entry);
    return name === undefined || !(was.has(name) || now.has(name));
  });
  const ours = [...now.values()].map(({ name, details }) => {
    const entry = named(name);
    return {
      ...(isStruct(entry) ? entry : {}),
      PersonName: { 'x-default': name },
      ...(details?.note ? { PersonDescription: { 'x-default': details.note } } : {}),
      ...(details?.uri ? { PersonId: [details.uri] } : {}),
    };
  });
  const all = [...left, ...ours];
  return all.length > 0 ? all : undefined;
}

function isStruct(value: FieldValue | undefined): value is { [member: string]: FieldValue } {
  return typeof value === 'object' && !Array.isArray(value);
}

/** The name that an entry of PersonInImageWDetails gives. */
function nameIn(entry: FieldValue): string | undefined {
  const name = isStruct(entry) ? entry['PersonName'] : undefined;
  const text = isStruct(name) ? (name['x-default'] ?? Object.values(name)[0]) : name;
  return typeof text === 'string' ? text : undefined;
}

function followRegions(
  { regions }: PeopleFields,
  before: readonly Shown[],
  after: readonly Shown[],
  picture: SeenPicture,
): FieldValue | undefined {
  const [was, wanted] = [boxed(before), boxed(after)];
  if (was.length === 0 && wanted.length === 0) return regions;
  const list = regionsOf(regions).map((region) => ({ region, box: boxOf(region, regions, picture) }));
  const places = list.flatMap(({ region, box }) => (box ? [{ region, box }] : []));
  const boxesOf = (some: readonly { box: Box }[]) => some.map(({ box }) => box);
  const stays = new Map(matchBoxes(boxesOf(wanted), boxesOf(places)));
  const taken = new Set([...stays.values()].map((at) => places[at]?.region));
  const left = places.filter(({ region }) => !taken.has(region));
  for (const [, at] of matchBoxes(boxesOf(was), boxesOf(left))) taken.add(left[at]?.region);
  const ours = wanted.map(({ name, box }, i) => {
    const place = places[stays.get(i) ?? -1];
    const region = regionOf(name, box, picture);
    if (!place) return region;
    // What else is said of the region stays, and so does its rectangle where it fits.
    const { Area } = overlap(place.box, box) > STILL_FITS ? place.region : region;
    return { ...place.region, ...region, Area: Area ?? region.Area };
  });
  return regionsField([...list.flatMap(({ region }) => (taken.has(region) ? [] : [region])), ...ours], picture);
}

const STILL_FITS = 0.5;

function boxed(shown: readonly Shown[]): { name: string; box: Box }[] {
  return shown.flatMap(({ name, box }) => (box ? [{ name, box }] : []));
}
