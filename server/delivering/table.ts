// A delivery as a table, made while it is read.

import { Readable } from 'node:stream';
import { headOf, rowsOf, type TableContext } from '@stellin/core/delivering/columns';
import type { TableFormat } from '@stellin/core/delivering/tableFormats';
import { csvLines } from '@stellin/core/text/csv';
import { safeInSpreadsheets } from '@stellin/core/text/spreadsheets';
import type { TableSettings } from '@stellin/contract/delivering';
import { numberText } from '@stellin/contract/wording';
import { StellinError } from '../errors';
import type { SpreadsheetWriter } from './spreadsheets';
import type { TablePage } from './store';

type Row = (string | number | null)[];
type Pages = AsyncIterable<TablePage>;

/** Spreadsheets are put together in memory: more cells than these go out in another format. */
const MAX_XLSX_CELLS = 400_000;

/** What a table is written with. */
export interface TableWriting extends TableContext {
  spreadsheets: Pick<SpreadsheetWriter, 'write'>;
}

const WRITERS: Record<TableFormat, (pages: Pages, settings: TableSettings, context: TableWriting) => Readable> = {
  // Programs tell from the first character (U+FEFF) that the text is UTF-8.
  csv: (pages, settings, context) =>
    Readable.from(lines(pages, settings, context, { first: '\uFEFF', write: csvLines }), { objectMode: false }),
  tsv: (pages, settings, context) =>
    Readable.from(lines(pages, settings, context, { first: '', write: tabbed }), { objectMode: false }),
  jsonl: (pages, settings, context) => Readable.from(objects(pages, settings, context), { objectMode: false }),
  xlsx: (pages, settings, context) => Readable.from(sheet(pages, settings, context), { objectMode: false }),
};

/** Refuses a table that its format can’t hold. */
export function requireWritable({ format, columns }: TableSettings, photos: number): void {
  if (format === 'xlsx' && photos * columns.length > MAX_XLSX_CELLS)
    throw new StellinError('badRequest', {
      problem: `a spreadsheet holds up to ${numberText(MAX_XLSX_CELLS)} cells. Take fewer columns or photos, or CSV.`,
    });
}

/** Writes a table of the photos. Ends with an error where it can’t be written. */
export function writeTable(pages: Pages, settings: TableSettings, context: TableWriting): Readable {
  return WRITERS[settings.format](pages, settings, context);
}

async function* lines(
  pages: Pages,
  { columns, rows }: TableSettings,
  context: TableContext,
  { first, write }: { first: string; write: (rows: Row[]) => string },
): AsyncGenerator<string> {
  yield first + write([headOf(columns, rows)]);
  for await (const page of pages) {
    const made = page.flatMap((photo) => rowsOf(photo, columns, rows, context));
    if (made.length > 0) yield write(made);
  }
}

/** Tabs and ends of lines within values become spaces: the format (IANA text/tab-separated-values) has no quotes. */
function tabbed(rows: Row[]): string {
  const cell = (value: string | number | null) =>
    typeof value === 'string' ? safeInSpreadsheets(value.replace(/[\t\r\n]+/g, ' ')) : (value ?? '');
  return rows.map((row) => `${row.map(cell).join('\t')}\r\n`).join('');
}

/** An object a line, by the labels of columns; for programs, so texts stand as they are. */
async function* objects(pages: Pages, { columns, rows }: TableSettings, context: TableContext): AsyncGenerator<string> {
  const head = headOf(columns, rows);
  for await (const page of pages) {
    const made = page.flatMap((photo) => rowsOf(photo, columns, rows, context));
    yield made
      .map((row) => `${JSON.stringify(Object.fromEntries(row.map((value, i) => [head[i], value])))}\n`)
      .join('');
  }
}

/** A spreadsheet is put together by a thread of its own. */
async function* sheet(
  pages: Pages,
  { columns, rows }: TableSettings,
  context: TableWriting,
): AsyncGenerator<Uint8Array> {
  const made: Row[] = [];
  for await (const page of pages) for (const photo of page) made.push(...rowsOf(photo, columns, rows, context));
  yield await context.spreadsheets.write({ head: headOf(columns, rows), rows: made });
}
