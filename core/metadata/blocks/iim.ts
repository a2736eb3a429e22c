// The IIM block (IPTC IIM 4.2): datasets read and written one by one, text in the character set that 1:90 declares.

import { concatBytes, utf8Bytes, utf8Text, viewOf, windows1252Text } from '../bytes';
import { FIELDS, fieldOf, textsOf, type FieldId, type FieldValue, type FieldValues } from '../fields';

export interface Dataset {
  record: number;
  dataset: number;
  data: Uint8Array;
}

export interface IimCut {
  field: FieldId;
  /** The text as it stands whole in XMP. */
  text: string;
  maxBytes: number;
}

const TAG_MARKER = 0x1c;
const UTF8_ESCAPE = Uint8Array.of(0x1b, 0x25, 0x47);

/** All datasets in order. Stops at the first byte that is no dataset; what stood before is returned. */
export function parseIim(bytes: Uint8Array): Dataset[] {
  const view = viewOf(bytes);
  const datasets: Dataset[] = [];
  let at = 0;
  while (at + 5 <= bytes.length && bytes[at] === TAG_MARKER) {
    const [record, dataset] = [view.getUint8(at + 1), view.getUint8(at + 2)];
    let length = view.getUint16(at + 3);
    at += 5;
    if (length & 0x8000) {
      // IIM 4.2, 1.5: extended dataset, the low 15 bits say how many bytes hold the length.
      const lengthBytes = length & 0x7fff;
      if (lengthBytes > 4 || at + lengthBytes > bytes.length) break;
      length = 0;
      for (let i = 0; i < lengthBytes; i++) length = length * 256 + view.getUint8(at + i);
      at += lengthBytes;
    }
    if (at + length > bytes.length) break;
    datasets.push({ record, dataset, data: bytes.subarray(at, at + length) });
    at += length;
  }
  return datasets;
}

/** The datasets as a block. */
export function serializeIim(datasets: readonly Dataset[]): Uint8Array {
  return concatBytes(datasets.map(serializeDataset));
}

/** The values of all fields of the table that the block holds. Date and time created are joined into one ISO 8601 date. */
export function iimFields(datasets: readonly Dataset[]): FieldValues {
  const decode = decoderOf(datasets);
  const values: FieldValues = {};
  for (const field of FIELDS) {
    if (!field.iim) continue;
    const texts = textsAt(datasets, field.iim.dataset, decode);
    if (texts.length === 0) continue;
    values[field.id] = field.type === 'bag' || field.type === 'seq' ? texts : (texts[0] ?? '');
  }
  const created = dateCreated(textsAt(datasets, 55, decode)[0], textsAt(datasets, 60, decode)[0]);
  if (created) values.dateCreated = created;
  return values;
}

/**
 * The datasets with some fields set (or removed with undefined), all text turned into UTF-8, 1:90 and 2:00 as IIM asks.
 * Texts over a dataset's limit are cut at a character boundary and named in `cuts`. Datasets not concerned stay in order.
 */
export function setIimFields(
  datasets: readonly Dataset[],
  changes: readonly (readonly [FieldId, FieldValue | undefined])[],
): { datasets: Dataset[]; cuts: IimCut[] } {
  const decode = decoderOf(datasets);
  const cuts: IimCut[] = [];
  let changed = datasets
    .filter(({ record, dataset }) => !(record === 1 && dataset === 90) && !(record === 2 && dataset === 0))
    .map((set) => (isText(set) ? { ...set, data: utf8Bytes(decode(set.data)) } : set));
  for (const [id, value] of changes) {
    const { iim } = fieldOf(id);
    if (!iim) continue;
    const replaced = textsOf(value).map((text): Dataset => {
      const data = cutBytes(utf8Bytes(text), iim.maxBytes);
      if (data.length < utf8Bytes(text).length) cuts.push({ field: id, text, maxBytes: iim.maxBytes });
      return { record: 2, dataset: iim.dataset, data };
    });
    changed = [...changed.filter((set) => !(set.record === 2 && set.dataset === iim.dataset)), ...replaced];
  }
  const before = changed.filter(({ record }) => record < 2);
  const after = changed.filter(({ record }) => record >= 2);
  return {
    datasets: [
      ...before,
      { record: 1, dataset: 90, data: UTF8_ESCAPE },
      { record: 2, dataset: 0, data: Uint8Array.of(0, 4) },
      ...after,
    ],
    cuts,
  };
}

/** At most `max` bytes of UTF-8, never ending inside a character. */
export function cutBytes(bytes: Uint8Array, max: number): Uint8Array {
  if (bytes.length <= max) return bytes;
  let end = max;
  while (end > 0 && ((bytes[end] ?? 0) & 0xc0) === 0x80) end--;
  return bytes.subarray(0, end);
}

function serializeDataset({ record, dataset, data }: Dataset): Uint8Array {
  if (data.length < 0x8000) {
    return concatBytes([Uint8Array.of(TAG_MARKER, record, dataset, data.length >> 8, data.length & 0xff), data]);
  }
  const head = new Uint8Array(9);
  head.set([TAG_MARKER, record, dataset, 0x80, 0x04]);
  viewOf(head).setUint32(5, data.length);
  return concatBytes([head, data]);
}

function isText({ record, dataset }: Dataset): boolean {
  // Record 2 is text but for its version (2:00) and the rasterised caption and preview (2:125, 2:200–202).
  return record === 2 && dataset !== 0 && dataset !== 125 && (dataset < 200 || dataset > 202);
}

/** How the block's text is to be read: what 1:90 declares, else UTF-8 if all of it is valid and some of it multi-byte, else Windows-1252. */
function decoderOf(datasets: readonly Dataset[]): (bytes: Uint8Array) => string {
  const declared = datasets.find(({ record, dataset }) => record === 1 && dataset === 90)?.data;
  const declaredUtf8 = declared !== undefined && UTF8_ESCAPE.every((byte, i) => declared[i] === byte);
  const texts = datasets.filter(isText).map(({ data }) => data);
  const validUtf8 = texts.every((data) => utf8Text(data) !== undefined);
  const multiByte = texts.some((data) => data.some((byte) => byte >= 0x80));
  if (declaredUtf8 || (validUtf8 && multiByte)) return (bytes) => utf8Text(bytes) ?? windows1252Text(bytes);
  return windows1252Text;
}

function textsAt(datasets: readonly Dataset[], dataset: number, decode: (bytes: Uint8Array) => string): string[] {
  return datasets
    .filter((set) => set.record === 2 && set.dataset === dataset)
    .map((set) => decode(set.data).replace(/\0+$/, '').trim())
    .filter((text) => text !== '');
}

function dateCreated(date: string | undefined, time: string | undefined): string | undefined {
  const day = /^(\d{4})(\d{2})(\d{2})$/.exec(date ?? '');
  if (!day || day[1] === '0000') return undefined;
  if (day[2] === '00') return day[1];
  if (day[3] === '00') return `${day[1]}-${day[2]}`;
  const clock = /^(\d{2})(\d{2})(\d{2})(?:([+-]\d{2})(\d{2}))?$/.exec(time ?? '');
  const zone = clock?.[4] ? `${clock[4]}:${clock[5]}` : '';
  return `${day[1]}-${day[2]}-${day[3]}${clock ? `T${clock[1]}:${clock[2]}:${clock[3]}${zone}` : ''}`;
}
