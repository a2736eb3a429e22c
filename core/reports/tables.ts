// A report as tables: what the page, the CSV and the PDF show alike.

export const REPORT_KINDS = ['period', 'project', 'accession', 'register', 'inventory'] as const;
export type ReportKind = (typeof REPORT_KINDS)[number];

export interface ReportColumn {
  label: string;
  isNumber: boolean;
}

export interface ReportCell {
  text: string;
  /** What finds the photos that a number counts. */
  query?: string | undefined;
}

export interface ReportSection {
  title: string;
  /** Said where there are no rows. */
  empty: string;
  columns: ReportColumn[];
  rows: ReportCell[][];
}

export interface Report {
  title: string;
  /** What it is about, in words. */
  about: string;
  /** When it was made, as `YYYY-MM-DD HH:MM`. */
  madeAt: string;
  sections: ReportSection[];
}
