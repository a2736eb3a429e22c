// The fields that a project makes for itself: what kind of values each takes. A field is known by its name, so one name means one
// kind wherever it is used.

import type { FieldValue } from '../metadata/fields';
import { sameValue, textsOf } from '../metadata/values';
import { ownMembers } from './targets';

/** What own fields hold. All of them are kept as texts: numbers with a point, dates after ISO 8601, yes or no as such. */
export const OWN_FIELD_KINDS = ['text', 'number', 'date', 'choice', 'several', 'yesNo'] as const;
export type OwnFieldKind = (typeof OWN_FIELD_KINDS)[number];

export const OWN_FIELD_LABELS: Readonly<Record<OwnFieldKind, string>> = {
  text: 'Text',
  number: 'Number',
  date: 'Date',
  choice: 'One of its choices',
  several: 'Several of its choices',
  yesNo: 'Yes or no',
};

export interface OwnField {
  name: string;
  kind: OwnFieldKind;
  /** What choices are to be made from; without any, whatever is said. */
  choices: readonly string[];
}

/** A number as own fields hold it. */
export const NUMBER_VALUE = /^-?\d{1,15}(\.\d{1,9})?$/;
/** A year, a month or a day. */
export const DATE_VALUE = /^\d{4}(-(0[1-9]|1[0-2])(-(0[1-9]|[12]\d|3[01]))?)?$/;

const EXPECTED: Readonly<Record<OwnFieldKind, (text: string, field: OwnField) => string | undefined>> = {
  text: () => undefined,
  number: (text) => (NUMBER_VALUE.test(text) ? undefined : 'is no number; write 12 or 12.5'),
  date: (text) => (isDate(text) ? undefined : 'is no date; write 1952, 1952-06 or 1952-06-14'),
  choice: chosen,
  several: chosen,
  yesNo: (text) => (text === 'yes' || text === 'no' ? undefined : 'is neither yes nor no'),
};

/** Why a field can't say this; undefined when it can. */
export function ownFieldProblem(field: OwnField, value: FieldValue | null | undefined): string | undefined {
  const texts = value === null || value === undefined ? [] : textsOf(value).filter((text) => text !== '');
  if (texts.length > 1 && field.kind !== 'several' && field.kind !== 'text') return `${field.name} takes one value`;
  for (const text of texts) {
    const problem = EXPECTED[field.kind](text, field);
    if (problem) return `${field.name}: “${text}” ${problem}`;
  }
  return undefined;
}

/** Why the own fields of a photo can't become so: looked at are those that change and are known. */
export function ownFieldsProblem(
  fields: ReadonlyMap<string, OwnField>,
  before: FieldValue | null | undefined,
  after: FieldValue | null | undefined,
): string | undefined {
  const [was, is] = [valuesByName(before), valuesByName(after)];
  for (const [name, value] of is) {
    const field = fields.get(name);
    if (!field || sameValue(was.get(name), value)) continue;
    const problem = ownFieldProblem(field, value);
    if (problem) return problem;
  }
  return undefined;
}

/** What the own fields of a photo say, by their names. */
export function valuesByName(custom: FieldValue | null | undefined): Map<string, FieldValue> {
  const values = new Map<string, FieldValue>();
  for (const { Name: name, Value: value } of ownMembers(custom))
    if (typeof name === 'string' && value !== undefined) values.set(name, value);
  return values;
}

function chosen(text: string, { choices }: OwnField): string | undefined {
  return choices.length === 0 || choices.includes(text) ? undefined : 'is none of its choices';
}

function isDate(text: string): boolean {
  if (!DATE_VALUE.test(text)) return false;
  if (text.length < 10) return true;
  const date = new Date(`${text}T00:00:00Z`);
  return !Number.isNaN(date.getTime()) && date.toISOString().startsWith(text);
}
