// What a copy says: of all that the catalogue says of a photo, what a delivery lets out. What is private never is.

import { FIELDS, fieldOf, type FieldId, type FieldValue, type FieldValues } from '../metadata/fields';
import { DEFAULT_LANGUAGE } from '../metadata/values';
import type { FieldChanges } from '../metadata/write';
import { foldText } from '../text/words';
import { aboutOf, hierarchyOf } from '../vocabulary/referring';
import type { Term, Vocabulary } from '../vocabulary/term';
import type { TermTree } from '../vocabulary/tree';

export const METADATA_MODES = {
  all: 'All that is said',
  fields: 'Chosen fields',
  rights: 'Contact and rights only',
  none: 'Nothing',
} as const satisfies Record<string, string>;
export type MetadataMode = keyof typeof METADATA_MODES;
export const METADATA_MODE_IDS = Object.keys(METADATA_MODES) as [MetadataMode, ...MetadataMode[]];

export const TERM_MODES = {
  asWritten: 'As files say them',
  narrow: 'Only those given',
  broad: 'With all broader ones',
  none: 'None',
} as const satisfies Record<string, string>;
export type TermMode = keyof typeof TERM_MODES;
export const TERM_MODE_IDS = Object.keys(TERM_MODES) as [TermMode, ...TermMode[]];

/** What a delivery lets out. */
export interface MetadataPolicy {
  what: MetadataMode;
  /** Of `fields`: which. */
  fields: readonly FieldId[];
  /** GPS positions, also those within named places. */
  position: boolean;
  /** Who is shown, by name and face. */
  people: boolean;
  terms: TermMode;
  /** A BCP 47 tag: texts and terms in this language, where they are there in it; empty: in all. */
  language: string;
}

/** What the catalogue says of a photo. */
export interface SaidOfPhoto {
  fields: FieldValues;
  /** Keywords that are no terms, in their order. */
  freeKeywords: readonly string[];
  /** Those that its terms come to by their own rules. */
  termKeywords: readonly string[];
  termIds: readonly number[];
  rating: number;
  mark: string;
}

const RIGHTS: readonly FieldId[] = [
  'creator',
  'creatorJobTitle',
  'creatorContactInfo',
  'creditLine',
  'source',
  'copyrightNotice',
  'usageTerms',
  'webStatement',
  'rightsMarked',
  'rightsOwner',
  'copyrightOwner',
  'imageCreator',
  'imageSupplier',
  'licensor',
  'dataMining',
];
const PEOPLE: ReadonlySet<FieldId> = new Set<FieldId>([
  'personInImage',
  'personInImageDetails',
  'regions',
  'imageRegion',
]);
const TERMS: ReadonlySet<FieldId> = new Set<FieldId>(['keywords', 'keywordHierarchy', 'aboutCvTerm']);
/** Members of structures that say where exactly something is. */
const POSITION_MEMBERS: ReadonlySet<string> = new Set(['GPSLatitude', 'GPSLongitude', 'GPSAltitude']);
/** They speak of the original file, or of work in the archive, not of the picture: copies are upright. */
const STAY: ReadonlySet<FieldId> = new Set<FieldId>([
  'mark',
  'custom',
  'maxAvailWidth',
  'maxAvailHeight',
  'orientation',
  'stretches',
]);

/** The fields that a policy is about before what is held back by `position`, `people` and `terms`. */
export function fieldsOf({ what, fields }: Pick<MetadataPolicy, 'what' | 'fields'>): readonly FieldId[] {
  const byMode: Record<MetadataMode, () => readonly FieldId[]> = {
    all: () => FIELDS.map(({ id }) => id as FieldId).filter((id) => !STAY.has(id)),
    fields: () => fields,
    rights: () => RIGHTS,
    none: () => [],
  };
  return byMode[what]();
}

/**
 * What is written into a copy.
 * @param privateNames folded names of persons that are private, and of the terms that stand for them: they appear nowhere
 */
export function copyMetadata(
  said: SaidOfPhoto,
  policy: MetadataPolicy,
  { tree, vocabularies }: { tree: TermTree; vocabularies: readonly Vocabulary[] },
  privateNames: ReadonlySet<string> = new Set(),
): FieldChanges {
  const all: FieldValues = {
    ...said.fields,
    ...termFields(said, policy, tree, vocabularies),
    ...(said.rating === 0 ? {} : { rating: said.rating }),
    ...(said.mark === '' ? {} : { mark: said.mark }),
  };
  const entries = fieldsOf(policy).flatMap((id): [FieldId, FieldValue][] => {
    if (id === 'position' && !policy.position) return [];
    if (PEOPLE.has(id) && !policy.people) return [];
    if (TERMS.has(id) && policy.terms === 'none') return [];
    const value = withoutPrivate(inLanguage(id, all[id], policy.language), privateNames);
    const open = policy.position ? value : withoutPositions(value);
    return open === undefined ? [] : [[id, open]];
  });
  return Object.fromEntries(entries) as FieldChanges;
}

