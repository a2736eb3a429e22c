// Between the fields of the table and the properties of a packet.

import {
  FIELDS,
  fieldOf,
  type Field,
  type FieldId,
  type FieldValue,
  type FieldValues,
  type Member,
  type ValueType,
} from '../../fields';
import { xmpName } from '../../namespaces';
import { DEFAULT_LANGUAGE, normalFieldValue, positionOf, sameValue, textsOf } from '../../values';
import { isSameName, propertyOf, setProperty, type XmpPacket } from './packet';
import {
  languageOf,
  textValue,
  withLanguage,
  type XmpProperty,
  type XmpStruct,
  type XmpText,
  type XmpValue,
} from './tree';

const GPS = {
  latitude: xmpName('exif:GPSLatitude'),
  longitude: xmpName('exif:GPSLongitude'),
  altitude: xmpName('exif:GPSAltitude'),
  altitudeRef: xmpName('exif:GPSAltitudeRef'),
  direction: xmpName('exif:GPSImgDirection'),
  directionRef: xmpName('exif:GPSImgDirectionRef'),
};

/** The values of all fields of the table that the packet holds. */
export function xmpFields(packet: XmpPacket): FieldValues {
  const values: FieldValues = {};
  for (const property of packet.properties) {
    const field = FIELDS_BY_NAME.get(property.name)?.find(({ xmp }) => xmp.namespace === property.namespace);
    if (!field || field.id in values) continue;
    const value = field.type === 'position' ? readPosition(packet) : decode(property.value, field);
    if (value !== undefined) values[field.id] = value;
  }
  return values;
}

const FIELDS_BY_NAME = new Map<string, Field[]>();
for (const field of FIELDS) FIELDS_BY_NAME.set(field.xmp.name, [...(FIELDS_BY_NAME.get(field.xmp.name) ?? []), field]);

/**
 * Sets one field, or removes it with undefined. A text given to a language alternative becomes its default language and
 * leaves the others. Qualifiers of items that stay, and members that no standard names, stay. A value that is there
 * already leaves the packet untouched. Returns whether anything changed.
 */
export function setXmpField(packet: XmpPacket, id: FieldId, value: FieldValue | undefined): boolean {
  const field = fieldOf(id);
  const wanted = normalFieldValue(field, value);
  if (field.type === 'position') return setPosition(packet, wanted);
  const old = propertyOf(packet, field.xmp);
  const said = old && decode(old, field);
  if (wanted === undefined ? !old : sameValue(said, wanted) || keepsDefault(field, said, wanted)) return false;
  setProperty(packet, field.xmp, wanted === undefined ? undefined : encode(wanted, field, old));
  return true;
}

/** Whether a text is what a language alternative says already in its default language. */
function keepsDefault(field: Member, said: FieldValue | undefined, wanted: FieldValue): boolean {
  return field.type === 'langAlt' && typeof wanted === 'string' && textsOf(said)[0] === wanted;
}

function decode(value: XmpValue, member: Member): FieldValue | undefined {
  if (!member.list)
    return decodeOne(value.kind === 'array' && member.type !== 'langAlt' ? value.items[0] : value, member);
  const items = value.kind === 'array' ? value.items : [value];
  const decoded: FieldValue[] = [];
  for (const item of items) {
    const one = decodeOne(item, member);
    if (one !== undefined) decoded.push(one);
  }
  return decoded.length > 0 ? decoded : undefined;
}

function decodeOne(value: XmpValue | undefined, member: Member): FieldValue | undefined {
  if (!value) return undefined;
  if (member.type === 'langAlt') return decodeLanguages(value);
  if (member.type === 'struct') return value.kind === 'struct' ? decodeStruct(value, member) : undefined;
  if (value.kind !== 'text') return undefined;
  const text = value.text.trim();
  return text === '' ? undefined : FROM_TEXT[member.type](text);
}

