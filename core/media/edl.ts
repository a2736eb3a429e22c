// An edit decision list of stretches (CMX 3600, as SMPTE 258M describes it): which parts of a film are taken, one behind the other.

import { timecodeAt } from './moments';
import type { Stretch } from './stretches';

export interface EdlOf {
  /** The file's name. */
  name: string;
  /** Pictures a second. */
  rate: number;
  /** The timecode of its first picture. */
  begins?: string | undefined;
  stretches: readonly Stretch[];
}

const REEL_LENGTH = 8;
const COMMENT_LENGTH = 200;

/** The list as text. Mere marks, which have no length, are left out. */
export function edlText({ name, rate, begins, stretches }: EdlOf): string {
  const isDropped = begins?.includes(';') === true;
  let recorded = 0;
  const events = stretches.filter(({ from, to }) => to > from);
  const lines = events.flatMap((stretch, i) => {
    const length = stretch.to - stretch.from;
    const times = [
      timecodeAt(stretch.from, rate, begins),
      timecodeAt(stretch.to, rate, begins),
      timecodeAt(recorded, rate, isDropped ? '00:00:00;00' : undefined),
      timecodeAt(recorded + length, rate, isDropped ? '00:00:00;00' : undefined),
    ];
    recorded += length;
    const comment = [stretch.name, stretch.note].filter((text) => text !== '').join(' - ');
    return [
      `${String(i + 1).padStart(3, '0')}  ${reelOf(name)} V     C        ${times.join(' ')}`,
      `* FROM CLIP NAME: ${oneLine(name)}`,
      ...(comment === '' ? [] : [`* COMMENT: ${oneLine(comment)}`]),
    ];
  });
  return `${[`TITLE: ${oneLine(name)}`, `FCM: ${isDropped ? 'DROP FRAME' : 'NON-DROP FRAME'}`, ...lines].join('\r\n')}\r\n`;
}

/** Eight letters and digits that stand for the file. */
function reelOf(name: string): string {
  const letters = name
    .replace(/\.[^.]*$/, '')
    .toUpperCase()
    .replace(/[^A-Z0-9]/g, '');
  return (letters || 'AX').slice(0, REEL_LENGTH).padEnd(REEL_LENGTH);
}

/** What a line has room for. */
function oneLine(text: string): string {
  return text.replace(/[\r\n\t]+/g, ' ').slice(0, COMMENT_LENGTH);
}
