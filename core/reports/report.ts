// A report as a file or as a letter.

import { csvLines } from '../text/csv';
import type { Report, ReportColumn } from './tables';

const text = (label: string): ReportColumn => ({ label, isNumber: false });
const number = (label: string): ReportColumn => ({ label, isNumber: true });

/** Columns by their labels; those that begin with `#` hold numbers. */
export function columnsOf(...labels: readonly string[]): ReportColumn[] {
  return labels.map((label) => (label.startsWith('#') ? number(label.slice(1)) : text(label)));
}

/** A report as CSV: its title, then each section with its heading line, an empty line between. */
export function reportCsv({ title, about, madeAt, sections }: Report): string {
  return csvLines([
    [title, about, madeAt],
    ...sections.flatMap(({ title: name, columns, rows }) => [
      [],
      [name],
      columns.map(({ label }) => label),
      ...rows.map((cells) => cells.map((cell) => cell.text)),
    ]),
  ]);
}

/** A report as lines of plain text, for a letter. */
export function reportText({ about, madeAt, sections }: Report): string {
  const lines = sections.flatMap(({ title, columns, rows, empty }) => [
    '',
    title,
    ...(rows.length === 0
      ? [`  ${empty}`]
      : rows.map(
          (cells) =>
            `  ${cells
              .map((cell, i) => (i === 0 || cell.text === '' ? cell.text : `${columns[i]?.label ?? ''}: ${cell.text}`))
              .filter(Boolean)
              .join(', ')}`,
        )),
  ]);
  return [`${about}, as of ${madeAt}`, ...lines].join('\n');
}

/** The month before a day (`YYYY-MM-DD`): its first and last day. */
export function monthBefore(day: string): { from: string; until: string } {
  const [year = 0, month = 1] = day.split('-').map(Number);
  const first = new Date(Date.UTC(year, month - 2, 1));
  const last = new Date(Date.UTC(year, month - 1, 0));
  return { from: first.toISOString().slice(0, 10), until: last.toISOString().slice(0, 10) };
}
