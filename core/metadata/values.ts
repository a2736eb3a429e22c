// Values of fields: telling whether two say the same, and their texts.

import { numericZone } from './dateTime';
import type { Field, FieldValue } from './fields';
import { allowedText } from './xml';

export const DEFAULT_LANGUAGE = 'x-default';

/** A value as a list of texts, as lists and searches want it: one for single values, the default language of several, none when missing or structured. */
export function textsOf(value: FieldValue | undefined): string[] {
  if (value === undefined) return [];
  if (Array.isArray(value)) return value.flatMap(textsOf);
  if (typeof value !== 'object') return [String(value)];
  const text = value[DEFAULT_LANGUAGE];
  return typeof text === 'string' ? [text] : [];
}

/** Whether two values say the same; the order of members does not matter, that of lists does. */
export function sameValue(a: FieldValue | undefined, b: FieldValue | undefined): boolean {
  if (a === b) return true;
  if (typeof a !== 'object' || typeof b !== 'object') return false;
  if (Array.isArray(a) || Array.isArray(b))
    return Array.isArray(a) && Array.isArray(b) && a.length === b.length && a.every((item, i) => sameValue(item, b[i]));
  const names = Object.keys(a);
  return names.length === Object.keys(b).length && names.every((name) => sameValue(a[name], b[name]));
}

/**
 * The value as it is read back once it was written: texts without space around them and without what XML cannot hold;
 * no empty texts, lists, members and languages; a map of the default language alone as its text. Undefined when nothing
 * is left.
 */
export function normalValue(value: FieldValue | null | undefined): FieldValue | undefined {
  if (value === null || value === undefined) return undefined;
  if (typeof value === 'string') return allowedText(value).trim() || undefined;
  if (typeof value !== 'object') return value;
  if (Array.isArray(value)) {
    const items = value.map(normalValue).filter((item) => item !== undefined);
    return items.length > 0 ? items : undefined;
  }
  const members = Object.entries(value).flatMap(([name, item]) => {
    const kept = normalValue(item);
    return kept === undefined ? [] : [[name, kept] as const];
  });
  if (members.length === 0) return undefined;
  const [first] = members;
  return members.length === 1 && first?.[0] === DEFAULT_LANGUAGE ? first[1] : Object.fromEntries(members);
}

/** The same for the value of a field, whose type may have a form of its own. */
export function normalFieldValue(
  field: Pick<Field, 'type'>,
  value: FieldValue | null | undefined,
): FieldValue | undefined {
  if (field.type === 'position') return positionOf(value);
  const normal = normalValue(value);
  return field.type === 'date' && typeof normal === 'string' ? numericZone(normal) : normal;
}

/** `direction`: where the camera looked, in degrees clockwise from true north. */
export type Position = { latitude: number; longitude: number; altitude?: number; direction?: number };

/** The position in a field's value, to a centimetre; undefined when it is none on this earth. */
export function positionOf(value: FieldValue | null | undefined): Position | undefined {
  if (typeof value !== 'object' || value === null || Array.isArray(value)) return undefined;
  const { latitude, longitude, altitude, direction } = value;
  if (typeof latitude !== 'number' || typeof longitude !== 'number') return undefined;
  if (!(Math.abs(latitude) <= 90) || !(Math.abs(longitude) <= 180)) return undefined;
  const position: Position = { latitude: rounded(latitude, 1e7), longitude: rounded(longitude, 1e7) };
  if (typeof altitude === 'number' && Math.abs(altitude) < 1e6) position.altitude = rounded(altitude, 100);
  if (typeof direction === 'number' && direction >= 0 && direction <= 360)
    position.direction = rounded(direction, 100) % 360;
  return position;
}

function rounded(number: number, per: number): number {
  // Adding zero makes a positive zero of a negative one.
  return Math.round(number * per) / per + 0;
}
