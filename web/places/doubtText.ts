// How doubts about places are said.

import type { PlaceDoubts } from '@stellin/contract/places';
import { distanceText } from './placeText';

export type DoubtKind = keyof PlaceDoubts;

export const DOUBT_LABELS: Readonly<Record<DoubtKind, string>> = {
  contradictions: 'Position against names',
  jumps: 'Impossible jumps',
  unknownNames: 'Names no place knows',
};

export const DOUBT_HELP: Readonly<Record<DoubtKind, string>> = {
  contradictions: 'They lie more than 50 km from what their names mean, or in another country.',
  jumps: 'One camera was in two places faster than anybody travels: a clock or a position is wrong.',
  unknownNames: 'Neither an own place nor a town is called so.',
};

type RowOf<Kind extends DoubtKind> = PlaceDoubts[Kind]['rows'][number];

/** What is doubtful: the first line, and the second. */
export const DOUBT_TEXTS: { readonly [Kind in DoubtKind]: (row: RowOf<Kind>) => [string, string] } = {
  contradictions: ({ says, lies, metres }) => [
    says,
    `lies ${metres === null ? '' : `${distanceText(metres)} away, `}in ${lies || 'the open sea'}`,
  ],
  jumps: ({ camera, metres, seconds }) => [camera, `${distanceText(metres)} in ${secondsText(seconds)}`],
  unknownNames: ({ says }) => [says, ''],
};

function secondsText(seconds: number): string {
  return seconds < 120 ? `${seconds} s` : `${Math.round(seconds / 60)} min`;
}
