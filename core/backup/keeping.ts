// Which backups stay: of each of the last days, weeks and months that have any, the newest. Grandfather, father, son.

import { format } from 'date-fns';

/** Of how many days, weeks and months a backup stays. */
export interface KeepRule {
  days: number;
  weeks: number;
  months: number;
}

/** What tells one stretch of time from the next, by the calendar of this machine; weeks begin on Monday (ISO 8601). */
const PERIODS: Record<keyof KeepRule, (at: Date) => string> = {
  days: (at) => format(at, 'yyyy-MM-dd'),
  weeks: (at) => format(at, "RRRR-'W'II"),
  months: (at) => format(at, 'yyyy-MM'),
};

/** The backups that stay, of those made at these times. The newest one always stays. */
export function backupsToKeep<Backup extends { at: Date }>(backups: readonly Backup[], rule: KeepRule): Set<Backup> {
  const newestFirst = [...backups].sort((a, b) => b.at.getTime() - a.at.getTime());
  const kept = new Set(newestFirst.slice(0, 1));
  for (const unit of ['days', 'weeks', 'months'] as const) {
    const seen = new Set<string>();
    for (const backup of newestFirst) {
      const period = PERIODS[unit](backup.at);
      if (seen.has(period)) continue;
      if (seen.size === rule[unit]) break;
      seen.add(period);
      kept.add(backup);
    }
  }
  return kept;
}
