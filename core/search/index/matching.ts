// From a query to the set of photos that meet it: each node of the tree a pass over columns or a union of lists.

import {
  criterionOf,
  MONTHS,
  WEEKDAYS,
  type ChoiceId,
  type CriterionType,
  type DateId,
  type NumberId,
  type State,
  type TextId,
} from '../../query/criteria';
import { dateBounds, numberBounds } from '../evaluate';
import { calendarOf, dayOf, secondsOf } from '../photo';
import { kindsWhere } from '../../metadata/containers/kinds';
import { ownComparison, ownMatcherOf } from '../ownValues';
import { photosAsked } from '../../lookalikes/asked';
import { areaOf, insideTest, latitudesOf } from '../../timeplace/areas';
import type { CriterionQuery, Query } from '../../query/query';
import { foldText, formsOf, hasWildcard, matcherOf, patternsOf, wordsOf } from '../../text/words';
import { beside, MeasureColumn } from './columns';
import type { FinderIndex } from './finderIndex';
import type { PhotoSet } from './photoSet';
import type { Viewpoint } from '../viewpoint';

/** The photos that meet a part of a query, as remembered or looked for. */
export type Meet = (query: Query) => PhotoSet;

/** The photos that meet a query, as a set of its own; `meet` finds those of its parts. */
export function matchingSet(index: FinderIndex, query: Query, from: Viewpoint, meet: Meet): PhotoSet {
  switch (query.kind) {
    case 'everything':
      return everything(index);
    case 'all':
      return allOf(index, query.of, meet);
    case 'any':
      return query.of.reduce((found, part) => found.addAll(meet(part)), index.empty());
    case 'not':
      return everything(index).takeOut(meet(query.of));
    case 'words':
      return patternsOf(query.text).reduce(
        (found, pattern) => found.keepOnly(withWord(index, pattern)),
        everything(index),
      );
    case 'phrase':
      return withPhrase(index, wordsOf(query.text));
    case 'criterion': {
      const type = criterionOf(query.criterion)?.type;
      return type ? MEANINGS[type](index, query, from).keepOnly(index.live()) : index.empty();
    }
  }
}

function everything(index: FinderIndex): PhotoSet {
  return index.sets.copy(index.live());
}

/** What is denied is taken off, rather than turned round and met. */
function allOf(index: FinderIndex, parts: readonly Query[], meet: Meet): PhotoSet {
  const [first = index.live(), second, ...others] = parts.filter(({ kind }) => kind !== 'not').map(meet);
  const found = second ? index.sets.intersection(first, second) : index.sets.copy(first);
  for (const other of others) found.keepOnly(other);
  for (const part of parts) if (part.kind === 'not') found.takeOut(meet(part.of));
  return found;
}

/** What criteria of a type find, as a set of its own. */
type Meaning = (index: FinderIndex, query: CriterionQuery, from: Viewpoint) => PhotoSet;

const MEANINGS: Record<CriterionType, Meaning> = {
  term: (index, { criterion, value }) =>
    index.termIds.having(index.terms.named(value, criterion === 'term'), index.empty()),
  dossier: (index, { value }) => index.dossierIds.having(index.dossiers.namedWithin(value), index.empty()),
  text: (index, { criterion, value }, from) => saying(index, criterion as TextId, foldText(value), from),
  choice: (index, { criterion, value }) => choosing(index, criterion as ChoiceId, value.toLowerCase()),
  number: (index, query) => {
    const bounds = numberBounds(query);
    if (!bounds) return index.empty();
    const { from, to, openFrom, openTo } = bounds;
    const lowest = openFrom ? beside(from, true) : from;
    const highest = openTo ? beside(to, false) : to;
    return measure(index, query.criterion as NumberId).between(lowest, highest, index.empty());
  },
  date: (index, query, { today }) => {
    const bounds = dateBounds(query, today);
    if (!bounds) return index.empty();
    const from = bounds.from === undefined ? -Infinity : secondsOf(bounds.from);
    const to = bounds.to === undefined ? Infinity : secondsOf(bounds.to);
    if (query.criterion !== 'taken')
      return index[query.criterion as Exclude<DateId, 'taken'>].between(from, beside(to, false), index.empty());
    const found = index.empty();
    const starts = index.taken.from.values;
    const ends = index.taken.until.values;
    const end = Math.min(index.size, starts.length);
    for (let ordinal = 0, at = 0; ordinal < end; at++) {
      let word = 0;
      for (const stop = Math.min(end, ordinal + 32); ordinal < stop; ordinal++)
        word |= (Number((starts[ordinal] ?? NaN) < to) & Number((ends[ordinal] ?? NaN) > from)) << (ordinal & 31);
      found.bits[at] = word;
    }
    return found;
  },
  folder: (index, { criterion, value }) =>
    index.inFolders(index.folders.named(value.replace(/\/+$/, ''), criterion === 'within')),
  area: (index, { value }) => {
    const area = areaOf(value);
    const latitudes = index.position.latitude.values;
    const longitudes = index.position.longitude.values;
    const found = index.empty();
    if (!area) return found;
    const [south, north] = latitudesOf(area);
    const isInside = insideTest(area);
    for (let ordinal = 0; ordinal < latitudes.length; ordinal++) {
      const latitude = latitudes[ordinal] ?? NaN;
      // Most lie too far north or south: that is quickly seen, and without a position nothing is true.
      if (latitude >= south && latitude <= north && isInside(latitude, longitudes[ordinal] ?? NaN)) found.add(ordinal);
    }
    return found;
  },
  presence: (index, { criterion, value }, from) => {
    const there = having(index, value.toLowerCase(), from);
    return criterion === 'has' ? there : everything(index).takeOut(there);
  },
  state: (index, { value }) => index.sets.copy(index.inState(value.toLowerCase() as State)),
  photos: (index, { value }) => {
    const found = index.empty();
    for (const id of photosAsked(value) ?? []) {
      const ordinal = index.ordinalOf(id);
      if (ordinal >= 0) found.add(ordinal);
    }
    return found;
  },
  // Opened before a query comes here.
  search: (index) => index.empty(),
  likeness: (index) => index.empty(),
};

