// When persons lived, as far as it is known: nobody is in a photo of another time.

import { edtfInterval } from '../timeplace/edtf';
import { secondsOf } from '../search/photo';

/** Seconds since 1970 of the local time, as if it were UTC; infinite where it is not known. */
export interface Life {
  /** The earliest moment of birth. */
  born: number;
  /** The latest moment of death. */
  died: number;
}

/** A date that is only about so may be off by so much. */
const ABOUT_SECONDS = 5 * 366 * 86_400;

/** The life between two dates (EDTF, empty where not known); undefined when nothing is known of it. */
export function lifeOf(born: string, died: string): Life | undefined {
  const [birth, death] = [edtfInterval(born)?.from, edtfInterval(died)?.to];
  if (birth === undefined && death === undefined) return undefined;
  return {
    born: birth === undefined ? -Infinity : secondsOf(birth) - (isAbout(born) ? ABOUT_SECONDS : 0),
    died: death === undefined ? Infinity : secondsOf(death) + (isAbout(died) ? ABOUT_SECONDS : 0),
  };
}

function isAbout(date: string): boolean {
  return /[?~%]/.test(date);
}

/** Whether a stretch of time falls into a life. */
export function livedIn({ born, died }: Life, time: { from: number; until: number }): boolean {
  return time.until > born && time.from < died;
}
