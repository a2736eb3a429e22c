// The columns that a table of photos can have: what is known of the file, what was said of it in the catalogue, and every field.

import { fieldText } from '../metadata/fieldText';
import { FIELDS, type FieldId, type FieldValue, type FieldValues } from '../metadata/fields';
import { DEFAULT_LANGUAGE } from '../metadata/values';
import type { TermTree } from '../vocabulary/tree';

/** A photo as a row of a table takes it. */
export interface TablePhoto {
  id: number;
  name: string;
  folder: string;
  drive: string;
  kind: string;
  sizeBytes: number;
  width: number | null;
  height: number | null;
  takenAt: string | null;
  rating: number;
  mark: string;
  facts: Readonly<Record<string, string | number | boolean>>;
  fields: FieldValues;
  freeKeywords: readonly string[];
  termIds: readonly number[];
  sha256: string | null;
  fixity: string;
  writeState: string | null;
}

export type Cell = string | number | null | readonly string[];

interface ColumnFacts {
  label: string;
  group: 'File' | 'Picture' | 'Catalogue' | 'Terms' | 'Fields';
  value: (photo: TablePhoto, context: TableContext) => Cell;
  /** What has to be read for it besides what a photo always has. */
  needs?: Need;
}

/** Parts of a photo that are read only where a column needs them. */
export type Need = 'facts' | 'terms' | 'keywords' | 'fixity' | 'writeState';

export interface TableContext {
  tree: TermTree;
  /** A BCP 47 tag, or empty: texts and labels in this language where they are there in it. */
  language: string;
}

const fact =
  (name: string) =>
  ({ facts }: TablePhoto): Cell => {
    const value = facts[name];
    return value === undefined ? null : typeof value === 'boolean' ? (value ? 'yes' : 'no') : value;
  };
const terms = (of: (tree: TermTree, id: number, language: string) => string) => {
  // The same terms come again and again: each is looked up once for a table.
  const known = new WeakMap<TableContext, Map<number, string>>();
  return ({ termIds }: TablePhoto, context: TableContext): Cell => {
    const said = known.get(context) ?? new Map<number, string>();
    known.set(context, said);
    const cell: string[] = [];
    for (const id of termIds) {
      const text = said.get(id) ?? of(context.tree, id, context.language);
      said.set(id, text);
      if (text !== '') cell.push(text);
    }
    return cell;
  };
};

const OWN = {
  id: { label: 'Number', group: 'Catalogue', value: ({ id }) => id },
  file: {
    label: 'File with its path',
    group: 'File',
    value: ({ drive, folder, name }) => [drive, folder, name].filter(Boolean).join('/'),
  },
  name: { label: 'File name', group: 'File', value: ({ name }) => name },
  folder: { label: 'Folder', group: 'File', value: ({ folder }) => folder },
  drive: { label: 'Drive', group: 'File', value: ({ drive }) => drive },
  kind: { label: 'Kind', group: 'File', value: ({ kind }) => kind },
  bytes: { label: 'Bytes', group: 'File', value: ({ sizeBytes }) => sizeBytes },
  sha256: { label: 'SHA-256', group: 'File', value: ({ sha256 }) => sha256, needs: 'fixity' },
  fixity: { label: 'As it should be', group: 'File', value: ({ fixity }) => fixity, needs: 'fixity' },
  width: { label: 'Width', group: 'Picture', value: ({ width }) => width },
  height: { label: 'Height', group: 'Picture', value: ({ height }) => height },
  taken: { label: 'Taken', group: 'Picture', value: ({ takenAt }) => takenAt },
  make: { label: 'Make of the camera', group: 'Picture', value: fact('make'), needs: 'facts' },
  model: { label: 'Camera', group: 'Picture', value: fact('model'), needs: 'facts' },
  lens: { label: 'Lens', group: 'Picture', value: fact('lensModel'), needs: 'facts' },
  exposure: { label: 'Exposure time', group: 'Picture', value: fact('exposureTime'), needs: 'facts' },
  aperture: { label: 'Aperture', group: 'Picture', value: fact('fNumber'), needs: 'facts' },
  iso: { label: 'ISO', group: 'Picture', value: fact('iso'), needs: 'facts' },
  focal: { label: 'Focal length', group: 'Picture', value: fact('focalLength'), needs: 'facts' },
  rating: { label: 'Rating', group: 'Catalogue', value: ({ rating }) => rating },
  mark: { label: 'Mark', group: 'Catalogue', value: ({ mark }) => mark },
  state: { label: 'Write-back', group: 'Catalogue', value: ({ writeState }) => writeState ?? '', needs: 'writeState' },
  terms: {
    label: 'Terms',
    group: 'Terms',
    needs: 'terms',
    value: terms((tree, id, language) => {
      const term = tree.get(id);
      const other = term?.otherLabels.find((label) => label.kind === 'preferred' && label.language === language);
      return other?.label ?? term?.label ?? '';
    }),
  },
  termPaths: {
    label: 'Terms with their broader ones',
    group: 'Terms',
    needs: 'terms',
    value: terms((tree, id) =>
      tree
        .path(id)
        .map(({ label }) => label)
        .join(' > '),
    ),
  },
  termUris: {
    label: 'Addresses of terms',
    group: 'Terms',
    needs: 'terms',
    value: terms((tree, id) => tree.get(id)?.uri ?? ''),
  },
  keywords: { label: 'Other keywords', group: 'Terms', value: ({ freeKeywords }) => freeKeywords, needs: 'keywords' },
} as const satisfies Record<string, ColumnFacts>;

