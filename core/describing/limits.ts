// Checking values as they are typed: what a field can't take, and what IIM will cut.

import { iimCuts } from '../metadata/blocks/iim';
import { dateTimeParts } from '../metadata/dateTime';
import type { Field, FieldValue } from '../metadata/fields';
import { textsOf } from '../metadata/values';

export interface Remark {
  /** Errors keep a value from being taken; notes only tell. */
  kind: 'error' | 'note';
  text: string;
}

const CODES: Readonly<Record<string, [pattern: RegExp, expected: string]>> = {
  countryCode: [/^[A-Z]{2,3}$/, 'two or three capital letters, as ISO 3166 has them'],
  subjectCode: [/^\d{8}$/, 'eight digits'],
  scene: [/^\d{6}$/, 'six digits'],
  urgency: [/^[1-8]$/, 'a number from 1 to 8'],
};

/** What is to be said of a value for a field; nothing when all is well. */
export function remarksOn(field: Field, value: FieldValue | null): Remark[] {
  if (value === null) return [];
  const texts = textsOf(value);
  const [pattern, expected] = CODES[field.id] ?? [];
  const errors = texts.flatMap((text): Remark[] => {
    if (text === '') return [];
    if (field.type === 'date' && !dateTimeParts(text))
      return [error(`“${text}” is no date; write 1952, 1952-06, 1952-06-14 or 2024-06-01T10:11:12+02:00`)];
    if (field.type === 'uri' && !/^[a-z][a-z0-9+.-]*:\S+$/i.test(text))
      return [error(`“${text}” is no address; it begins with https: or another scheme`)];
    if (pattern && !pattern.test(text)) return [error(`“${text}” is not ${expected}`)];
    return [];
  });
  const cuts = iimCuts(field, value).map(({ text, maxBytes }): Remark => {
    const bytes = new TextEncoder().encode(text).length;
    return { kind: 'note', text: `IIM cuts this at ${maxBytes} bytes (it has ${bytes}); XMP keeps it whole` };
  });
  return [...errors, ...cuts];
}

function error(text: string): Remark {
  return { kind: 'error', text };
}