/** Fields without what names private persons (folded names). */
export function openFields(fields: FieldValues, privateNames: ReadonlySet<string>): FieldValues {
  const entries = Object.entries(fields).flatMap(([id, value]) => {
    const open = withoutPrivate(value, privateNames);
    return open === undefined ? [] : [[id, open] as const];
  });
  return Object.fromEntries(entries);
}

/** Keywords and references to terms, as broad or narrow as wanted. */
function termFields(
  { fields, freeKeywords, termKeywords, termIds }: SaidOfPhoto,
  { terms, language }: MetadataPolicy,
  tree: TermTree,
  vocabularies: readonly Vocabulary[],
): FieldValues {
  const byMode: Record<TermMode, () => readonly string[]> = {
    asWritten: () => termKeywords,
    narrow: () => termIds.flatMap((id) => writable(tree.get(id))).map((term) => labelIn(term, language)),
    broad: () => termIds.flatMap((id) => tree.path(id).flatMap(writable)).map((term) => labelIn(term, language)),
    none: () => [],
  };
  const keywords = [...new Set([...freeKeywords, ...byMode[terms]()])];
  // Of terms that are written as they are alone the path would say the broader ones all the same.
  const hierarchy =
    terms === 'narrow' ? undefined : hierarchyOf(tree, termIds, fields.keywordHierarchy, new Set(keywords));
  return {
    keywords: keywords.length > 0 ? keywords : undefined,
    keywordHierarchy: hierarchy,
    aboutCvTerm: aboutOf(tree, vocabularies, termIds, fields.aboutCvTerm),
  } as FieldValues;
}

function writable(term: Term | undefined): Term[] {
  return term && !term.heading && term.status === 'accepted' ? [term] : [];
}

function labelIn({ label, otherLabels }: Term, language: string): string {
  return otherLabels.find((other) => other.kind === 'preferred' && other.language === language)?.label ?? label;
}

/** Of a text in several languages the one that is wanted, as its only one; as it is where it is not there in it. */
function inLanguage(id: FieldId, value: FieldValue | undefined, language: string): FieldValue | undefined {
  if (language === '' || fieldOf(id).type !== 'langAlt' || typeof value !== 'object' || Array.isArray(value))
    return value;
  const wanted = value[language] ?? value[DEFAULT_LANGUAGE] ?? Object.values(value)[0];
  return wanted === undefined ? undefined : { [DEFAULT_LANGUAGE]: wanted };
}

function withoutPositions(value: FieldValue | undefined): FieldValue | undefined {
  return mapped(value, (member) => !POSITION_MEMBERS.has(member));
}

/** Takes out of a value every text that is a private name, and every structure that holds one. */
function withoutPrivate(value: FieldValue | undefined, names: ReadonlySet<string>): FieldValue | undefined {
  if (names.size === 0 || value === undefined) return value;
  if (typeof value === 'string') return names.has(foldText(value)) ? undefined : value;
  if (typeof value !== 'object') return value;
  if (Array.isArray(value)) {
    const rest = value.flatMap((each) => withoutPrivate(each, names) ?? []);
    return rest.length > 0 ? rest : undefined;
  }
  // What names somebody private goes as a whole: a face without its name still says where it is.
  for (const member of ['Name', 'PersonName', 'Keyword', 'CvTermName'])
    if (member in value && textsIn(value[member]).some((text) => names.has(foldText(text)))) return undefined;
  const rest = Object.entries(value).flatMap(([member, each]) => {
    const left = withoutPrivate(each, names);
    return left === undefined ? [] : [[member, left] as const];
  });
  return rest.length > 0 ? Object.fromEntries(rest) : undefined;
}

function textsIn(value: FieldValue | undefined): string[] {
  if (typeof value === 'string') return [value];
  return typeof value === 'object' && !Array.isArray(value) ? Object.values(value).flatMap(textsIn) : [];
}

/** A value with only some members of its structures; undefined when nothing is left. */
function mapped(value: FieldValue | undefined, keeps: (member: string) => boolean): FieldValue | undefined {
  if (value === undefined || typeof value !== 'object') return value;
  if (Array.isArray(value)) {
    const rest = value.flatMap((each) => mapped(each, keeps) ?? []);
    return rest.length > 0 ? rest : undefined;
  }
  const rest = Object.entries(value).flatMap(([member, each]) => {
    const left = keeps(member) ? mapped(each, keeps) : undefined;
    return left === undefined ? [] : [[member, left] as const];
  });
  return rest.length > 0 ? Object.fromEntries(rest) : undefined;
}
