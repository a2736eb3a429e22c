// When a backup is due that is made by itself each night.

import { set, subDays } from 'date-fns';

/** How long after a backup that failed the next is tried: its disk may have been away. */
const RETRY_MS = 3_600_000;

export interface LastTry {
  at: Date;
  failed: boolean;
}

/**
 * Whether a nightly backup is due.
 * @param time  of day, as 02:30, by the clock of this machine.
 * @param since  from when on backups are made by themselves; what was due before is not made up for.
 * @param last  the last one that was tried; undefined where there was none.
 */
export function isNightlyDue(now: Date, time: string, since: Date, last: LastTry | undefined): boolean {
  if (last?.failed) return now.getTime() - last.at.getTime() >= RETRY_MS;
  const [hours = 0, minutes = 0] = time.split(':').map(Number);
  const today = set(now, { hours, minutes, seconds: 0, milliseconds: 0 });
  const latest = today > now ? subDays(today, 1) : today;
  return latest > since && (last === undefined || last.at < latest);
}

const WEEK_MS = 7 * 24 * 3_600_000;

/** Whether a backup is to be tried out: none was for a week. */
export function isTrialDue(now: Date, lastCheck: Date | undefined): boolean {
  return lastCheck === undefined || now.getTime() - lastCheck.getTime() >= WEEK_MS;
}

const OLD_MS = 2 * 24 * 3_600_000;

/** Whether the last backup is older than anybody should rely on: two days. */
export function isBackupOld(now: Date, last: Date): boolean {
  return now.getTime() - last.getTime() > OLD_MS;
}
