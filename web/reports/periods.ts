// Periods by their names, as reports offer them.

export const PERIODS = {
  month: 'This month',
  lastMonth: 'Last month',
  year: 'This year',
  lastYear: 'Last year',
  all: 'From the beginning',
} as const;
export type PeriodName = keyof typeof PERIODS;

/** The first and last day of a period, as of a day (`YYYY-MM-DD`); empty: no limit. */
export function periodOf(name: PeriodName, day: string): { from: string; until: string } {
  const [year = 0, month = 1] = day.split('-').map(Number);
  const dayOf = (y: number, m: number, d: number) => new Date(Date.UTC(y, m - 1, d)).toISOString().slice(0, 10);
  const periods: Readonly<Record<PeriodName, { from: string; until: string }>> = {
    month: { from: dayOf(year, month, 1), until: '' },
    lastMonth: { from: dayOf(year, month - 1, 1), until: dayOf(year, month, 0) },
    year: { from: dayOf(year, 1, 1), until: '' },
    lastYear: { from: dayOf(year - 1, 1, 1), until: dayOf(year - 1, 12, 31) },
    all: { from: '', until: '' },
  };
  return periods[name];
}
