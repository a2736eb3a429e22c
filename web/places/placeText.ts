// Points and distances as people read them.

import type { Point } from '@stellin/core/timeplace/areas';

/** `54.1234° N, 8.5000° E`. */
export function pointText({ latitude, longitude }: Point): string {
  const degrees = (value: number, [positive, negative]: readonly [string, string]) =>
    `${Math.abs(value).toFixed(4)}° ${value < 0 ? negative : positive}`;
  return `${degrees(latitude, ['N', 'S'])}, ${degrees(longitude, ['E', 'W'])}`;
}

/** `320 m`, `4.1 km`, `38 km`. */
export function distanceText(metres: number): string {
  if (metres < 1000) return `${Math.round(metres / 10) * 10} m`;
  return metres < 10_000 ? `${(metres / 1000).toFixed(1)} km` : `${Math.round(metres / 1000)} km`;
}

/** A point as it is typed: `54.12, 8.5`, also with the letters of `pointText`. Undefined when it is none. */
export function parsePoint(text: string): Point | undefined {
  const found = /^\s*(-?\d{1,2}(?:\.\d+)?)\s*°?\s*([NS])?\s*[,;\s]\s*(-?\d{1,3}(?:\.\d+)?)\s*°?\s*([EW])?\s*$/i.exec(
    text,
  );
  if (!found) return undefined;
  const [, north = '', southSign, east = '', westSign] = found;
  const latitude = Number(north) * (/s/i.test(southSign ?? '') ? -1 : 1);
  const longitude = Number(east) * (/w/i.test(westSign ?? '') ? -1 : 1);
  return Math.abs(latitude) <= 90 && Math.abs(longitude) <= 180 ? { latitude, longitude } : undefined;
}

/** A time zone by its minutes east of UTC: `UTC+2:00`. */
export function zoneText(minutes: number): string {
  const part = Math.abs(minutes) % 60;
  return `UTC${minutes < 0 ? '−' : '+'}${Math.floor(Math.abs(minutes) / 60)}:${String(part).padStart(2, '0')}`;
}

/** Seconds as a clock is behind: `1:00`, `−0:02:30`. */
export function aheadText(seconds: number): string {
  const [hours, rest] = [Math.floor(Math.abs(seconds) / 3600), Math.abs(seconds) % 3600];
  const [minutes, left] = [Math.floor(rest / 60), rest % 60].map((part) => String(part).padStart(2, '0'));
  return `${seconds < 0 ? '−' : ''}${hours}:${minutes}${left === '00' ? '' : `:${left}`}`;
}

/** The same read back; undefined when it is none. */
export function parseAhead(text: string): number | undefined {
  const found = /^([-−–])?(\d{1,5}):([0-5]?\d)(?::([0-5]?\d))?$/.exec(text.trim());
  if (!found) return undefined;
  const [, minus, hours = '0', minutes = '0', seconds = '0'] = found;
  const all = Number(hours) * 3600 + Number(minutes) * 60 + Number(seconds);
  return all === 0 ? 0 : minus ? -all : all;
}
