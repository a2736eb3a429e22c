// How a wrong clock is said.

import { format, parseISO } from 'date-fns';
import { stretchText } from '@stellin/core/describing/clock';
import type { CameraClockRow } from '@stellin/contract/tracks';

export function aheadText(aheadSeconds: number): string {
  return `${stretchText(aheadSeconds)} ${aheadSeconds > 0 ? 'ahead' : 'behind'}`;
}

export function daysText({ from, until }: Pick<CameraClockRow, 'from' | 'until'>): string {
  const day = (text: string) => format(parseISO(text), 'd LLL yyyy');
  return from === until ? day(from) : `${day(from)} – ${day(until)}`;
}

/** Seconds from what one clock said to what another one said at the same moment, both without their zones; undefined where one says none. */
export function secondsBetween(clock: string, right: string): number | undefined {
  const [from, to] = [clock, right].map((said) => Date.parse(`${said.slice(0, 19).padEnd(19, ':00')}Z`));
  const seconds = ((to ?? NaN) - (from ?? NaN)) / 1000;
  return Number.isNaN(seconds) ? undefined : Math.round(seconds);
}
