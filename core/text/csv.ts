// Tables as CSV (RFC 4180) that spreadsheets may open without harm.

import { stringify } from 'csv-stringify/sync';

/** Rows as lines of CSV. */
export function csvLines(rows: readonly (readonly (string | number | null)[])[]): string {
  return stringify(
    rows.map((row) => row.map((value) => (typeof value === 'string' ? safeInSpreadsheets(value) : value))),
    { record_delimiter: 'windows' },
  );
}

/** A text that a spreadsheet would take for a formula is led by an apostrophe. */
export function safeInSpreadsheets(text: string): string {
  return /^'*[=+\-@\t\r]/.test(text) ? `'${text}` : text;
}

/** The text that `safeInSpreadsheets` was given. */
export function fromSpreadsheet(text: string): string {
  return /^'+[=+\-@\t\r]/.test(text) ? text.slice(1) : text;
}
