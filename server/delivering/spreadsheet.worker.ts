// Worker thread: puts a spreadsheet together, which takes memory and time.

import writeExcelFile, { type Cell, type SheetData } from 'write-excel-file/node';

/** A table with its head. */
export interface Spreadsheet {
  head: readonly string[];
  rows: readonly (readonly (string | number | null)[])[];
}

/** The file of a spreadsheet. Cells carry their type: a text is never taken for a formula. */
export async function write({ head, rows }: Spreadsheet): Promise<Uint8Array> {
  const sheet: SheetData = [head.map((value) => ({ value, type: String, fontWeight: 'bold' as const }))];
  for (const row of rows) sheet.push(row.map(cellOf));
  return writeExcelFile(sheet).toBuffer();
}

function cellOf(value: string | number | null): Cell {
  if (value === null) return null;
  return typeof value === 'number' ? { value, type: Number } : { value, type: String };
}
