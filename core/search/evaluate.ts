// The meaning of a query, defined over plain objects without regard to speed. The finder index and the SQL that search a real
// catalogue must agree with it, and tests hold them together on made-up catalogues.

import { criterionOf, type CriterionId, type DateId, type NumberId, type State, type TextId } from '../query/criteria';
import { dateInterval, type DateInterval } from './dates';
import { folderText, isOfOneDay, type SearchablePhoto, type TimeSpan } from './photo';
import { ownMatcherOf } from './ownValues';
import { photosAsked } from '../lookalikes/asked';
import { areaOf, contains } from '../timeplace/areas';
import type { CriterionQuery, Operator, Query } from '../query/query';
import { numberOf } from '../query/units';
import { foldText, patternsOf, textMatches, wordMatches, wordsOf } from '../text/words';

/** Whether a photo meets a query. `today` is the day of asking, `YYYY-MM-DD`. Saved searches in it are to be opened first. */
export function evaluate(query: Query, photo: SearchablePhoto, today: string): boolean {
  switch (query.kind) {
    case 'everything':
      return true;
    case 'all':
      return query.of.every((part) => evaluate(part, photo, today));
    case 'any':
      return query.of.some((part) => evaluate(part, photo, today));
    case 'not':
      return !evaluate(query.of, photo, today);
    case 'words':
      return patternsOf(query.text).every((pattern) => hasWord(photo, pattern));
    case 'phrase':
      return hasPhrase(photo, wordsOf(query.text));
    case 'criterion':
      return meaningOf(query, photo, today);
  }
}

function meaningOf(query: CriterionQuery, photo: SearchablePhoto, today: string): boolean {
  const { criterion, value } = query;
  switch (criterionOf(criterion)?.type) {
    case 'term':
      return photo.terms.some(({ path, also = [] }) =>
        criterion === 'only'
          ? isNamed(path, value)
          : [path, ...also].some((way) => way.some((_, i) => isNamed(way.slice(0, i + 1), value))),
      );
    case 'dossier':
      return photo.dossiers.some((path) => path.some((_, i) => isDossierNamed(path.slice(0, i + 1), value)));
    case 'text':
    case 'choice': {
      const said = photo.said[criterion as TextId] ?? [];
      if (criterion === 'own') {
        const matches = ownMatcherOf(foldText(value));
        return said.some((text) => matches(foldText(text)));
      }
      return said.some((text) => textMatches(text, value));
    }
    case 'number':
      return compares(photo.numbers[criterion as NumberId], query);
    case 'date':
      return overlaps(photo.dates[criterion as DateId], dateBounds(query, today));
    case 'folder':
      return isInFolder(photo, value, criterion === 'within');
    case 'area':
      return photo.position !== undefined && contains(areaOf(value) ?? NOWHERE, photo.position);
    case 'presence':
      return isPresent(value.toLowerCase(), photo) === (criterion === 'has');
    case 'state':
      return photo.states.has(value.toLowerCase() as State);
    case 'photos':
      return photosAsked(value)?.includes(photo.id) ?? false;
    case 'search':
    case 'likeness':
    case undefined:
      return false;
  }
}

const NOWHERE = { kind: 'polygon', corners: [] } as const satisfies { kind: 'polygon'; corners: [] };

/** A term is named by one of its labels, or by a path whose steps are labels one below the other, ending at it: `Kites/Delta`. */
function isNamed(path: readonly (readonly string[])[], name: string): boolean {
  const sameLabel = (labels: readonly string[] | undefined, step: string) =>
    labels?.some((label) => foldText(label) === foldText(step)) ?? false;
  if (sameLabel(path.at(-1), name)) return true;
  const steps = name.split('/');
  return steps.length <= path.length && steps.every((step, i) => sameLabel(path[path.length - steps.length + i], step));
}

