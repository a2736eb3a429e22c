// The IIM block (IPTC IIM 4.2): datasets read and written one by one, text in the character set that 1:90 declares.

import { concatBytes, cutBytes, hexText, NO_BYTES, utf8Bytes, utf8Text, viewOf, windows1252Text } from '../bytes';
import { dateTimeParts, type DateTimeParts } from '../dateTime';
import { FIELDS, type Field, type FieldId, type FieldValue, type FieldValues, type IimForm } from '../fields';
import { textsOf } from '../values';

export interface Dataset {
  record: number;
  dataset: number;
  data: Uint8Array;
}

export interface IimBlock {
  datasets: Dataset[];
  /** What stands behind the last dataset that could be read; mostly nothing, or zeros. */
  rest: Uint8Array;
}

/** A text that is longer than IIM can hold: whole in XMP, cut there. */
export interface IimCut {
  field: FieldId;
  text: string;
  maxBytes: number;
}

type Decode = (bytes: Uint8Array) => string;
type IimField = Field & { iim: NonNullable<Field['iim']> };

const TAG_MARKER = 0x1c;
const UTF8_ESCAPE = Uint8Array.of(0x1b, 0x25, 0x47);
/** Datasets of record 1 and 2 that hold a number of two bytes (IIM 4.2, 1.6: 1:00, 1:20, 1:22, 2:00). */
const NUMBERS = new Set(['1:0', '1:20', '1:22', '2:0']);
const TIME_DATASET = 60;
const IIM_FIELDS = FIELDS.filter((field): field is IimField => field.iim !== undefined);

/** All datasets in order, up to the first byte that is none. */
export function parseIim(bytes: Uint8Array): IimBlock {
  const datasets: Dataset[] = [];
  let at = 0;
  while (at + 5 <= bytes.length && bytes[at] === TAG_MARKER) {
    const [record = 0, dataset = 0, high = 0, low = 0] = bytes.subarray(at + 1, at + 5);
    let length = high * 256 + low;
    let start = at + 5;
    if (length & 0x8000) {
      // IIM 4.2, 1.5: extended dataset, the low 15 bits say how many bytes hold the length.
      const lengthBytes = length & 0x7fff;
      if (lengthBytes > 4 || start + lengthBytes > bytes.length) break;
      length = 0;
      for (let i = 0; i < lengthBytes; i++) length = length * 256 + (bytes[start + i] ?? 0);
      start += lengthBytes;
    }
    if (start + length > bytes.length) break;
    datasets.push({ record, dataset, data: bytes.subarray(start, start + length) });
    at = start + length;
  }
  return { datasets, rest: bytes.subarray(at) };
}

/** The block as bytes. */
export function serializeIim({ datasets, rest }: IimBlock): Uint8Array {
  return concatBytes([
    ...datasets.flatMap(({ record, dataset, data }) => [datasetHead(record, dataset, data.length), data]),
    rest,
  ]);
}

/** The values of all fields of the table that the block holds. */
export function iimFields({ datasets }: IimBlock): FieldValues {
  const decode = decoderOf(datasets);
  const values: FieldValues = {};
  const texts = new Map<number, string[]>();
  for (const set of datasets) {
    if (set.record !== 2 || !isText(set)) continue;
    const text = trimmed(decode(set.data));
    if (text === '') continue;
    const known = texts.get(set.dataset);
    if (known) known.push(text);
    else texts.set(set.dataset, [text]);
  }
  for (const field of IIM_FIELDS) {
    const value = FORMS[field.iim.form].read(texts, field);
    if (value !== undefined) values[field.id] = value;
  }
  return values;
}

/**
 * The block with some fields set (or removed with undefined), all text turned into UTF-8, 1:90 and 2:00 as IIM asks.
 * Texts over a dataset's limit are cut at a character boundary and named in `cuts`. Datasets not concerned stay in order.
 * A block whose fields say it all already stays as it is.
 */
