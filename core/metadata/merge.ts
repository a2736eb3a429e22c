// Three-way merging, field by field: what the file said when it was last read, what the catalogue says now, and what the
// file says now. Lists merge as sets that keep their order; other values conflict when both sides changed them.

import { FIELDS, type Field, type FieldId, type FieldValue, type FieldValues } from './fields';
import { DEFAULT_LANGUAGE, sameValue } from './values';

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

type Languages = Record<string, FieldValue>;

/** Language by language, each of which conflicts for itself. */
function mergeLanguages(base: Languages, ours: Languages, theirs: Languages): FieldValue | undefined | typeof CONFLICT {
  const merged: Languages = {};
  for (const language of new Set([...Object.keys(ours), ...Object.keys(theirs)])) {
    const [was, our, their] = [base[language], ours[language], theirs[language]];
    if (our !== their && our !== was && their !== was) return CONFLICT;
    const value = our === was ? their : our;
    if (value !== undefined) merged[language] = value;
  }
  const names = Object.keys(merged);
  if (names.length === 0) return undefined;
  return names.length === 1 && names[0] === DEFAULT_LANGUAGE ? merged[DEFAULT_LANGUAGE] : merged;
}

function listOf(value: FieldValue | undefined): FieldValue[] {
  return value === undefined ? [] : Array.isArray(value) ? value : [value];
}

function languagesOf(value: FieldValue | undefined): Languages {
  if (value === undefined) return {};
  return typeof value === 'object' && !Array.isArray(value) ? value : { [DEFAULT_LANGUAGE]: value };
}
