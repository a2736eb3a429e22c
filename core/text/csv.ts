// Tables as CSV (RFC 4180) that spreadsheets may open without harm.

import { stringify } from 'csv-stringify/sync';
import { safeInSpreadsheets } from './spreadsheets';

/** Rows as lines of CSV. */
export function csvLines(rows: readonly (readonly (string | number | null)[])[]): string {
  return stringify(
    rows.map((row) => row.map((value) => (typeof value === 'string' ? safeInSpreadsheets(value) : value))),
    { record_delimiter: 'windows' },
  );
}