const FROM_TEXT: Readonly<Record<Exclude<ValueType, 'langAlt' | 'struct'>, (text: string) => FieldValue | undefined>> =
  {
    text: (text) => text,
    uri: (text) => text,
    date: (text) => text,
    number: (text) => {
      const [, over, under] = /^(-?\d+)\/(\d+)$/.exec(text) ?? [];
      const number = over === undefined ? Number(text) : Number(over) / Number(under);
      return Number.isFinite(number) ? number : undefined;
    },
    position: () => undefined,
    boolean: (text) => (/^(true|1)$/i.test(text) ? true : /^(false|0)$/i.test(text) ? false : undefined),
  };

function decodeLanguages(value: XmpValue): FieldValue | undefined {
  const items = value.kind === 'array' ? value.items : [value];
  const languages: Record<string, string> = {};
  let first: string | undefined;
  for (const item of items) {
    const text = item.kind === 'text' ? item.text.trim() : '';
    if (text === '') continue;
    first ??= text;
    languages[languageOf(item) ?? DEFAULT_LANGUAGE] ??= text;
  }
  if (first === undefined) return undefined;
  // Without a default the first stands for it (ISO 16684-1, 8.2.2.4).
  const withDefault = { [DEFAULT_LANGUAGE]: first, ...languages };
  return Object.keys(withDefault).length === 1 ? withDefault[DEFAULT_LANGUAGE] : withDefault;
}

function decodeStruct(struct: XmpStruct, member: Member): FieldValue | undefined {
  const values: Record<string, FieldValue> = {};
  for (const inner of member.members?.() ?? []) {
    const property = memberOf(struct, inner);
    const value = property && decode(property, inner);
    if (value !== undefined) values[inner.id] = value;
  }
  return Object.keys(values).length > 0 ? values : undefined;
}

function encode(value: FieldValue, member: Member, old: XmpValue | undefined): XmpValue {
  if (!member.list) return encodeOne(value, member, old);
  const items = Array.isArray(value) ? value : [value];
  const kept = old?.kind === 'array' ? [...old.items] : old ? [old] : [];
  // An item that stays keeps what is said of it; one that changed takes over what we don't understand of one that went.
  const same = items.map((item) => take(kept, (candidate) => sameValue(decodeOne(candidate, member), item)));
  return {
    kind: 'array',
    form: member.list === 'bag' ? 'Bag' : 'Seq',
    items: items.map(
      (item, i) => same[i] ?? encodeOne(item, member, member.type === 'struct' ? kept.shift() : undefined),
    ),
    qualifiers: old?.kind === 'array' ? old.qualifiers : [],
  };
}

function encodeOne(value: FieldValue, member: Member, old: XmpValue | undefined): XmpValue {
  if (member.type === 'langAlt') return encodeLanguages(value, old);
  if (member.type === 'struct') return encodeStruct(value, member, old);
  const text = typeof value === 'boolean' ? (value ? 'True' : 'False') : textsOf(value).join('; ');
  return textValue(text, old?.kind === 'text' ? old.qualifiers : []);
}

function encodeLanguages(value: FieldValue, old: XmpValue | undefined): XmpValue {
  const before = old?.kind === 'array' ? old.items.filter((item) => item.kind === 'text') : [];
  const item = (language: string, text: string): XmpText => {
    const was = before.find((candidate) => languageOf(candidate) === language);
    return withLanguage(textValue(text, was?.qualifiers ?? []), language);
  };
  const items =
    typeof value === 'object' && !Array.isArray(value)
      ? Object.entries(value).map(([language, text]) => item(language, String(text)))
      : [
          item(DEFAULT_LANGUAGE, textsOf(value)[0] ?? ''),
          ...before.filter((other) => ![undefined, DEFAULT_LANGUAGE].includes(languageOf(other))),
        ];
  items.sort((a, b) => Number(languageOf(b) === DEFAULT_LANGUAGE) - Number(languageOf(a) === DEFAULT_LANGUAGE));
  return { kind: 'array', form: 'Alt', items, qualifiers: old?.kind === 'array' ? old.qualifiers : [] };
}

