// Setting capture times right: by a stretch, by a time zone, or to a date of which only so much is known.

import { dateTimeParts, type DateTimeParts } from '../metadata/dateTime';
import type { FieldValues } from '../metadata/fields';
import { textsOf } from '../metadata/values';
import { edtfInterval } from '../timeplace/edtf';

export type TimeChange =
  | { how: 'shift'; seconds: number }
  /** The clock stays as it reads; the zone is noted with it. Empty takes the zone off. */
  | { how: 'zone'; zone: string }
  /** The moment stays; the clock reads as in that zone. Only where a zone is known. */
  | { how: 'toZone'; zone: string }
  /** EDTF: what a plain date can't say goes into the field for uncertain dates. Empty takes both off. */
  | { how: 'date'; date: string };

const ZONE = /^[+-](?:0\d|1[0-4]):[0-5]\d$/;

/** Why a change of times can't be made; undefined when it can. */
export function timeProblem(change: TimeChange): string | undefined {
  if (change.how === 'shift')
    return Number.isInteger(change.seconds) ? undefined : 'a shift is a whole number of seconds';
  if (change.how === 'date')
    return change.date === '' || edtfInterval(change.date)
      ? undefined
      : `“${change.date}” is no date; write 1932, 1951-06, 1951-06-14, 1932~ (about), 193X (the thirties), 1951-22 (summer) or 1930/1939`;
  if (change.how === 'zone' && change.zone === '') return undefined;
  return ZONE.test(change.zone) ? undefined : `“${change.zone}” is no time zone; write it as +02:00`;
}

/** The fields with the time changed; as they are when what is known of it is too little for that. `clock` is what the camera’s clock said, for photos whose fields say nothing. */
export function withTime(fields: FieldValues, clock: string | null, change: TimeChange): FieldValues {
  if (change.how === 'date') return withDate(fields, change.date);
  const said = textsOf(fields.dateCreated)[0] ?? clock ?? '';
  const parts = dateTimeParts(said);
  const time = parts && CHANGES[change.how](parts, change as never);
  return time === undefined ? fields : { ...fields, dateCreated: time };
}

function withDate(fields: FieldValues, date: string): FieldValues {
  const { dateCreated: _was, dateUncertain: _uncertain, ...others } = fields;
  if (date === '') return others;
  if (dateTimeParts(date)) return { ...others, dateCreated: date };
  // Other programs are told the part that is certain: the year of “about 1932” or of a season, nothing of a decade.
  const plain = /^(\d{4})(-(?:0[1-9]|1[0-2])(-\d{2})?)?[?~%]$|^(\d{4})-2[1-4]$/.exec(date);
  const certain = plain ? (plain[4] ?? `${plain[1]}${plain[2] ?? ''}`) : undefined;
  return { ...others, dateUncertain: date, ...(certain ? { dateCreated: certain } : {}) };
}

const DAY = 86_400;

const CHANGES: {
  [How in 'shift' | 'zone' | 'toZone']: (
    parts: DateTimeParts,
    change: Extract<TimeChange, { how: How }>,
  ) => string | undefined;
} = {
  shift: (parts, { seconds }) => shifted(parts, seconds),
  zone: (parts, { zone }) => (parts.time === undefined ? undefined : textOf({ ...parts, zone: zone || undefined })),
  toZone: (parts, { zone }) => {
    if (parts.zone === undefined) return undefined;
    const moved = dateTimeParts(shifted(parts, secondsOf(zone) - secondsOf(parts.zone)) ?? '');
    return moved && textOf({ ...moved, zone });
  },
};

function shifted(parts: DateTimeParts, seconds: number): string | undefined {
  const { year, month, day, time } = parts;
  if (month === undefined || day === undefined) return undefined;
  if (time === undefined && seconds % DAY !== 0) return undefined;
  const moment = new Date(`${year}-${month}-${day}T${time ?? '00:00:00'}Z`).getTime() + seconds * 1000;
  const text = new Date(moment).toISOString();
  if (!/^\d{4}-/.test(text)) return undefined;
  const [date = '', clock = ''] = text.split('T');
  const [y, m, d] = date.split('-');
  return textOf({
    ...parts,
    year: y ?? year,
    month: m,
    day: d,
    ...(time === undefined ? {} : { time: clock.slice(0, 8) }),
  });
}

function textOf({ year, month, day, time, knowsSeconds, fraction, zone }: DateTimeParts): string {
  const date = [year, month, day].filter((part) => part !== undefined).join('-');
  if (time === undefined) return date;
  const clock = knowsSeconds === false && time.endsWith(':00') ? time.slice(0, 5) : time;
  return `${date}T${clock}${fraction ? `.${fraction}` : ''}${zone ?? ''}`;
}

function secondsOf(zone: string): number {
  if (zone === 'Z') return 0;
  const [hours = 0, minutes = 0] = zone.slice(1).split(':').map(Number);
  return (zone.startsWith('-') ? -1 : 1) * (hours * 3600 + minutes * 60);
}

/** A stretch of time in words: `1 d 2 h 3 min 4 s`. */
export function stretchText(seconds: number): string {
  const units: [string, number][] = [
    ['d', DAY],
    ['h', 3600],
    ['min', 60],
    ['s', 1],
  ];
  let left = Math.abs(seconds);
  const parts = units.flatMap(([unit, length]) => {
    const count = Math.floor(left / length);
    left -= count * length;
    return count > 0 ? [`${count} ${unit}`] : [];
  });
  return parts.join(' ') || '0 s';
}