export function setIimFields(
  block: IimBlock,
  changes: readonly (readonly [FieldId, FieldValue | undefined])[],
): { block: IimBlock; cuts: IimCut[] } {
  const decode = decoderOf(block.datasets);
  const wanted = new Map(changes);
  const fields = IIM_FIELDS.filter(({ id }) => wanted.has(id));
  const cuts = fields.flatMap((field) => iimCuts(field, wanted.get(field.id)));
  const said = iimFields(block);
  const differing = fields.filter((field) => {
    const now = said[field.id];
    const echo = iimEcho(field, wanted.get(field.id));
    return textsOf(now).join('\0') !== textsOf(echo).join('\0');
  });
  if (differing.length === 0) return { block, cuts };

  const replaced = new Set<number>();
  const made: Dataset[] = [];
  for (const field of differing) {
    replaced.add(field.iim.dataset);
    if (field.iim.form === 'date') replaced.add(TIME_DATASET);
    made.push(...FORMS[field.iim.form].write(wanted.get(field.id), field));
  }
  const kept = block.datasets
    .filter(
      ({ record, dataset }) =>
        !(record === 1 && dataset === 90) && !(record === 2 && (dataset === 0 || replaced.has(dataset))),
    )
    .map((set) => (isText(set) ? { ...set, data: utf8Bytes(decode(set.data)) } : set));
  return {
    block: {
      datasets: [
        ...kept.filter(({ record }) => record < 2),
        { record: 1, dataset: 90, data: UTF8_ESCAPE },
        { record: 2, dataset: 0, data: Uint8Array.of(0, 4) },
        ...kept.filter(({ record }) => record === 2),
        ...made,
        ...kept.filter(({ record }) => record > 2),
      ],
      rest: block.rest.some((byte) => byte !== 0) ? block.rest : NO_BYTES,
    },
    cuts,
  };
}

/** What IIM says of a value once it is written there and read back: cut, and without what it has no place for. */
export function iimEcho(field: Field, value: FieldValue | undefined): FieldValue | undefined {
  if (!isIimField(field) || value === undefined) return undefined;
  const form = FORMS[field.iim.form];
  const texts = new Map<number, string[]>();
  for (const { dataset, data } of form.write(value, field)) {
    const text = (utf8Text(data) ?? '').trim();
    if (text !== '') texts.set(dataset, [...(texts.get(dataset) ?? []), text]);
  }
  return form.read(texts, field);
}

/** The texts of a value that IIM would cut. */
export function iimCuts(field: Field, value: FieldValue | undefined): IimCut[] {
  if (!isIimField(field) || field.iim.form !== 'text') return [];
  const { maxBytes } = field.iim;
  return (
    textsOf(value)
      // A letter takes three bytes at most, one of a surrogate pair two.
      .filter((text) => text.length * 3 > maxBytes && utf8Bytes(text).length > maxBytes)
      .map((text) => ({ field: field.id, text, maxBytes }))
  );
}

/** Everything in the block by `record:dataset`: texts, numbers where IIM has numbers, bytes as hexadecimal digits. */
export function iimListing({ datasets }: IimBlock): Record<string, (string | number)[]> {
  const decode = decoderOf(datasets);
  const listing: Record<string, (string | number)[]> = {};
  for (const set of datasets) {
    const key = `${set.record}:${String(set.dataset).padStart(2, '0')}`;
    (listing[key] ??= []).push(shownValue(set, decode));
  }
  return listing;
}

interface Form {
  read(texts: ReadonlyMap<number, string[]>, field: IimField): FieldValue | undefined;
  write(value: FieldValue | undefined, field: IimField): Dataset[];
}

const FORMS: Readonly<Record<IimForm, Form>> = {
  text: {
    read(texts, { iim, list, type }) {
      const found = texts.get(iim.dataset);
      if (!found) return undefined;
      if (list) return found;
      const number = Number(found[0]);
      return type === 'number' ? (Number.isFinite(number) ? number : undefined) : found[0];
    },
    write: (value, { iim }) =>
      textsOf(value).map((text) => dataset(iim.dataset, cutBytes(utf8Bytes(text), iim.maxBytes))),
  },
  // IIM 4.2, 2:12: provider, eight digits, and up to three names.
  subject: {
    read(texts, { iim }) {
      const codes = (texts.get(iim.dataset) ?? []).flatMap((text) => /\d{8}/.exec(text)?.[0] ?? []);
      return codes.length > 0 ? codes : undefined;
    },
    write: (value, { iim }) =>
      textsOf(value).flatMap((code) =>
        /^\d{8}$/.test(code) ? [dataset(iim.dataset, utf8Bytes(`IPTC:${code}:::`))] : [],
      ),
  },
  // IIM 4.2, 2:55 and 2:60: unknown parts of a date are zeros; the time has no fractions, and no zone where none is known.
  date: {
    read(texts, { iim }) {
      return dateOf(texts.get(iim.dataset)?.[0], texts.get(TIME_DATASET)?.[0]);
    },
    write(value, { iim }) {
      const parts = dateTimeParts(textsOf(value)[0] ?? '');
      if (!parts) return [];
      const { year, month = '00', day = '00', time, zone } = parts;
      const made = [dataset(iim.dataset, utf8Bytes(year + month + day))];
      if (time) made.push(dataset(TIME_DATASET, utf8Bytes(time.replaceAll(':', '') + offsetOf(zone))));
      return made;
    },
  },
};

