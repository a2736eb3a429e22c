// What a description is put into: a field of the table, or a field that a project has made for itself (`custom:Loan number`).

import { FIELDS, fieldOf, type Field, type FieldId, type FieldValue, type FieldValues } from '../metadata/fields';
import { normalFieldValue, normalValue } from '../metadata/values';

/** A field's id, or `custom:` and the name of a field of the project. */
export type Target = FieldId | `custom:${string}`;

const CUSTOM = 'custom:';

/** Fields that are changed in ways of their own: keywords by terms, ratings and marks by keys, orientation by turning, stretches in the player, regions with the people in them. */
const NOT_BY_HAND: ReadonlySet<FieldId> = new Set<FieldId>([
  'keywords',
  'keywordHierarchy',
  'aboutCvTerm',
  'rating',
  'mark',
  'orientation',
  'stretches',
  'regions',
  'imageRegion',
  'custom',
]);

/** The fields that a person fills in, in the order of the table. */
export const DESCRIBED_FIELDS: readonly Field[] = FIELDS.filter(({ id }) => !NOT_BY_HAND.has(id));

const described = new Map<string, Field>(DESCRIBED_FIELDS.map((field) => [field.id, field]));

/** Whether a text names something that can be described. */
export function isTarget(text: string): text is Target {
  return described.has(text) || (text.startsWith(CUSTOM) && text.length > CUSTOM.length);
}

/** The name of a project's own field; undefined for fields of the table. */
export function customName(target: Target): string | undefined {
  return target.startsWith(CUSTOM) ? target.slice(CUSTOM.length) : undefined;
}

/** What kind of value a target takes. Own fields of a project are lists of texts. */
export function shapeOf(target: Target): Field {
  const name = customName(target);
  return name === undefined
    ? fieldOf(target as FieldId)
    : { ...fieldOf('custom'), label: name, type: 'text', list: 'seq' };
}

/** What a field or a project's own field is called, by its id or target; a name that is neither stands as it is. */
export function fieldLabel(name: string): string {
  return FIELDS.find(({ id }) => id === name)?.label ?? (isTarget(name) ? shapeOf(name).label : name);
}

/** The field of the table that holds a target. */
export function fieldIdOf(target: Target): FieldId {
  return customName(target) === undefined ? (target as FieldId) : 'custom';
}

/** What a photo's fields say of a target; undefined when it is missing. */
export function valueOf(fields: FieldValues, target: Target): FieldValue | undefined {
  const name = customName(target);
  if (name === undefined) return fields[target as FieldId];
  return ownMembers(fields.custom).find((own) => own['Name'] === name)?.['Value'];
}

/** The fields with a target set; undefined takes it out. What is given is brought into the form in which it is read back. */
export function withValue(fields: FieldValues, target: Target, value: FieldValue | undefined): FieldValues {
  const name = customName(target);
  if (name === undefined)
    return replaced(fields, target as FieldId, normalFieldValue(fieldOf(target as FieldId), value));
  const others = ownMembers(fields.custom).filter((own) => own['Name'] !== name);
  const list = value === undefined || Array.isArray(value) ? value : [value];
  const normal = normalValue(list);
  const own = normal === undefined ? others : [...others, { Name: name, Value: normal }];
  return replaced(fields, 'custom', own.length > 0 ? own : undefined);
}

function replaced(fields: FieldValues, id: FieldId, value: FieldValue | undefined): FieldValues {
  const others = { ...fields };
  if (value === undefined) delete others[id];
  else others[id] = value;
  return others;
}

/** The own fields of a photo as `custom` keeps them, each with `Name` and `Value`; what is none is left out. */
export function ownMembers(custom: FieldValue | null | undefined): { [member: string]: FieldValue }[] {
  if (!Array.isArray(custom)) return [];
  return custom.filter(
    (own): own is { [member: string]: FieldValue } => typeof own === 'object' && !Array.isArray(own),
  );
}
