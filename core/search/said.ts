// What a photo's metadata says by text criterion: what the naive evaluation, the finder index and the SQL all look at.

import { ownMembers } from '../describing/targets';
import type { FieldId, FieldValue, FieldValues } from '../metadata/fields';
import type { FileFacts } from '../metadata/read';
import { positionOf, textsOf } from '../metadata/values';
import { SEARCHED_FIELDS, type NumberId, type TextId } from '../query/criteria';
import type { Point } from '../timeplace/areas';

const SEARCHED = new Set<string>(SEARCHED_FIELDS.map(({ id }) => id));

/** What the catalogue knows of the people in a photo. */
export interface PeopleFacts {
  /** All names of all persons in it. */
  names: readonly string[];
  /** Those of persons whose faces in it are named. */
  confirmed: readonly string[];
  /** Those of persons whom faces that nobody has named most likely show. */
  suggested: readonly string[];
  /** The same without private persons; undefined where none of them is one. */
  public?: { names: readonly string[]; confirmed: readonly string[]; suggested: readonly string[] };
  faces: number;
  /** Faces that nobody has named. */
  unnamed: number;
}

export const NOBODY: PeopleFacts = { names: [], confirmed: [], suggested: [], faces: 0, unnamed: 0 };

/** The texts by criterion, for those that come from fields, facts and people. Criteria without any are left out. */
export function saidOf(
  fields: FieldValues,
  facts: FileFacts,
  people: PeopleFacts = NOBODY,
): Partial<Record<TextId, string[]>> {
  const said: Partial<Record<TextId, string[]>> = {};
  for (const id in fields) {
    const value = fields[id as FieldId];
    if (value !== undefined && SEARCHED.has(id)) put(said, id as FieldId, allTexts(value));
  }
  put(said, 'camera', [cameraName(facts)]);
  if (facts.lens !== undefined) put(said, 'lens', [facts.lens]);
  put(said, 'codec', present([facts.codec, facts.audioCodec]));
  put(said, 'text', present([facts.text, facts.lettering]));
  put(said, 'container', present([facts.container]));
  put(said, 'timecode', present([facts.timecode]));
  put(said, 'colour', present([facts.colour, facts.dynamicRange, facts.primaries]));
  put(said, 'person', [
    ...people.names,
    ...textsOf(fields.personInImage),
    ...memberTexts(fields.personInImageDetails, PERSON_MEMBERS),
  ]);
  put(said, 'own', ownTexts(fields.custom));
  put(said, 'confirmed', people.confirmed);
  put(said, 'suggested', people.suggested);
  const places = memberTexts(fields.locationShown, PLACE_MEMBERS);
  put(said, 'place', [
    ...textsOf(fields.sublocation),
    ...textsOf(fields.city),
    ...textsOf(fields.provinceState),
    ...textsOf(fields.country),
    ...places,
  ]);
  return said;
}

/** What a photo says of people. */
export const PEOPLE_TEXTS = ['person', 'confirmed', 'suggested'] as const satisfies readonly TextId[];
export type PeopleTextId = (typeof PEOPLE_TEXTS)[number];

/** What it says of people to whom private persons do not exist for. */
export function publicPeopleOf(fields: FieldValues, people: PeopleFacts): Partial<Record<TextId, string[]>> {
  const { person, confirmed, suggested } = saidOf(fields, {}, { ...people, ...people.public });
  return { ...(person && { person }), ...(confirmed && { confirmed }), ...(suggested && { suggested }) };
}

/** Of each field of the project its name with each of its values. */
function ownTexts(custom: FieldValue | undefined): string[] {
  return ownMembers(custom).flatMap(({ Name: name, Value: value }) =>
    typeof name === 'string' && Array.isArray(value)
      ? value.flatMap((each) => (typeof each === 'string' ? [`${name}: ${each}`] : []))
      : [],
  );
}

const PERSON_MEMBERS = ['PersonName'];
const PLACE_MEMBERS = ['LocationName', 'Sublocation', 'City', 'ProvinceState', 'CountryName'];

function present(texts: readonly (string | undefined)[]): string[] {
  return texts.filter((text) => text !== undefined);
}

/** Keeps each text once. */
function put(said: Partial<Record<TextId, string[]>>, id: TextId, texts: readonly string[]): void {
  const distinct: string[] = [];
  for (const text of texts) if (text !== '' && !distinct.includes(text)) distinct.push(text);
  if (distinct.length > 0) said[id] = distinct;
}

/** Maker and model; many models name their maker themselves. */
export function cameraName({ make = '', model = '' }: FileFacts): string {
  return model.toLowerCase().startsWith(make.toLowerCase()) ? model : `${make} ${model}`.trim();
}

/** Every text in a value, those inside structures and in all languages too. */
function allTexts(value: FieldValue): string[] {
  if (typeof value === 'string') return [value];
  if (Array.isArray(value)) return value.flatMap(allTexts);
  return typeof value === 'object' ? Object.values(value).flatMap(allTexts) : [String(value)];
}

function memberTexts(value: FieldValue | undefined, members: readonly string[]): string[] {
  if (value === undefined || typeof value !== 'object') return [];
  if (Array.isArray(value)) return value.flatMap((item) => memberTexts(item, members));
  return members.flatMap((member) => (value[member] === undefined ? [] : allTexts(value[member])));
}

/** The numbers by criterion that come from fields, facts and people. */
export function measuredOf(
  fields: FieldValues,
  facts: FileFacts,
  { faces, unnamed }: PeopleFacts,
): Partial<Record<NumberId, number>> {
  const measured: Partial<Record<NumberId, number>> = { faces: Math.max(faces, facesIn(fields.regions)), unnamed };
  if (facts.iso !== undefined) measured.iso = facts.iso;
  if (facts.fNumber !== undefined) measured.aperture = facts.fNumber;
  if (facts.exposureTime !== undefined) measured.exposure = facts.exposureTime;
  if (facts.focalLength !== undefined) measured.focal = facts.focalLength;
  if (facts.bitDepth !== undefined) measured.bitDepth = facts.bitDepth;
  if (facts.duration !== undefined) measured.duration = facts.duration;
  if (facts.pages !== undefined) measured.pages = facts.pages;
  if (facts.frameRate !== undefined) measured.frameRate = facts.frameRate;
  if (facts.bitRate !== undefined) measured.bitRate = facts.bitRate;
  if (facts.channels !== undefined) measured.channels = facts.channels;
  if (facts.sampleRate !== undefined) measured.sampleRate = facts.sampleRate;
  const altitude = positionOf(fields.position)?.altitude;
  if (altitude !== undefined) measured.altitude = altitude;
  return measured;
}

/** Where a photo was taken, as the catalogue says it: what was read of its file, or what somebody has put there since. */
export function pointOf({ position }: FieldValues): Point | undefined {
  return positionOf(position);
}

/** MWG 2.0, section 5.9: regions of the type Face. */
function facesIn(regions: FieldValue | undefined): number {
  if (regions === undefined || typeof regions !== 'object' || Array.isArray(regions)) return 0;
  const list = regions['RegionList'];
  if (!Array.isArray(list)) return 0;
  return list.filter((region) => typeof region === 'object' && !Array.isArray(region) && region['Type'] === 'Face')
    .length;
}