/** Without the zeros that some writers pad texts with. */
function trimmed(text: string): string {
  return (text.endsWith('\0') ? text.replace(/\0+$/, '') : text).trim();
}

function offsetOf(zone: DateTimeParts['zone']): string {
  return zone === 'Z' ? '+0000' : (zone ?? '').replace(':', '');
}

function dateOf(date: string | undefined, time: string | undefined): string | undefined {
  const [, year, month, day] = /^(\d{4})(\d{2})(\d{2})$/.exec(date ?? '') ?? [];
  if (!year || year === '0000') return undefined;
  if (month === '00') return year;
  if (day === '00') return `${year}-${month}`;
  const [, hour, minute, second, offset] = /^(\d{2})(\d{2})(\d{2})([+-]\d{4})?$/.exec(time ?? '') ?? [];
  const zone = offset ? `${offset.slice(0, 3)}:${offset.slice(3)}` : '';
  const whole = `${year}-${month}-${day}${hour ? `T${hour}:${minute}:${second}${zone}` : ''}`;
  return dateTimeParts(whole) ? whole : undefined;
}

function dataset(number: number, data: Uint8Array): Dataset {
  return { record: 2, dataset: number, data };
}

function datasetHead(record: number, number: number, length: number): Uint8Array {
  if (length < 0x8000) return Uint8Array.of(TAG_MARKER, record, number, length >> 8, length & 0xff);
  const head = new Uint8Array(9);
  head.set([TAG_MARKER, record, number, 0x80, 0x04]);
  viewOf(head).setUint32(5, length);
  return head;
}

function isIimField(field: Field): field is IimField {
  return field.iim !== undefined;
}

function isText({ record, dataset: number }: Dataset): boolean {
  // Record 2 is text but for its version (2:00) and the rasterised caption and preview (2:125, 2:200–202).
  return record === 2 && number !== 0 && number !== 125 && (number < 200 || number > 202);
}

/**
 * How the block's text is to be read. Where 1:90 declares UTF-8 or nothing each value is UTF-8 if it can be, else Windows-1252:
 * programs add theirs to what others have written. Of any other character set that is declared, Windows-1252 is the nearest.
 */
function decoderOf(datasets: readonly Dataset[]): Decode {
  const declared = datasets.find(({ record, dataset: number }) => record === 1 && number === 90);
  const isOther = declared !== undefined && !UTF8_ESCAPE.every((byte, i) => declared.data[i] === byte);
  return isOther ? windows1252Text : (bytes) => utf8Text(bytes) ?? windows1252Text(bytes);
}

/** Several blocks as one: texts in UTF-8, what two of them say alike once, all else in order. */
export function joinedIim(blocks: readonly Uint8Array[]): Uint8Array {
  const seen = new Set<string>();
  const joined: Dataset[] = [];
  const rests: Uint8Array[] = [];
  for (const { datasets, rest } of blocks.map(parseIim)) {
    const decode = decoderOf(datasets);
    const own = new Set<string>();
    for (const set of datasets) {
      if (set.record === 1 && set.dataset === 90) continue;
      const read = isText(set) ? { ...set, data: utf8Bytes(decode(set.data)) } : set;
      const key = `${read.record}:${read.dataset}:${hexText(read.data)}`;
      if (seen.has(key)) continue;
      own.add(key);
      joined.push(read);
    }
    for (const key of own) seen.add(key);
    if (rest.some((byte) => byte !== 0)) rests.push(rest);
  }
  const before = joined.filter(({ record }) => record < 2);
  const after = joined.filter(({ record }) => record >= 2);
  const declaration = { record: 1, dataset: 90, data: UTF8_ESCAPE };
  return serializeIim({ datasets: [...before, declaration, ...after], rest: concatBytes(rests) });
}

function shownValue(set: Dataset, decode: Decode): string | number {
  if (NUMBERS.has(`${set.record}:${set.dataset}`) && set.data.length === 2) return viewOf(set.data).getUint16(0);
  const printable = set.data.every((byte) => byte >= 0x20 || byte === 0x0a || byte === 0x0d || byte === 0x09);
  return isText(set) || printable ? decode(set.data).replace(/\0+$/, '') : hexText(set.data);
}
