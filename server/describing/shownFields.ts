// Fields and their values as a person reads them in the ledger.

import { customName, isTarget, shapeOf } from '@stellin/core/describing/targets';
import { FIELDS, type FieldValue } from '@stellin/core/metadata/fields';
import { fieldText } from '@stellin/core/metadata/fieldText';
import { NOTHING } from '../ledger/kinds';

/** The label of a field by its id or target; what is none stands as it is. */
export function fieldLabel(target: string): string {
  const known = FIELDS.find(({ id }) => id === target);
  if (known) return known.label;
  return isTarget(target) ? (customName(target) ?? shapeOf(target).label) : target;
}

/** A value of a field as one line; null is nothing. */
export function shownFieldValue(value: unknown): string {
  return value === null || value === undefined || value === '' ? NOTHING : fieldText(value as FieldValue);
}
