// What is made of each column of a table that comes in: it tells which photo a row is about, or what is to be said of that photo.

import { COLUMN_IDS, columnFacts, type ColumnId } from '../delivering/columns';
import type { EditMode } from '../describing/editing';
import { isTarget, shapeOf, type Target } from '../describing/targets';
import { findField } from '../metadata/fieldText';
import { foldText } from '../text/words';
import { recogniseDateOrder, type DateOrder } from './dates';

/** How a value finds a photo, besides by a field that says the same. */
export const KEYS = {
  id: 'number of the photo',
  path: 'path',
  name: 'file name',
  sha256: 'SHA-256',
} as const satisfies Record<string, string>;
export type Key = keyof typeof KEYS;
export const KEY_IDS = Object.keys(KEYS) as [Key, ...Key[]];

/** What a column is for. */
export type ColumnUse =
  | { to: 'nothing' }
  | { to: 'key'; key: Key }
  /** It finds photos whose field says this. */
  | { to: 'keyField'; target: Target }
  | { to: 'field'; target: Target; mode: EditMode; language: string; dates: DateOrder }
  | { to: 'terms'; mode: EditMode }
  | { to: 'rating' }
  | { to: 'mark' };
export type Purpose = ColumnUse['to'];

export const NOTHING: ColumnUse = { to: 'nothing' };

/** Whether a column helps to find the photo. */
export function findsPhoto(use: ColumnUse): use is Extract<ColumnUse, { to: 'key' | 'keyField' }> {
  return use.to === 'key' || use.to === 'keyField';
}

/** Whether a column says something of the photo. */
export function saysSomething(use: ColumnUse): boolean {
  return use.to !== 'nothing' && !findsPhoto(use);
}

/** Whether a table can fill a field: structures have no place in a cell. */
export function isFillable(target: Target): boolean {
  return shapeOf(target).type !== 'struct';
}

/** Headers by which tables from elsewhere name their files, folded. */
const KEYS_BY_HEADER: Readonly<Record<string, Key>> = {
  id: 'id',
  'photo id': 'id',
  path: 'path',
  filepath: 'path',
  'file path': 'path',
  sourcefile: 'path',
  file: 'name',
  filename: 'name',
  'file name': 'name',
  image: 'name',
  picture: 'name',
  photo: 'name',
  sha256: 'sha256',
  checksum: 'sha256',
};
/** What tables call fields that we call otherwise, folded. */
const FIELDS_BY_HEADER: Readonly<Record<string, Target>> = {
  caption: 'description',
  author: 'creator',
  photographer: 'creator',
  copyright: 'copyrightNotice',
  person: 'personInImage',
  persons: 'personInImage',
  people: 'personInImage',
  place: 'sublocation',
  date: 'dateCreated',
  'date taken': 'dateCreated',
};
const TERMS_BY_HEADER: ReadonlySet<string> = new Set(['keywords', 'keyword', 'tags', 'subjects', 'terms']);

/** Columns that go out and find photos when they come back. */
const KEYS_BY_COLUMN: Partial<Record<ColumnId, Key>> = { id: 'id', file: 'path', name: 'name', sha256: 'sha256' };
/** Columns that say the same of terms, the surest first: only one of them is taken. */
const TERM_COLUMNS: readonly ColumnId[] = ['termUris', 'termPaths', 'terms', 'keywords'];
/** The order in which one key is chosen where a table has several. */
const SUREST_KEY: readonly Key[] = ['id', 'path', 'sha256', 'name'];

const COLUMN_BY_LABEL = new Map(COLUMN_IDS.map((id) => [foldText(columnFacts(id).label), id]));
const FIELD = 'field:';

/**
 * What the columns of a table are probably for. `samples`: some values of each; `remembered`: what columns of these headers (folded)
 * were for before, which goes before everything else.
 */
export function proposedUses(
  headers: readonly string[],
  samples: readonly (readonly string[])[],
  remembered: ReadonlyMap<string, ColumnUse>,
): ColumnUse[] {
  const known = headers.map((header) => COLUMN_BY_LABEL.get(foldText(header)));
  const terms = TERM_COLUMNS.find((id) => known.includes(id));
  const uses = headers.map((header, i): ColumnUse => {
    const used = remembered.get(foldText(header));
    if (used) return used;
    const column = known[i];
    if (column && TERM_COLUMNS.includes(column)) return column === terms ? { to: 'terms', mode: 'add' } : NOTHING;
    return useOf(header, column, samples[i] ?? []);
  });
  const isKept = new Set(headers.flatMap((header, i) => (remembered.has(foldText(header)) ? [i] : [])));
  return oneKey(uses, isKept);
}

/** What a column is for by its header alone. */
function useOf(header: string, column: ColumnId | undefined, samples: readonly string[]): ColumnUse {
  if (column === 'rating' || column === 'mark') return { to: column };
  const folded = foldText(header);
  const key = (column && KEYS_BY_COLUMN[column]) ?? KEYS_BY_HEADER[folded];
  if (key) return { to: 'key', key };
  if (TERMS_BY_HEADER.has(folded)) return { to: 'terms', mode: 'add' };
  const field = column?.startsWith(FIELD)
    ? column.slice(FIELD.length)
    : (findField(header)?.id ?? FIELDS_BY_HEADER[folded]);
  if (field === undefined || !isTarget(field) || !isFillable(field)) return NOTHING;
  return fieldUse(field, samples);
}

/** A column that fills a field, whose dates are read as most of its values are. */
export function fieldUse(target: Target, samples: readonly string[]): Extract<ColumnUse, { to: 'field' }> {
  const dates = shapeOf(target).type === 'date' ? recogniseDateOrder(samples) : 'yearFirst';
  return { to: 'field', target, mode: 'replace', language: '', dates };
}

/** Of several keys that are only guessed the surest: a photo that was renamed is still found by its number. */
function oneKey(uses: readonly ColumnUse[], isKept: ReadonlySet<number>): ColumnUse[] {
  const surest = uses.some((use, i) => isKept.has(i) && findsPhoto(use))
    ? undefined
    : SUREST_KEY.find((key) => uses.some((use) => use.to === 'key' && use.key === key));
  return uses.map((use, i) => (isKept.has(i) || use.to !== 'key' || use.key === surest ? use : NOTHING));
}
