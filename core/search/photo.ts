// A photo as searches see it: what naive evaluation, the finder index and explanations look at.

import {
  MONTHS,
  WEEKDAYS,
  type ChoiceId,
  type DateId,
  type NumberId,
  type State,
  type TextId,
} from '../query/criteria';
import type { Point } from '../timeplace/areas';

/** A moment or a stretch of local time, `YYYY-MM-DDTHH:MM:SS`, of which only so much is known. */
export interface TimeSpan {
  from: string;
  /** The first moment after it; undefined for a moment that is known to the second. */
  until?: string;
}

export interface SearchablePhoto {
  id: number;
  /** File name, texts, keywords and names: what words are looked for in, each on its own. */
  texts: readonly string[];
  /** Texts and choices by criterion; a criterion that is absent says nothing. */
  said: Partial<Record<TextId | ChoiceId, readonly string[]>>;
  numbers: Partial<Record<NumberId, number>>;
  dates: Partial<Record<DateId, TimeSpan>>;
  terms: readonly SearchableTerm[];
  /** For each dossier that it is in the names from the top one down. */
  dossiers: readonly (readonly string[])[];
  position?: Point;
  drive: string;
  /** The folder's path on the drive, '' for the drive itself. */
  folder: string;
  states: ReadonlySet<State>;
}

export interface SearchableTerm {
  /** Labels from the top term down to this one: at each level all labels, the preferred one first. */
  path: readonly (readonly string[])[];
  /** The same of broader terms that stand elsewhere in the tree. */
  also?: readonly (readonly (readonly string[])[])[];
}

/** Drive and path of a folder as one text. */
export function folderText(drive: string, folder: string): string {
  return folder === '' ? drive : `${drive}/${folder}`;
}

const HOUR = 3600;
const DAY = 24 * HOUR;

/** The one day that a time lies in, in days since 1970; undefined when it is not known so exactly. In seconds, up to before `until`. */
export function dayOf(from: number, until: number): number | undefined {
  const day = Math.floor(from / DAY);
  return until <= (day + 1) * DAY ? day : undefined;
}

/** Whether a time is known to lie in one day. */
export function isOfOneDay({ from, until }: TimeSpan): boolean {
  return dayOf(secondsOf(from), until === undefined ? secondsOf(from) + 1 : secondsOf(until)) !== undefined;
}

/** What of the calendar is certain of a time: the weekday when the day is, the month when the month is, the hour when the hour is. */
export function calendarOf({ from, until }: TimeSpan): { weekday?: string; month?: string; hour?: number } {
  const [start, end] = [secondsOf(from), until === undefined ? secondsOf(from) + 1 : secondsOf(until)];
  const date = new Date(start * 1000);
  const nextMonth = Date.UTC(date.getUTCFullYear(), date.getUTCMonth() + 1, 1) / 1000;
  const weekday = end - start <= 24 * HOUR ? WEEKDAYS[(date.getUTCDay() + 6) % 7] : undefined;
  const month = end <= nextMonth ? MONTHS[date.getUTCMonth()] : undefined;
  const hour = end - start <= HOUR ? date.getUTCHours() : undefined;
  return {
    ...(weekday === undefined ? {} : { weekday }),
    ...(month === undefined ? {} : { month }),
    ...(hour === undefined ? {} : { hour }),
  };
}

/** Seconds since 1970 of a local time, as if it were UTC. */
export function secondsOf(time: string): number {
  return Date.parse(`${time}Z`) / 1000;
}

/** The shape of a picture by its width and height as seen. */
export function shapeOf(width: number, height: number): 'landscape' | 'portrait' | 'square' {
  return width > height ? 'landscape' : width < height ? 'portrait' : 'square';
}
