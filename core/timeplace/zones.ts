// The time zone of a place, and how far it is from UTC at a moment.

import lookUp from '@photostructure/tz-lookup';
import type { Point } from './areas';

/** The IANA time zone of a point, such as `Europe/Amsterdam`; at sea the one of its longitude. */
export function zoneAt({ latitude, longitude }: Point): string {
  return lookUp(latitude, longitude);
}

/** Formats that say an offset, by zone: making one takes longer than using it. */
const formats = new Map<string, Intl.DateTimeFormat>();

/** Minutes east of UTC in a zone at a moment (milliseconds since 1970). */
export function offsetMinutes(zone: string, moment: number): number {
  const format = formats.get(zone) ?? new Intl.DateTimeFormat('en', { timeZone: zone, timeZoneName: 'longOffset' });
  formats.set(zone, format);
  const said = format.formatToParts(moment).find(({ type }) => type === 'timeZoneName')?.value ?? '';
  const [, sign = '+', hours = '0', minutes = '0'] = /GMT([+-])(\d{2}):(\d{2})/.exec(said) ?? [];
  return (sign === '-' ? -1 : 1) * (Number(hours) * 60 + Number(minutes)) + 0;
}

/**
 * The offset that a clock of a zone has when it reads so (`YYYY-MM-DDTHH:MM:SS`), as `+02:00`. Of the hour that a clock reads
 * twice when summer time ends, one of both; of the hour it leaves out, the one before.
 */
export function offsetOfClock(zone: string, clock: string): string {
  const reads = Date.parse(`${clock}Z`);
  const first = offsetMinutes(zone, reads);
  const minutes = offsetMinutes(zone, reads - first * 60_000);
  const [hours, rest] = [Math.floor(Math.abs(minutes) / 60), Math.abs(minutes) % 60];
  return `${minutes < 0 ? '-' : '+'}${String(hours).padStart(2, '0')}:${String(rest).padStart(2, '0')}`;
}
