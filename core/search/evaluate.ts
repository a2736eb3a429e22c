// The meaning of a query, defined over plain objects without regard to speed. What searches a real catalogue must agree
// with it, and tests hold them together on made-up catalogues.

import type { FieldValues } from '../metadata/fields';
import { textsOf } from '../metadata/values';
import type { OwnCriterionId, Part, State } from './criteria';
import { dateInterval } from './dates';
import type { CriterionQuery, Operator, Query } from './query';
import { foldText, patternsOf, textMatches, wordMatches, wordsOf } from './words';

export interface SearchableTerm {
  /** Labels from the top term down to this one: at each level all labels, the preferred one first. */
  path: string[][];
  /** The same of broader terms that stand elsewhere in the tree. */
  also?: string[][][];
}

/** A photo as searches see it. */
export interface SearchablePhoto {
  name: string;
  /** File name, texts, keywords and names: what words are looked for in, each on its own. */
  texts: string[];
  caption: string;
  camera: string;
  kind: string;
  keywords: string[];
  fields: FieldValues;
  terms: SearchableTerm[];
  rating: number;
  /** Empty for none. */
  mark: string;
  /** `YYYY-MM-DDTHH:MM:SS` or undefined. */
  takenAt: string | undefined;
  drive: string;
  /** The folder's path on the drive, '' for the drive itself. */
  folder: string;
  accession: number | undefined;
  parts: ReadonlySet<Part>;
  states: ReadonlySet<State>;
}

/** Whether a photo meets a query. */
export function evaluate(query: Query, photo: SearchablePhoto): boolean {
  switch (query.kind) {
    case 'everything':
      return true;
    case 'all':
      return query.of.every((part) => evaluate(part, photo));
    case 'any':
      return query.of.some((part) => evaluate(part, photo));
    case 'not':
      return !evaluate(query.of, photo);
    case 'words':
      return patternsOf(query.text).every((pattern) => hasWord(photo, pattern));
    case 'phrase':
      return hasPhrase(photo, wordsOf(query.text));
    case 'criterion':
      return meaningOf(query, photo);
  }
}

function meaningOf(query: CriterionQuery, photo: SearchablePhoto): boolean {
  const { criterion } = query;
  if (isOwn(criterion)) return MEANINGS[criterion](photo, query);
  return textsOf(photo.fields[criterion]).some((text) => textMatches(text, query.value));
}

function isOwn(criterion: CriterionQuery['criterion']): criterion is OwnCriterionId {
  return criterion in MEANINGS;
}

const MEANINGS: Record<OwnCriterionId, (photo: SearchablePhoto, query: CriterionQuery) => boolean> = {
  term: (photo, { value }) =>
    photo.terms.some(({ path, also = [] }) =>
      [path, ...also].some((way) => way.some((_, i) => isNamed(way.slice(0, i + 1), value))),
    ),
  only: (photo, { value }) => photo.terms.some(({ path }) => isNamed(path, value)),
  keyword: (photo, { value }) => photo.keywords.some((keyword) => textMatches(keyword, value)),
  name: (photo, { value }) => textMatches(photo.name, value),
  caption: (photo, { value }) => photo.caption !== '' && textMatches(photo.caption, value),
  camera: (photo, { value }) => photo.camera !== '' && textMatches(photo.camera, value),
  kind: (photo, { value }) => photo.kind === value.toLowerCase(),
  mark: (photo, { value }) => photo.mark !== '' && textMatches(photo.mark, value),
  rating: (photo, query) => compares(photo.rating, query),
  taken: (photo, query) => photo.takenAt !== undefined && takenIn(photo.takenAt, query),
  drive: (photo, { value }) => textMatches(photo.drive, value),
  within: (photo, { value }) => `${folderPath(photo)}/`.startsWith(`${value.replace(/\/+$/, '')}/`),
  folder: (photo, { value }) => folderPath(photo) === value.replace(/\/+$/, ''),
  accession: (photo, query) => photo.accession !== undefined && compares(photo.accession, query),
  has: (photo, { value }) => photo.parts.has(value.toLowerCase() as Part),
  missing: (photo, { value }) => !photo.parts.has(value.toLowerCase() as Part),
  is: (photo, { value }) => photo.states.has(value.toLowerCase() as State),
};

/** A term is named by one of its labels, or by a path whose steps are labels one below the other, ending at it: `Kites/Delta`. */
function isNamed(path: string[][], name: string): boolean {
  const sameLabel = (labels: string[] | undefined, step: string) =>
    labels?.some((label) => foldText(label) === foldText(step)) ?? false;
  if (sameLabel(path.at(-1), name)) return true;
  const steps = name.split('/');
  return steps.length <= path.length && steps.every((step, i) => sameLabel(path[path.length - steps.length + i], step));
}

/** Words stand in the photo's own texts or in any label of a term it has, or of a broader one. */
function hasWord(photo: SearchablePhoto, pattern: string): boolean {
  return searchedTexts(photo).some((text) => wordsOf(text).some((word) => wordMatches(word, pattern)));
}

function hasPhrase(photo: SearchablePhoto, phrase: string[]): boolean {
  if (phrase.length === 0) return true;
  return searchedTexts(photo).some((text) => {
    const words = wordsOf(text);
    return words.some((_, start) => phrase.every((word, i) => words[start + i] === word));
  });
}

function searchedTexts(photo: SearchablePhoto): string[] {
  return [...photo.texts, ...photo.terms.flatMap(({ path, also = [] }) => [path, ...also].flat(2))];
}

function folderPath(photo: SearchablePhoto): string {
  return photo.folder === '' ? photo.drive : `${photo.drive}/${photo.folder}`;
}

const COMPARISONS: Record<Exclude<Operator, '..'>, (a: number, b: number) => boolean> = {
  '=': (a, b) => a === b,
  '>': (a, b) => a > b,
  '>=': (a, b) => a >= b,
  '<': (a, b) => a < b,
  '<=': (a, b) => a <= b,
};

function compares(number: number, { operator, value, to }: CriterionQuery): boolean {
  if (operator === '..') return number >= Number(value) && number <= Number(to);
  return COMPARISONS[operator](number, Number(value));
}

/** Times compare as text, since all are written alike. A comparison is with the whole interval: after 2018 is from 2019 on. */
function takenIn(time: string, { operator, value, to }: CriterionQuery): boolean {
  const bounds = dateBounds({ operator, value, to });
  return (
    bounds !== undefined &&
    (bounds.from === undefined || time >= bounds.from) &&
    (bounds.to === undefined || time < bounds.to)
  );
}

/** The half-open interval of time that a date criterion asks for; undefined when its value is no date. */
export function dateBounds({
  operator,
  value,
  to,
}: Pick<CriterionQuery, 'operator' | 'value' | 'to'>): { from?: string; to?: string } | undefined {
  const first = dateInterval(value);
  const last = operator === '..' ? dateInterval(to ?? '') : first;
  if (!first || !last) return undefined;
  const bounds: Record<Operator, { from?: string; to?: string }> = {
    '=': first,
    '..': { from: first.from, to: last.to },
    '>': { from: first.to },
    '>=': { from: first.from },
    '<': { to: first.from },
    '<=': { to: first.to },
  };
  return bounds[operator];
}
