// Three-way merging, field by field: what the file said when it was last read, what the catalogue says now, and what the
// file says now. Lists merge as sets that keep their order; other values conflict when both sides changed them.

import { FIELDS, type Field, type FieldId, type FieldValue, type FieldValues } from './fields';
import { DEFAULT_LANGUAGE, sameValue } from './values';

/** Fields that have tables of their own in the catalogue, or follow from these: what is said of them is put together there. */
export const KEPT_APART: ReadonlySet<string> = new Set<FieldId>([
  'keywords',
  'keywordHierarchy',
  'aboutCvTerm',
  'rating',
  'mark',
]);

export interface Merged {
  /** The merged values; for a conflict the catalogue's. */
  values: FieldValues;
  conflicts: FieldId[];
}

/** The merge of all fields. */
export function mergeValues(base: FieldValues, catalogue: FieldValues, file: FieldValues): Merged {
  const merged: Merged = { values: {}, conflicts: [] };
  for (const field of FIELDS) {
    const sides = [base[field.id], catalogue[field.id], file[field.id]] as const;
    const value = mergeField(field, ...sides);
    if (value === CONFLICT) merged.conflicts.push(field.id);
    const settled = value === CONFLICT ? catalogue[field.id] : value;
    if (settled !== undefined) merged.values[field.id] = settled;
  }
  return merged;
}

const CONFLICT = Symbol('conflict');

function mergeField(
  field: Field,
  base: FieldValue | undefined,
  ours: FieldValue | undefined,
  theirs: FieldValue | undefined,
): FieldValue | undefined | typeof CONFLICT {
  if (sameValue(ours, theirs) || sameValue(theirs, base)) return ours;
  if (sameValue(ours, base)) return theirs;
  if (field.id === 'custom') return mergeOwnFields(base, ours, theirs);
  if (field.list) return mergeLists(listOf(base), listOf(ours), listOf(theirs));
  if (field.type === 'langAlt') return mergeLanguages(languagesOf(base), languagesOf(ours), languagesOf(theirs));
  return CONFLICT;
}

/** Ours without what they took out, and with what they put in behind what it follows on their side. */
function mergeLists(base: FieldValue[], ours: FieldValue[], theirs: FieldValue[]): FieldValue | undefined {
  const has = (list: readonly FieldValue[], item: FieldValue) => list.some((other) => sameValue(other, item));
  const merged = ours.filter((item) => has(theirs, item) || !has(base, item));
  theirs.forEach((item, i) => {
    if (has(merged, item) || has(base, item)) return;
    const before = theirs.slice(0, i).findLast((other) => has(merged, other));
    const at =
      before === undefined ? (i === 0 ? 0 : merged.length) : 1 + merged.findIndex((other) => sameValue(other, before));
    merged.splice(at, 0, item);
  });
  return merged.length > 0 ? merged : undefined;
}

type Named = Record<string, FieldValue>;

/** Name by name, each of which conflicts for itself. */
function mergeNamed(base: Named, ours: Named, theirs: Named): Named | typeof CONFLICT {
  const merged: Named = {};
  for (const name of new Set([...Object.keys(ours), ...Object.keys(theirs)])) {
    const [was, our, their] = [base[name], ours[name], theirs[name]];
    const weStay = sameValue(our, was);
    if (!sameValue(our, their) && !weStay && !sameValue(their, was)) return CONFLICT;
    const value = weStay ? their : our;
    if (value !== undefined) merged[name] = value;
  }
  return merged;
}

function mergeLanguages(base: Named, ours: Named, theirs: Named): FieldValue | undefined | typeof CONFLICT {
  const merged = mergeNamed(base, ours, theirs);
  if (merged === CONFLICT) return CONFLICT;
  const names = Object.keys(merged);
  if (names.length === 0) return undefined;
  return names.length === 1 && names[0] === DEFAULT_LANGUAGE ? merged[DEFAULT_LANGUAGE] : merged;
}

/** Fields of a project are told apart by their names. */
function mergeOwnFields(
  base: FieldValue | undefined,
  ours: FieldValue | undefined,
  theirs: FieldValue | undefined,
): FieldValue | undefined | typeof CONFLICT {
  const merged = mergeNamed(ownFieldsOf(base), ownFieldsOf(ours), ownFieldsOf(theirs));
  if (merged === CONFLICT) return CONFLICT;
  const own = Object.values(merged);
  return own.length > 0 ? own : undefined;
}

function ownFieldsOf(value: FieldValue | undefined): Named {
  return Object.fromEntries(
    listOf(value).map((own) => [typeof own === 'object' && !Array.isArray(own) ? String(own['Name']) : '', own]),
  );
}

function listOf(value: FieldValue | undefined): FieldValue[] {
  return value === undefined ? [] : Array.isArray(value) ? value : [value];
}

function languagesOf(value: FieldValue | undefined): Named {
  if (value === undefined) return {};
  return typeof value === 'object' && !Array.isArray(value) ? value : { [DEFAULT_LANGUAGE]: value };
}