/** Fields that columns of their own say better. */
const SAID_ELSEWHERE: ReadonlySet<string> = new Set(['keywords', 'keywordHierarchy', 'aboutCvTerm', 'rating', 'mark']);

export type ColumnId = keyof typeof OWN | `field:${FieldId}`;

const FIELD = 'field:';
const fieldColumns = FIELDS.filter(({ id }) => !SAID_ELSEWHERE.has(id)).map(({ id, label }): [string, ColumnFacts] => [
  `field:${id}`,
  { label, group: 'Fields', value: ({ fields }, { language }) => cellOf(fields[id as FieldId], language) },
]);

const COLUMNS: Readonly<Record<string, ColumnFacts>> = { ...OWN, ...Object.fromEntries(fieldColumns) };
export const COLUMN_IDS = Object.keys(COLUMNS) as [ColumnId, ...ColumnId[]];

/** What is known of a column. */
export function columnFacts(id: ColumnId): ColumnFacts {
  const facts = COLUMNS[id];
  if (!facts) throw new RangeError(`there is no column ${id}`);
  return facts;
}

/** What a column says of a photo, as a line with its label; none where it says nothing. */
export function linesOf(id: ColumnId, photo: TablePhoto, context: TableContext): { label: string; text: string }[] {
  const { label, value } = columnFacts(id);
  const cell = value(photo, context);
  const text = cell === null ? '' : isList(cell) ? cell.join(', ') : String(cell);
  return text === '' ? [] : [{ label, text }];
}

function cellOf(value: FieldValue | undefined, language: string): Cell {
  if (value === undefined) return null;
  if (typeof value === 'number') return value;
  if (Array.isArray(value)) return value.map((each) => textOf(each, language));
  return textOf(value, language);
}

/** A text in several languages is the one in the language wanted. */
function textOf(value: FieldValue, language: string): string {
  if (typeof value !== 'object' || Array.isArray(value) || !(DEFAULT_LANGUAGE in value)) return fieldText(value);
  return fieldText(value[language] ?? value[DEFAULT_LANGUAGE] ?? '');
}

/** What has to be read of photos for some columns. */
export function needsOf(columns: readonly ColumnId[]): { parts: ReadonlySet<Need>; fields: FieldId[] } {
  const parts = new Set(columns.flatMap((id) => columnFacts(id).needs ?? []));
  const fields = columns.flatMap((id) => (id.startsWith(FIELD) ? [id.slice(FIELD.length) as FieldId] : []));
  return { parts, fields };
}

export const ROW_MODES = {
  photo: 'A row a photo',
  value: 'A row a value',
} as const satisfies Record<string, string>;
export type RowMode = keyof typeof ROW_MODES;
export const ROW_MODE_IDS = Object.keys(ROW_MODES) as [RowMode, ...RowMode[]];

/** What lists are joined by in one cell. */
const LIST_SEPARATOR = '; ';

/** The head of a table. */
export function headOf(columns: readonly ColumnId[], rows: RowMode): string[] {
  return rows === 'photo' ? columns.map((id) => columnFacts(id).label) : ['Number', 'File', 'What', 'Value'];
}

/** The rows of a photo: one, or one for each value that it has. */
export function rowsOf(
  photo: TablePhoto,
  columns: readonly ColumnId[],
  rows: RowMode,
  context: TableContext,
): (string | number | null)[][] {
  const cells = columns.map((id) => columnFacts(id).value(photo, context));
  if (rows === 'photo') return [cells.map((cell) => (isList(cell) ? cell.join(LIST_SEPARATOR) : cell))];
  const file = OWN.file.value(photo);
  return columns.flatMap((id, i) => {
    const cell = cells[i] ?? null;
    const values = isList(cell) ? cell : cell === null || cell === '' ? [] : [cell];
    return values.map((value) => [photo.id, file, columnFacts(id).label, value]);
  });
}

function isList(cell: Cell): cell is readonly string[] {
  return Array.isArray(cell);
}
