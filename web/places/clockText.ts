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