function saying(index: FinderIndex, criterion: TextId, pattern: string, from: Viewpoint): PhotoSet {
  if (criterion === 'drive' || criterion === 'path') {
    const matches = matcherOf(pattern);
    return index.inFoldersMeeting(({ id, drive }) =>
      matches(foldText(criterion === 'drive' ? drive : index.folders.textOf(id))),
    );
  }
  if (criterion === 'changedBy') return index.changers.matching(pattern, index.empty());
  if (criterion === 'caption') return captioned(index, pattern);
  if (criterion === 'own' && ownComparison(pattern))
    return index.textsOf(criterion, true).meeting(ownMatcherOf(pattern), index.empty());
  const single = criterion in index.single ? index.single[criterion as keyof typeof index.single] : undefined;
  return (single ?? index.textsOf(criterion, from.knowsPrivate)).matching(pattern, index.empty());
}

/** Cost ratio measured in bench/search: scanning all captions costs as much as reading one caption in eight. */
const RARE_WORD_FACTOR = 8;

/** The photos whose caption meets a pattern: where few have a word that it must hold, only their captions are looked at. */
function captioned(index: FinderIndex, pattern: string): PhotoSet {
  const { caption } = index.single;
  const word = wordWithin(pattern);
  const candidates = word === undefined ? undefined : index.words.having([word], index.empty());
  candidates?.addAll(index.longCaption.having([1], index.empty()));
  if (!candidates || candidates.count() * RARE_WORD_FACTOR > index.size)
    return caption.matching(pattern, index.empty());
  const matches = matcherOf(pattern);
  return candidates.keepIf((ordinal) => matches(caption.textOf(ordinal)));
}

/** Shorter pieces stand in too many words. */
const MIN_PIECE = 3;

/** The pattern of a word that whatever meets a pattern of texts has: of the longest that there is. */
function wordWithin(pattern: string): string | undefined {
  const words = [...pattern.matchAll(/[*?]?(\p{L}+|\p{N}+)(?=([*?]?))/gu)].map(([found, piece = '', after]) => ({
    piece,
    word: `${found === piece ? '' : '*'}${piece}${after === '' ? '' : '*'}`,
  }));
  const longest = words.reduce((best, each) => (each.piece.length > best.piece.length ? each : best), {
    piece: '',
    word: '',
  });
  return longest.piece.length < MIN_PIECE ? undefined : longest.word;
}

function choosing(index: FinderIndex, criterion: ChoiceId, value: string): PhotoSet {
  switch (criterion) {
    case 'kind':
      return index.single.kind.matching(value, index.empty());
    case 'media':
      return kindsWhere(({ media }) => media === value)
        .map((kind) => index.single.kind.matching(kind, index.empty()))
        .reduce((all, some) => all.addAll(some), index.empty());
    case 'fixity':
      return index.single.fixity.matching(value, index.empty());
    case 'flash':
      return index.listed.of('flash').matching(value, index.empty());
    case 'shape': {
      const aspects = measure(index, 'aspect');
      if (value === 'square') return aspects.between(1, 1, index.empty());
      return value === 'landscape'
        ? aspects.between(beside(1, true), Infinity, index.empty())
        : aspects.between(-Infinity, beside(1, false), index.empty());
    }
    case 'weekday':
      return onCalendar(index, DAY, (seconds) => WEEKDAYS[weekdayOf(seconds)] === value);
    case 'month':
      return inMonth(index, MONTHS.indexOf(value as (typeof MONTHS)[number]));
  }
}

