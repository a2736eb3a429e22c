// What the cells of a row say: edits of fields, words that are to be terms, and values that can't be taken.

import type { EditMode, FieldEdit } from '../describing/editing';
import { remarksOn } from '../describing/limits';
import { ownFieldProblem, type OwnField } from '../describing/ownFields';
import { customName, shapeOf, type Target } from '../describing/targets';
import { parseFieldText } from '../metadata/fieldText';
import type { FieldValue } from '../metadata/fields';
import { fromSpreadsheet } from '../text/spreadsheets';
import { dateText, type DateOrder } from './dates';
import type { ColumnUse } from './uses';

/** What several values in one cell are separated by. */
export const LIST_MARKS = {
  semicolon: { label: 'semicolons', character: ';' },
  comma: { label: 'commas', character: ',' },
  bar: { label: 'bars', character: '|' },
  line: { label: 'ends of lines', character: '\n' },
} as const satisfies Record<string, { label: string; character: string }>;
export type ListMark = keyof typeof LIST_MARKS;
export const LIST_MARK_IDS = Object.keys(LIST_MARKS) as [ListMark, ...ListMark[]];

export interface Reading {
  listMark: ListMark;
  /** An empty cell takes out what a field says, where the column replaces; else it says nothing. */
  emptyClears: boolean;
  /** The project's own fields by name, whose values are checked. */
  own: ReadonlyMap<string, OwnField>;
}

export type CellValue = { ok: true; value: FieldValue | null } | { ok: false; problem: string };

type FieldUse = Extract<ColumnUse, { to: 'field' }>;

/** The value that a cell has for a field; null for an empty one. */
export function cellValue(cell: string, { target, dates }: FieldUse, reading: Reading): CellValue {
  const text = plainText(cell);
  if (text === '') return { ok: true, value: null };
  try {
    const value = parsed(target, text, dates, reading.listMark);
    const shape = shapeOf(target);
    const problem =
      remarksOn(shape, value).find(({ kind }) => kind === 'error')?.text ?? ownProblem(target, value, reading.own);
    return problem === undefined ? { ok: true, value } : { ok: false, problem };
  } catch (error) {
    // What was expected is said in a sentence.
    return { ok: false, problem: error instanceof Error ? error.message : String(error) };
  }
}

function parsed(target: Target, text: string, dates: DateOrder, listMark: ListMark): FieldValue | null {
  const shape = shapeOf(target);
  if (shape.list) return wordsOf(text, listMark).map((word) => one(target, word, dates));
  return one(target, text, dates);
}

function one(target: Target, text: string, dates: DateOrder): FieldValue {
  const shape = { ...shapeOf(target), list: undefined };
  const written = shape.type === 'date' ? (dateText(text, dates) ?? text) : text;
  return parseFieldText(shape, written) ?? '';
}

function ownProblem(target: Target, value: FieldValue | null, own: ReadonlyMap<string, OwnField>): string | undefined {
  const field = own.get(customName(target) ?? '');
  return field && ownFieldProblem(field, value);
}

/** Whether there are texts that a field can't say: of others every cell can be taken. */
export function isChecked(target: Target, own: ReadonlyMap<string, OwnField>): boolean {
  const name = customName(target);
  if (name !== undefined) return own.has(name);
  const shape = shapeOf(target);
  const takesTexts = shape.type === 'text' || shape.type === 'langAlt';
  return !takesTexts || remarksOn(shape, '…').some(({ kind }) => kind === 'error');
}

/** The values in a cell. */
export function wordsOf(cell: string, listMark: ListMark): string[] {
  return plainText(cell)
    .split(LIST_MARKS[listMark].character)
    .map((word) => word.trim())
    .filter((word) => word !== '');
}

function plainText(cell: string): string {
  return fromSpreadsheet(cell).trim();
}

export interface RowSays {
  edits: FieldEdit[];
  /** Words of columns of terms, each with what becomes of the terms that are there. */
  terms: { mode: EditMode; words: string[] }[];
  rating: number | undefined;
  mark: string | undefined;
  /** Values that are left out, each with why. */
  problems: string[];
}

const RATING = /^-1$|^[0-5]$/;

/** What a row says of its photo. */
export function rowSays(cells: readonly string[], uses: readonly ColumnUse[], reading: Reading): RowSays {
  const says: RowSays = { edits: [], terms: [], rating: undefined, mark: undefined, problems: [] };
  uses.forEach((use, i) => {
    const cell = cells[i] ?? '';
    if (use.to === 'field') {
      const read = cellValue(cell, use, reading);
      if (!read.ok) says.problems.push(read.problem);
      else if (read.value !== null || (reading.emptyClears && use.mode === 'replace')) {
        const language = use.language === '' ? {} : { language: use.language };
        says.edits.push({ target: use.target, mode: use.mode, value: read.value, ...language });
      }
    } else if (use.to === 'terms') {
      const words = wordsOf(cell, reading.listMark);
      if (words.length === 0 && !(reading.emptyClears && use.mode === 'replace')) return;
      // What one column puts there, another of the row that replaces as well does not take away.
      const same = use.mode === 'replace' ? says.terms.find(({ mode }) => mode === 'replace') : undefined;
      if (same) same.words.push(...words);
      else says.terms.push({ mode: use.mode, words });
    } else if (use.to === 'rating') {
      const text = plainText(cell);
      if (RATING.test(text)) says.rating = Number(text);
      else if (text !== '') says.problems.push(ratingProblem(text));
    } else if (use.to === 'mark') {
      const text = plainText(cell);
      if (text !== '' || reading.emptyClears) says.mark = text;
    }
  });
  return says;
}

function ratingProblem(text: string): string {
  return `“${text}” is no rating; write 0 to 5, or -1 for rejected`;
}

/** Why a cell can’t be taken for what its column is for; undefined where it can. */
export function cellProblem(cell: string, use: ColumnUse, reading: Reading): string | undefined {
  return rowSays([cell], [use], reading).problems[0];
}
