// When drives are read by themselves.

/** The hours in which drives are read by themselves, as `22:00`; the end may lie on the next day. The same twice: at any time. */
export interface Hours {
  from: string;
  to: string;
}

const MINUTE_MS = 60_000;
const DAY_MINUTES = 24 * 60;

/** When the hours that are now end; undefined when it is not the time. By the clock of the machine. */
export function hoursEnd(now: Date, { from, to }: Hours): Date | undefined {
  const [begin, end] = [minutesOf(from), minutesOf(to)];
  const at = now.getHours() * 60 + now.getMinutes();
  const length = (end - begin + DAY_MINUTES) % DAY_MINUTES || DAY_MINUTES;
  const passed = (at - begin + DAY_MINUTES) % DAY_MINUTES;
  if (passed >= length) return undefined;
  const minute = Math.floor(now.getTime() / MINUTE_MS) * MINUTE_MS;
  return new Date(minute + (length - passed) * MINUTE_MS);
}

/** The milliseconds to wait after reading `bytes` in `tookMs`, for a rate of at most `megabytes` a second. */
export function restAfter(bytes: number, tookMs: number, megabytes: number): number {
  return Math.max(0, bytes / (megabytes * 1000) - tookMs);
}

function minutesOf(time: string): number {
  const [hours = 0, minutes = 0] = time.split(':').map(Number);
  return hours * 60 + minutes;
}
