// Worker thread: reads the first sheet of a spreadsheet, which is put together in memory.

import { readSheet } from 'read-excel-file/node';

/** The rows of the first sheet of a file as texts; dates as ISO 8601. Throws an Error when it can’t be read. */
export async function read(file: string): Promise<string[][]> {
  const rows = await readSheet(file, { trim: false });
  return rows.map((row) => row.map(textOf));
}

function textOf(value: unknown): string {
  if (value instanceof Date) return Number.isNaN(value.getTime()) ? '' : dateText(value);
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  return typeof value === 'string' || typeof value === 'number' ? String(value) : '';
}

/** Spreadsheets know no zones: what stands there is read as UTC, and written without one. */
function dateText(date: Date): string {
  const text = date.toISOString();
  return text.endsWith('T00:00:00.000Z') ? text.slice(0, 10) : text.slice(0, 19);
}