function encodeStruct(value: FieldValue, member: Member, old: XmpValue | undefined): XmpValue {
  const struct = old?.kind === 'struct' ? old : undefined;
  const known = member.members?.() ?? [];
  const given = typeof value === 'object' && !Array.isArray(value) ? value : {};
  const unknown = (struct?.members ?? []).filter((property) => !known.some(({ xmp }) => isSameName(xmp, property)));
  const members: XmpProperty[] = known.flatMap((inner) => {
    const wanted = given[inner.id];
    if (wanted === undefined) return [];
    // A structure is given whole, so a text is all its languages.
    const whole = inner.type === 'langAlt' && typeof wanted === 'string' ? { [DEFAULT_LANGUAGE]: wanted } : wanted;
    return [{ ...inner.xmp, value: encode(whole, inner, struct && memberOf(struct, inner)) }];
  });
  return { kind: 'struct', members: [...members, ...unknown], qualifiers: struct?.qualifiers ?? [] };
}

function memberOf(struct: XmpStruct, { xmp }: Member): XmpValue | undefined {
  return struct.members.find((property) => isSameName(property, xmp))?.value;
}

function take<Item>(items: Item[], wanted: (item: Item) => boolean): Item | undefined {
  const at = items.findIndex(wanted);
  return at < 0 ? undefined : items.splice(at, 1)[0];
}

function readPosition(packet: XmpPacket): FieldValue | undefined {
  const text = (name: keyof typeof GPS) => {
    const value = propertyOf(packet, GPS[name]);
    return value?.kind === 'text' ? value.text.trim() : '';
  };
  const [latitude, longitude] = [degreesOf(text('latitude')), degreesOf(text('longitude'))];
  if (latitude === undefined || longitude === undefined) return undefined;
  const height = FROM_TEXT.number(text('altitude') || 'none');
  const below = text('altitudeRef') === '1' ? -1 : 1;
  const looks = FROM_TEXT.number((text('directionRef').toUpperCase() !== 'M' && text('direction')) || 'none');
  return positionOf({
    ...{ latitude, longitude },
    ...(typeof height === 'number' ? { altitude: height * below } : {}),
    ...(typeof looks === 'number' ? { direction: looks } : {}),
  });
}

/** A GPSCoordinate of XMP (ISO 16684-2, 6.2): `DDD,MM,SSk` or `DDD,MM.mmk`. */
function degreesOf(text: string): number | undefined {
  const [, degrees, minutes, seconds, side] =
    /^(\d{1,3}),(\d{1,2}(?:\.\d+)?)(?:,(\d{1,2}(?:\.\d+)?))?([NSEW])$/.exec(text) ?? [];
  if (degrees === undefined) return undefined;
  const value = Number(degrees) + Number(minutes) / 60 + Number(seconds ?? 0) / 3600;
  return side === 'S' || side === 'W' ? -value : value;
}

function coordinate(degrees: number, sides: readonly [string, string]): XmpText {
  const size = Math.abs(degrees);
  const whole = Math.floor(size + 1e-9);
  const minutes = Math.max(0, (size - whole) * 60);
  return textValue(`${whole},${minutes.toFixed(8).replace(/0+$/, '0')}${sides[degrees < 0 ? 1 : 0]}`);
}

function setPosition(packet: XmpPacket, value: FieldValue | undefined): boolean {
  const wanted = positionOf(value);
  if (sameValue(readPosition(packet), wanted)) return false;
  const { altitude, direction } = wanted ?? {};
  // What a compass says is another direction, and stays with the position.
  const hadDirection = positionOf(readPosition(packet))?.direction !== undefined;
  if (!wanted || direction !== undefined || hadDirection) {
    const said = direction === undefined ? undefined : textValue(`${Math.round(direction * 100)}/100`);
    setProperty(packet, GPS.direction, said);
    setProperty(packet, GPS.directionRef, said && textValue('T'));
  }
  setProperty(packet, GPS.latitude, wanted && coordinate(wanted.latitude, ['N', 'S']));
  setProperty(packet, GPS.longitude, wanted && coordinate(wanted.longitude, ['E', 'W']));
  setProperty(
    packet,
    GPS.altitude,
    altitude === undefined ? undefined : textValue(`${Math.round(Math.abs(altitude) * 100)}/100`),
  );
  setProperty(packet, GPS.altitudeRef, altitude === undefined ? undefined : textValue(altitude < 0 ? '1' : '0'));
  return true;
}
