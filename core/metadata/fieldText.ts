// Fields as a person types them on a command line, and values as a person reads them.

import { dateTimeParts } from './dateTime';
import { FIELDS, type Field, type FieldValue, type Member } from './fields';
import { DEFAULT_LANGUAGE, positionOf } from './values';

/** The field of a name: its id, its label, or its name in XMP (`headline`, `Headline`, `photoshop:Headline`), in any case. */
export function findField(name: string): Field | undefined {
  const wanted = folded(name);
  return FIELDS.find(({ id, label, xmp }) =>
    [id, label, `${xmp.prefix}:${xmp.name}`].some((candidate) => folded(candidate) === wanted),
  );
}

/**
 * The value a text stands for: lists are split at `; `, structures and several languages are JSON, an empty text is null,
 * which removes the field. Throws an Error that says what was expected.
 */
export function parseFieldText(field: Field, text: string): FieldValue | null {
  const trimmed = text.trim();
  if (trimmed === '') return null;
  const isJson =
    /^[[{]/.test(trimmed) && (field.type === 'struct' || field.type === 'langAlt' || field.type === 'position');
  if (isJson) return checkedJson(field, parseJson(field, trimmed));
  if (field.list && field.type !== 'struct')
    return trimmed
      .split(/\s*;\s*/)
      .filter(Boolean)
      .map((item) => parseOne(field, item));
  return parseOne(field, trimmed);
}

/** A value as one line. */
export function fieldText(value: FieldValue): string {
  if (Array.isArray(value)) return value.map(fieldText).join('; ');
  if (typeof value !== 'object') return String(value);
  return Object.entries(value)
    .map(([name, item]) => (name === DEFAULT_LANGUAGE ? fieldText(item) : `${name}: ${fieldText(item)}`))
    .join(', ');
}

function folded(name: string): string {
  return name.toLowerCase().replace(/[\s’'_-]/g, '');
}

const PARSERS: Readonly<Record<Member['type'], (text: string) => FieldValue | undefined>> = {
  text: (text) => text,
  uri: (text) => text,
  langAlt: (text) => text,
  date: (text) => (dateTimeParts(text) ? text : undefined),
  number: (text) => (Number.isFinite(Number(text)) ? Number(text) : undefined),
  boolean: (text) => (/^(true|yes)$/i.test(text) ? true : /^(false|no)$/i.test(text) ? false : undefined),
  position: (text) => {
    const parts = text.split(',').map((part) => part.trim());
    const looks = parts.find((part) => part.endsWith('°'))?.slice(0, -1);
    const [latitude, longitude, altitude] = parts.filter((part) => !part.endsWith('°')).map(Number);
    if (latitude === undefined || longitude === undefined) return undefined;
    return positionOf({
      ...{ latitude, longitude },
      ...(altitude === undefined ? {} : { altitude }),
      ...(looks === undefined ? {} : { direction: Number(looks) }),
    });
  },
  struct: () => undefined,
};

const EXPECTED: Readonly<Record<Member['type'], string>> = {
  text: 'a text',
  uri: 'an address',
  langAlt: 'a text',
  date: 'a date such as 1952, 1952-06 or 2024-06-01T10:11:12+02:00',
  number: 'a number',
  boolean: 'yes or no',
  position: 'a latitude and a longitude such as 54.12,8.5',
  struct: 'JSON such as {"City": "Saltmarsh"}',
};

function parseOne(field: Field, text: string): FieldValue {
  const value = PARSERS[field.type](text);
  if (value === undefined) throw expected(field, text);
  return value;
}

function parseJson(field: Field, text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    throw expected(field, text);
  }
}

function expected({ label, type, list, members }: Member, text: string): Error {
  const names = members?.().map(({ id }) => id);
  const more = names ? `, with ${list ? 'a list of objects of ' : ''}${names.join(', ')}` : '';
  return new Error(`${label}: “${text}” is not ${EXPECTED[type]}${more}`);
}

/** Makes sure that JSON has the shape of a field. */
function checkedJson(member: Member, json: unknown): FieldValue {
  if (member.list) return (Array.isArray(json) ? json : [json]).map((item) => checkedOne(member, item));
  return checkedOne(member, json);
}

function checkedOne(member: Member, json: unknown): FieldValue {
  const wrong = () => expected(member, JSON.stringify(json));
  if (member.type === 'position') {
    const position = positionOf(json as FieldValue);
    if (!position) throw wrong();
    return position;
  }
  if (typeof json !== 'object' || json === null) {
    const type = member.type === 'number' ? 'number' : member.type === 'boolean' ? 'boolean' : 'string';
    if (member.type === 'struct' || typeof json !== type) throw wrong();
    return json as FieldValue;
  }
  if (Array.isArray(json)) throw wrong();
  const entries = Object.entries(json as Record<string, unknown>);
  if (member.type === 'langAlt' && entries.every(([, text]) => typeof text === 'string'))
    return Object.fromEntries(entries) as FieldValue;
  if (member.type !== 'struct') throw wrong();
  return Object.fromEntries(
    entries.map(([name, item]) => {
      const inner = member.members?.().find(({ id }) => id === name);
      if (!inner) throw wrong();
      return [name, checkedJson(inner, item)];
    }),
  );
}
