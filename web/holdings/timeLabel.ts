// How stretches of time are written below columns and in tables.

import type { RulerUnit } from '@stellin/core/search/ruler';

const WRITTEN: Readonly<Record<RulerUnit, (from: string) => string>> = {
  decade: (from) => `${from.slice(0, 3)}0s`,
  year: (from) => from.slice(0, 4),
  month: (from) => from.slice(0, 7),
  day: (from) => from.slice(0, 10),
  hour: (from) => from.slice(5, 16).replace('T', ' '),
};

/** A stretch of time as it stands below a column, by when it begins (`YYYY-MM-DDTHH:MM:SS`). */
export function timeLabel(unit: RulerUnit, from: string): string {
  return WRITTEN[unit](from);
}