const HOUR = 3600;
const DAY = 24 * HOUR;

/** 0 for Monday; 1970 began on a Thursday. */
function weekdayOf(seconds: number): number {
  return (((Math.floor(seconds / DAY) + 3) % 7) + 7) % 7;
}

/** Photos whose time is known to `length` seconds, and whose beginning meets a test. */
function onCalendar(index: FinderIndex, length: number, test: (seconds: number) => boolean): PhotoSet {
  const { from, until } = index.taken;
  const found = index.empty();
  for (let ordinal = 0; ordinal < from.values.length; ordinal++) {
    const start = from.get(ordinal);
    if (until.get(ordinal) - start <= length && test(start)) found.add(ordinal);
  }
  return found;
}

/** Photos that are known to be of one day. */
function ofOneDay(index: FinderIndex): PhotoSet {
  const { from, until } = index.taken;
  const found = index.empty();
  for (let ordinal = 0; ordinal < from.values.length; ordinal++)
    if (dayOf(from.get(ordinal), until.get(ordinal)) !== undefined) found.add(ordinal);
  return found;
}

function inMonth(index: FinderIndex, month: number): PhotoSet {
  return onCalendar(index, 31 * DAY, (seconds) => new Date(seconds * 1000).getUTCMonth() === month).keepOnly(
    withinOneMonth(index),
  );
}

function withinOneMonth(index: FinderIndex): PhotoSet {
  const { from, until } = index.taken;
  const found = index.empty();
  for (let ordinal = 0; ordinal < from.values.length; ordinal++) {
    const [start, end] = [from.get(ordinal), until.get(ordinal)];
    if (end - start === 1) found.add(ordinal);
    else if (end - start <= 31 * DAY) {
      const span = { from: timeText(start), until: timeText(end) };
      if (calendarOf(span).month !== undefined) found.add(ordinal);
    }
  }
  return found;
}

function timeText(seconds: number): string {
  return new Date(seconds * 1000).toISOString().slice(0, 19);
}

/** The column of a number; the hour is made of the time. */
function measure(index: FinderIndex, id: NumberId): MeasureColumn {
  if (id !== 'hour') return index.measures[id];
  const { from, until } = index.taken;
  const hours = new MeasureColumn();
  hours.values = Float64Array.from(from.values, (start, ordinal) =>
    until.get(ordinal) - start <= HOUR ? Math.floor((((start % DAY) + DAY) % DAY) / HOUR) : NaN,
  );
  return hours;
}

/** The photos that have a part of the description, or what a criterion asks for. */
function having(index: FinderIndex, id: string, from: Viewpoint): PhotoSet {
  const special: Record<string, (() => PhotoSet) | undefined> = {
    terms: () => index.termIds.havingAny(index.empty()),
    people: () => saying(index, 'person', '*', from),
    location: () => saying(index, 'place', '*', from).addAll(having(index, 'position', from)),
    keywords: () => saying(index, 'keyword', '*', from),
    date: () => index.taken.from.known(index.empty()),
    day: () => ofOneDay(index),
    taken: () => index.taken.from.known(index.empty()),
    changed: () => index.changed.known(index.empty()),
    rating: () =>
      measure(index, 'rating')
        .known(index.empty())
        .takeOut(measure(index, 'rating').between(0, 0, index.empty())),
    position: () => index.position.latitude.known(index.empty()),
    dossier: () => index.dossierIds.havingAny(index.empty()),
    shape: () => measure(index, 'aspect').known(index.empty()),
    flash: () => index.listed.of('flash').matching('*', index.empty()),
    changedby: () => index.changers.matching('*', index.empty()),
  };
  const meaning = special[id];
  if (meaning) return meaning();
  const criterion = criterionOf(id);
  if (criterion?.type === 'number') return measure(index, criterion.id as NumberId).known(index.empty());
  return criterion ? saying(index, criterion.id as TextId, '*', from) : index.empty();
}

function withWord(index: FinderIndex, pattern: string): PhotoSet {
  return index.words
    .having(hasWildcard(pattern) ? [pattern] : formsOf(pattern), index.empty())
    .addAll(index.termIds.having(index.terms.withWord(pattern), index.empty()));
}

function withPhrase(index: FinderIndex, phrase: readonly string[]): PhotoSet {
  if (phrase.length === 0) return everything(index);
  const inLabels = index.termIds.having(index.terms.withPhrase(phrase), index.empty());
  const found = phrase
    .map((word) => index.words.having([word], index.empty()))
    .reduce((a, b) => a.keepOnly(b))
    .keepIf((ordinal) => index.words.follow(ordinal, phrase));
  return found.addAll(inLabels).keepOnly(index.live());
}
