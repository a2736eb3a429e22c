// Edits of fields: what becomes of a value that is there when something is put in, added, filled in or taken out.

import type { FieldValue, FieldValues } from '../metadata/fields';
import { DEFAULT_LANGUAGE, normalValue, sameValue } from '../metadata/values';
import { shapeOf, valueOf, withValue, type Target } from './targets';

/**
 * - `replace`: the value stands there afterwards; null takes out what is there.
 * - `add`: lists get what they lack, texts get it behind what they say, structures the members they lack.
 * - `fill`: only where nothing is said.
 * - `remove`: lists lose it; anything else only when it says just that.
 */
export const EDIT_MODES = ['replace', 'add', 'fill', 'remove'] as const;
export type EditMode = (typeof EDIT_MODES)[number];

export interface FieldEdit {
  target: Target;
  mode: EditMode;
  value: FieldValue | null;
  /** For texts by language: which one is meant; without it the default one. */
  language?: string | undefined;
}

/** The fields after an edit. */
export function edited(fields: FieldValues, { target, mode, value, language }: FieldEdit): FieldValues {
  const shape = shapeOf(target);
  const before = valueOf(fields, target);
  const given = normalValue(value);
  if (shape.type === 'langAlt' && (given === undefined || typeof given !== 'object'))
    return withValue(fields, target, inLanguage(before, language ?? DEFAULT_LANGUAGE, mode, given));
  const change = shape.list ? LISTS[mode](listOf(before), listOf(given)) : SINGLE[mode](before, given);
  return withValue(fields, target, change);
}

type Single = (before: FieldValue | undefined, given: FieldValue | undefined) => FieldValue | undefined;

const SINGLE: Readonly<Record<EditMode, Single>> = {
  replace: (_before, given) => given,
  add: (before, given) => {
    if (before === undefined || given === undefined) return before ?? given;
    if (isObject(before) && isObject(given)) return { ...given, ...before };
    // What a text ends with already is not said twice.
    if (typeof before === 'string' && typeof given === 'string')
      return before === given || before.endsWith(` ${given}`) ? before : `${before} ${given}`;
    return before;
  },
  fill: (before, given) => before ?? given,
  remove: (before, given) => (given !== undefined && sameValue(before, given) ? undefined : before),
};

type Lists = (before: FieldValue[], given: FieldValue[]) => FieldValue[];

const LISTS: Readonly<Record<EditMode, Lists>> = {
  replace: (_before, given) => given,
  add: (before, given) => [...before, ...given.filter((item) => !has(before, item))],
  fill: (before, given) => (before.length > 0 ? before : given),
  remove: (before, given) => before.filter((item) => !has(given, item)),
};

function inLanguage(
  before: FieldValue | undefined,
  language: string,
  mode: EditMode,
  given: FieldValue | undefined,
): FieldValue | undefined {
  const languages = isObject(before) ? before : before === undefined ? {} : { [DEFAULT_LANGUAGE]: before };
  const text = SINGLE[mode](languages[language], given);
  const others = Object.entries(languages).filter(([name]) => name !== language);
  if (text === undefined) return others.length > 0 ? Object.fromEntries(others) : undefined;
  // The default language stands first, as XMP wants it (ISO 16684-1, 8.2.2.4).
  return language === DEFAULT_LANGUAGE
    ? Object.fromEntries([[language, text], ...others])
    : Object.fromEntries([...Object.entries(languages).filter(([name]) => name !== language), [language, text]]);
}

function has(list: readonly FieldValue[], item: FieldValue): boolean {
  return list.some((other) => sameValue(other, item));
}

function listOf(value: FieldValue | undefined): FieldValue[] {
  return value === undefined ? [] : Array.isArray(value) ? value : [value];
}

function isObject(value: FieldValue | undefined): value is { [member: string]: FieldValue } {
  return typeof value === 'object' && !Array.isArray(value);
}