/** With / in front the whole path is meant. */
function isDossierNamed(path: readonly string[], name: string): boolean {
  return name.startsWith('/')
    ? foldText(`/${path.join('/')}`) === foldText(name)
    : isNamed(
        path.map((step) => [step]),
        name,
      );
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

function isInFolder({ drive, folder }: SearchablePhoto, value: string, withBelow: boolean): boolean {
  const [path, asked] = [folderText(drive, folder), value.replace(/\/+$/, '')];
  return withBelow ? `${path}/`.startsWith(`${asked}/`) : path === asked;
}

/** Whether a part of the description, or what a criterion asks for, is there. */
function isPresent(id: string, photo: SearchablePhoto): boolean {
  const special: Record<string, (() => boolean) | undefined> = {
    terms: () => photo.terms.length > 0,
    people: () => isSaid('person', photo),
    location: () => isSaid('place', photo) || photo.position !== undefined,
    keywords: () => isSaid('keyword', photo),
    date: () => photo.dates.taken !== undefined,
    day: () => photo.dates.taken !== undefined && isOfOneDay(photo.dates.taken),
    rating: () => (photo.numbers.rating ?? 0) !== 0,
    position: () => photo.position !== undefined,
    dossier: () => photo.dossiers.length > 0,
  };
  const meaning = special[id];
  if (meaning) return meaning();
  const criterion = criterionOf(id);
  if (criterion?.type === 'number') return photo.numbers[criterion.id as NumberId] !== undefined;
  if (criterion?.type === 'date') return photo.dates[criterion.id as DateId] !== undefined;
  return criterion !== undefined && isSaid(criterion.id, photo);
}

function isSaid(id: CriterionId, photo: SearchablePhoto): boolean {
  return (photo.said[id as TextId] ?? []).length > 0;
}

/** The closed interval of numbers that a criterion asks for; its ends are left out where `open`. Undefined when its value is no number. */
export function numberBounds({
  criterion,
  operator,
  value,
  to,
}: Pick<CriterionQuery, 'criterion' | 'operator' | 'value' | 'to'>):
  | { from: number; to: number; openFrom: boolean; openTo: boolean }
  | undefined {
  const units = criterionOf(criterion)?.units;
  // In "24..70mm" the unit holds for both.
  const unit = operator === '..' ? (/[\p{L}°]+$/u.exec(to ?? '')?.[0] ?? '') : '';
  const first = numberOf(/\p{L}$/u.test(value) ? value : value + unit, units);
  const last = operator === '..' ? numberOf(to ?? '', units) : first;
  if (first === undefined || last === undefined) return undefined;
  const from = operator === '<' || operator === '<=' ? -Infinity : first;
  const until = operator === '>' || operator === '>=' ? Infinity : last;
  return { from, to: until, openFrom: operator === '>', openTo: operator === '<' };
}

function compares(number: number | undefined, query: CriterionQuery): boolean {
  const bounds = numberBounds(query);
  if (number === undefined || !bounds) return false;
  const above = bounds.openFrom ? number > bounds.from : number >= bounds.from;
  const below = bounds.openTo ? number < bounds.to : number <= bounds.to;
  return above && below;
}

/** Times compare as text, since all are written alike. What is uncertain meets what it overlaps. */
function overlaps(span: TimeSpan | undefined, bounds: DateInterval | undefined): boolean {
  if (!span || !bounds) return false;
  const started = bounds.to === undefined || span.from < bounds.to;
  const notOver =
    bounds.from === undefined || (span.until === undefined ? span.from >= bounds.from : span.until > bounds.from);
  return started && notOver;
}

/** The half-open interval of time that a date criterion asks for; undefined when its value is no date. After 2018 is from 2019 on. */
export function dateBounds(
  { operator, value, to }: Pick<CriterionQuery, 'operator' | 'value' | 'to'>,
  today: string,
): DateInterval | undefined {
  const first = dateInterval(value, today);
  const last = operator === '..' ? dateInterval(to ?? '', today) : first;
  if (!first || !last) return undefined;
  const ends: Record<Operator, [from: string | undefined, to: string | undefined] | undefined> = {
    '=': [first.from, first.to],
    '..': [first.from, last.to],
    // Nothing comes after what has no end.
    '>': first.to === undefined ? undefined : [first.to, undefined],
    '>=': [first.from, undefined],
    '<': first.from === undefined ? undefined : [undefined, first.from],
    '<=': [undefined, first.to],
  };
  const bounds = ends[operator];
  if (!bounds) return undefined;
  const [from, until] = bounds;
  return { ...(from === undefined ? {} : { from }), ...(until === undefined ? {} : { to: until }) };
}
