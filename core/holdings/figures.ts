// Which figures of the holdings there are: each is a search within what is looked at, so that each leads to its photos.

import { allOf } from '../query/query';
import { parseQuery, queryText } from '../search/language';
import type { FacetId } from '../search/facets';

/** The facets that are charted, with how many of their values. */
export const CHARTED = [
  'kind',
  'camera',
  'lens',
  'creator',
  'event',
  'place',
  'drive',
  'rating',
  'changedBy',
] as const satisfies readonly FacetId[];
export const CHARTED_VALUES = 10;

/** A figure by its name and the search that counts it. */
export interface Figure {
  label: string;
  query: string;
}

/** How large files are, each class from where the one before ends. */
export const SIZE_FIGURES: readonly Figure[] = classes('size', 'MB', [1, 5, 20, 50, 100, 1000]);

/** Films, sounds and documents beside stills. */
export const MEDIA_FIGURES: readonly Figure[] = [
  { label: 'Stills', query: 'media:still' },
  { label: 'Films', query: 'media:film' },
  { label: 'Sounds', query: 'media:sound' },
  { label: 'Documents', query: 'media:document' },
];

export const FACE_FIGURES: readonly Figure[] = [
  { label: 'With faces', query: 'faces:>0' },
  { label: 'With a named face', query: 'has:confirmed' },
  { label: 'With a face nobody has named', query: 'unnamed:>0' },
];

/** Months of taking in that are shown. */
const MONTHS = 24;
/** Years of taking in that stand against decades of capture; what came before is one column. */
const YEARS = 8;

/** The last months up to a day (`YYYY-MM-DD`), the earliest first, by what was taken in. */
export function growthFigures(today: string): Figure[] {
  const [year = 0, month = 1] = today.split('-').map(Number);
  return Array.from({ length: MONTHS }, (_, i) => {
    const months = year * 12 + (month - 1) - (MONTHS - 1 - i);
    const label = `${Math.floor(months / 12)}-${String((months % 12) + 1).padStart(2, '0')}`;
    return { label, query: `added:${label}` };
  });
}

/** The years of taking in, the earliest first. */
export function yearFigures(today: string): Figure[] {
  const last = Number(today.slice(0, 4));
  const first = last - YEARS + 1;
  const years = Array.from({ length: YEARS }, (_, i) => String(first + i));
  return [
    { label: `before ${first}`, query: `added:<${first}` },
    ...years.map((year) => ({ label: year, query: `added:${year}` })),
  ];
}

/** The decades of capture between two times, the earliest first. */
export function decadeFigures(from: string, to: string): Figure[] {
  const [first, last] = [from, to].map((time) => Math.floor(Number(time.slice(0, 4)) / 10));
  if (first === undefined || last === undefined || !(last >= first)) return [];
  return Array.from({ length: last - first + 1 }, (_, i) => {
    const decade = String(first + i).padStart(3, '0');
    return { label: `${decade}0s`, query: `taken:${decade}X` };
  });
}

/** A search within another one. */
export function within(scope: string, query: string): string {
  return withinAll(scope)(query);
}

/** The same for many searches within one. */
export function withinAll(scope: string): (query: string) => string {
  const looked = parseQuery(scope).query;
  return (query) => queryText(allOf([looked, parseQuery(query).query]));
}

/** Classes of a number between some bounds. */
function classes(criterion: string, unit: string, bounds: readonly number[]): Figure[] {
  const text = (bound: number) => (bound >= 1000 && unit === 'MB' ? `${bound / 1000} GB` : `${bound} ${unit}`);
  return [0, ...bounds].map((bound, i): Figure => {
    const end = bounds[i];
    if (bound === 0) return { label: `under ${text(end ?? 0)}`, query: `${criterion}:<${end}${unit}` };
    const begins = `${criterion}:>=${bound}${unit}`;
    return end === undefined
      ? { label: `${text(bound)} and more`, query: begins }
      : { label: `${text(bound)} to ${text(end)}`, query: `${begins} ${criterion}:<${end}${unit}` };
  });
}
