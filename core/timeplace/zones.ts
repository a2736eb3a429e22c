// The time zone of a place, and how far it is from UTC at a moment.

import lookUp from '@photostructure/tz-lookup';
import type { Point } from './areas';

/** The IANA time zone of a point, such as `Europe/Amsterdam`; at sea the one of its longitude. */
export function zoneAt({ latitude, longitude }: Point): string {
  return lookUp(latitude, longitude);
}

/** Minutes east of UTC in a zone at a moment (milliseconds since 1970). */
export function offsetMinutes(zone: string, moment: number): number {
  const parts = new Intl.DateTimeFormat('en', { timeZone: zone, timeZoneName: 'longOffset' }).formatToParts(moment);
  const said = parts.find(({ type }) => type === 'timeZoneName')?.value ?? '';
  const [, sign = '+', hours = '0', minutes = '0'] = /GMT([+-])(\d{2}):(\d{2})/.exec(said) ?? [];
  return (sign === '-' ? -1 : 1) * (Number(hours) * 60 + Number(minutes)) + 0;
}
