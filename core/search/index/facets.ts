// Counting what the photos of a result have: how many of each value of a facet, and how many by time. A closed bundle counts
// once for each value that any of its photos in the result has, since that is what narrowing to the value would find.

import type { TextId } from '../../query/criteria';
import { foldText } from '../../text/words';
import { facetOf, isOwnFacet, type FacetId, type OwnFacetId } from '../facets';
import type { ListColumn } from './columns';
import type { FinderIndex } from './finderIndex';
import type { ListedId, TextList } from './listedTexts';
import { type PhotoSet } from './photoSet';

export interface ValueCount {
  /** As it stands behind the criterion in a query. */
  value: string;
  label: string;
  photos: number;
}

export interface Counted {
  /** The most frequent first. */
  values: ValueCount[];
  /** How many different values there are. */
  distinct: number;
}

/** The photos that meet a query: those that are shown, and those behind the leads of closed bundles. */
export interface Met {
  visible: PhotoSet;
  hidden: PhotoSet;
}

/** The photos that meet a query of somebody, for whom private persons exist or do not. */
interface MetBy {
  met: Met;
  knowsPrivate: boolean;
}

/** Values by number: which a photo has, each once, and what each is. */
interface Values {
  size: number;
  /** Adds one to the count of each value of each photo. */
  count: (ordinals: Int32Array, counts: Int32Array) => void;
  /** The counts of a set at once, where that is quicker. */
  countSet?: (set: PhotoSet) => Int32Array | undefined;
  of: (ordinal: number) => number[];
  name: (value: number) => { value: string; label: string };
}

export type CountedFacet = Exclude<FacetId, 'term'>;

/** How many photos of a result have each value of a facet: the most frequent, at most `most` of those whose label meets a test. */
export function countValues(
  index: FinderIndex,
  facet: CountedFacet,
  { met, knowsPrivate }: MetBy,
  most: number,
  wanted?: (label: string) => boolean,
): Counted {
  const name = facet === 'person' && !knowsPrivate ? 'public person' : facet;
  const values = index.kept(`values of ${name}`, () =>
    isOwnFacet(facet) ? ownValues(index, facet) : VALUES[facet](index, knowsPrivate),
  );
  return named(values, count(index, name, values, met), most, wanted);
}

/** The same for what photos say of any criterion of texts. */
export function countTexts(
  index: FinderIndex,
  criterion: TextId,
  { met, knowsPrivate }: MetBy,
  most: number,
  wanted?: (label: string) => boolean,
): Counted {
  const name = `texts of ${criterion}${knowsPrivate ? '' : ', public'}`;
  const values = index.kept(name, () => listed(index, criterion, knowsPrivate));
  return named(values, count(index, name, values, met), most, wanted);
}

/** How many have each term or one of its narrower ones, by the id of the term. */
function countTerms(index: FinderIndex, met: Met): Int32Array {
  const values = index.kept('values of term', () => termValues(index));
  return count(index, 'term', values, met);
}

/** One pass over the photos counts as many terms as a 32-bit integer has bits, less its sign. */
const TERMS_PER_PASS = 31;
/** Cost ratio measured in bench/search: reading one photo’s term list costs as much as testing 24 bitmap words. */
const LOOKUPS_PER_LIST_WORD = 24;

/** How many have each of some terms or one of its narrower ones, in the order of the ids. `having` finds the photos of one. */
export function countSomeTerms(
  index: FinderIndex,
  ids: readonly number[],
  met: Met,
  having: (id: number) => PhotoSet,
): number[] {
  if (ids.length > TERMS_PER_PASS * 8) {
    const counts = countTerms(index, met);
    return ids.map((id) => counts[id] ?? 0);
  }
  const found: number[] = [];
  for (let at = 0; at < ids.length; at += TERMS_PER_PASS) {
    const some = ids.slice(at, at + TERMS_PER_PASS);
    found.push(
      ...count(
        index,
        `terms ${some.join()}`,
        index.kept(`terms ${some.join()}`, () => bitValues(index, some, having)),
        met,
      ),
    );
  }
  return found;
}

/** Of each term the bits of those that are broader, or itself: those of all terms of a photo together are what it has. */
function bitValues(index: FinderIndex, some: readonly number[], having: (id: number) => PhotoSet): Values {
  const { offsets, ids, size } = index.terms.broader();
  const bits = new Int32Array(size);
  const places = new Map(some.map((id, i) => [id, i]));
  for (let term = 0; term < size; term++)
    for (let k = offsets[term] ?? 0; k < (offsets[term + 1] ?? 0); k++) {
      const place = places.get(ids[k] ?? 0);
      if (place !== undefined) bits[term] = (bits[term] ?? 0) | (1 << place);
    }
  return {
    size: some.length,
    countSet: (set) =>
      set.count() * LOOKUPS_PER_LIST_WORD > some.length * set.bits.length
        ? Int32Array.from(some, (id) => set.countWith(having(id)))
        : undefined,
    count: (ordinals, counts) =>
      index.termIds.forEachList(ordinals, (values, start, end) => {
        let all = 0;
        for (let i = start; i < end; i++) all |= bits[values[i] ?? 0] ?? 0;
        while (all !== 0) {
          const lowest = all & -all;
          const place = 31 - Math.clz32(lowest);
          counts[place] = (counts[place] ?? 0) + 1;
          all ^= lowest;
        }
      }),
    of: (ordinal) => {
      const all = index.termIds.get(ordinal).reduce((found, id) => found | (bits[id] ?? 0), 0);
      return some.flatMap((_, place) => (((all >>> place) & 1) === 1 ? [place] : []));
    },
    name: (place) => ({ value: String(some[place]), label: String(some[place]) }),
  };
}

/** What a choice of photos has, each photo counted for itself: directly given terms, terms with narrower ones, free keywords, folders. */
export interface Description {
  photos: number;
  terms: Map<number, number>;
  within: Map<number, number>;
  keywords: ValueCount[];
  folders: Map<number, number>;
}

/** Describes a choice of photos, with the `most` frequent of its free keywords. */
export function describePhotos(index: FinderIndex, chosen: PhotoSet, most: number): Description {
  const ordinals = chosen.ordinals();
  const counted = (values: Values) => {
    const counts = new Int32Array(values.size);
    values.count(ordinals, counts);
    return counts;
  };
  const keywords = listed(index, 'keyword');
  return {
    photos: ordinals.length,
    terms: presentOf(counted(listValues(index.termIds, index.terms.broader().size))),
    within: presentOf(counted(index.kept('values of term', () => termValues(index)))),
    keywords: named(keywords, counted(keywords), most).values,
    folders: presentOf(counted(VALUES.folder(index, true))),
  };
}

/** The first and the last second of the dated photos of a result; undefined when there are none. */
export function timeSpanOf(index: FinderIndex, { visible, hidden }: Met): { from: number; until: number } | undefined {
  const from = index.taken.from.values;
  const until = index.taken.until.values;
  let [first, last] = [Infinity, -Infinity];
  for (const ordinals of [index.ordinalsOf.results.of(visible), hidden.ordinals()])
    for (let i = 0; i < ordinals.length; i++) {
      const ordinal = ordinals[i] ?? 0;
      if ((from[ordinal] ?? NaN) < first) first = from[ordinal] ?? NaN;
      if ((until[ordinal] ?? NaN) > last) last = until[ordinal] ?? NaN;
    }
  return first === Infinity ? undefined : { from: first, until: last };
}

/** How many photos of a result overlap each stretch between two bounds, which ascend, in seconds. */
export function countByTime(index: FinderIndex, bounds: readonly number[], met: Met): number[] {
  const limits = Float64Array.from(bounds);
  const counts = new Int32Array(Math.max(0, limits.length - 1));
  const from = index.taken.from.values;
  const until = index.taken.until.values;
  const last = counts.length - 1;
  const begin = limits[0] ?? 0;
  const perSecond = counts.length / ((limits[last + 1] ?? 0) - begin);
  /** The stretch that a moment lies in, the first or last for one outside: stretches are of about one length, so it is near a guess. */
  const stretchOf = (moment: number) => {
    let at = Math.max(0, Math.min(last, Math.floor((moment - begin) * perSecond)));
    while (at > 0 && (limits[at] ?? 0) > moment) at--;
    while (at < last && (limits[at + 1] ?? 0) <= moment) at++;
    return at;
  };
  /** The first stretch that a photo overlaps, -1 for none; one whose second is known lies in one at most. */
  const firstOf = (start: number, end: number) => {
    if (!(start < (limits[last + 1] ?? 0) && end > begin)) return -1;
    return end - start <= 1 && start < begin ? -1 : stretchOf(start);
  };
  const goesOn = (stretch: number, start: number, end: number) =>
    end - start > 1 && stretch <= last && (limits[stretch] ?? 0) < end;
  const ordinals = index.ordinalsOf.results.of(met.visible);
  for (let i = 0; i < ordinals.length; i++) {
    const ordinal = ordinals[i] ?? 0;
    const start = from[ordinal] ?? NaN;
    const end = until[ordinal] ?? NaN;
    let stretch = firstOf(start, end);
    if (stretch < 0) continue;
    do {
      counts[stretch] = (counts[stretch] ?? 0) + 1;
      stretch++;
    } while (goesOn(stretch, start, end));
  }
  countHidden(index, met, counts, (ordinal) => {
    const start = from[ordinal] ?? NaN;
    const end = until[ordinal] ?? NaN;
    const first = firstOf(start, end);
    const found = first < 0 ? [] : [first];
    while (first >= 0 && goesOn(first + found.length, start, end)) found.push(first + found.length);
    return found;
  });
  return Array.from(counts);
}

/** What was counted of a result, by the name of the values: while somebody types or scrolls it is asked for again and again. */
const knownCounts = new WeakMap<Met, Map<string, Int32Array>>();

function count(index: FinderIndex, name: string, values: Values, met: Met): Int32Array {
  return known(
    known(knownCounts, met, () => new Map<string, Int32Array>()),
    name,
    () => {
      const counts = countVisible(index, name, values, met.visible);
      countHidden(index, met, counts, values.of);
      return counts;
    },
  );
}

/** Of more than half of all photos it is quicker to count the others. */
function countVisible(index: FinderIndex, name: string, values: Values, visible: PhotoSet): Int32Array {
  const atOnce = values.countSet?.(visible);
  if (atOnce) return atOnce;
  const base = index.apart(true).alone;
  const counts = new Int32Array(values.size);
  // For whom a lead does not exist, photos that stand behind it for others stand by themselves.
  if (visible.count() * 2 <= base.count() || visible.countWith(base) < visible.count()) {
    values.count(index.ordinalsOf.results.of(visible), counts);
    return counts;
  }
  const total = index.kept(`counts of ${name}`, () => {
    const all = new Int32Array(values.size);
    values.count(base.ordinals(), all);
    return all;
  });
  const others = index.ordinalsOf.others.of(visible, () => index.sets.copy(base).takeOut(visible));
  values.count(others, counts);
  for (let value = 0; value < counts.length; value++) counts[value] = (total[value] ?? 0) - (counts[value] ?? 0);
  return counts;
}

function known<Key, Value>(
  by: { get(key: Key): Value | undefined; set(key: Key, value: Value): unknown },
  key: Key,
  make: () => Value,
): Value {
  let value = by.get(key);
  if (value === undefined) {
    value = make();
    by.set(key, value);
  }
  return value;
}

/** Counts what photos behind leads have, where neither the lead nor another one before has it. */
function countHidden(
  index: FinderIndex,
  { visible, hidden }: Met,
  counts: Int32Array,
  valuesOf: (ordinal: number) => number[],
): void {
  const ofLead = new Map<number, Set<number>>();
  hidden.forEach((ordinal) => {
    const lead = index.ordinalOf(index.foldedInto.get(ordinal));
    const known = ofLead.get(lead) ?? new Set(visible.has(lead) ? valuesOf(lead) : []);
    ofLead.set(lead, known);
    for (const value of valuesOf(ordinal)) {
      if (known.has(value)) continue;
      known.add(value);
      counts[value] = (counts[value] ?? 0) + 1;
    }
  });
}

/** The most frequent values by name, those of one count by their label. */
function named(values: Values, counts: Int32Array, most: number, wanted?: (label: string) => boolean): Counted {
  let distinct = 0;
  const candidates = new Int32Array(counts.length);
  for (let value = 0; value < counts.length; value++)
    if ((counts[value] ?? 0) > 0 && (!wanted || wanted(values.name(value).label))) candidates[distinct++] = value;
  const fewest = nthLargest(counts, candidates.subarray(0, distinct), most);
  const [above, even]: [number[], number[]] = [[], []];
  for (let i = 0; i < distinct; i++) {
    const value = candidates[i] ?? 0;
    const photos = counts[value] ?? 0;
    if (photos > fewest) above.push(value);
    else if (photos === fewest) even.push(value);
  }
  const found = [...above, ...firstByLabel(values, even, most - above.length)]
    .map((value) => ({ ...values.name(value), photos: counts[value] ?? 0 }))
    .sort((a, b) => b.photos - a.photos || compareLabels(a.label, b.label));
  return { values: found, distinct };
}

/** The `n`th largest count of some values, 0 where there are fewer, and more than any for none at all. */
function nthLargest(counts: Int32Array, values: Int32Array, n: number): number {
  if (n === 0) return Infinity;
  if (values.length < n) return 0;
  // The largest so far, ascending: most are passed over with one look at the first.
  const largest = new Int32Array(n);
  for (let i = 0; i < values.length; i++) {
    const count = counts[values[i] ?? 0] ?? 0;
    if (count <= (largest[0] ?? 0)) continue;
    let place = 1;
    for (; place < n && (largest[place] ?? 0) < count; place++) largest[place - 1] = largest[place] ?? 0;
    largest[place - 1] = count;
  }
  return largest[0] ?? 0;
}

/** The values whose labels come first, without sorting the many that don't. */
function firstByLabel(values: Values, candidates: readonly number[], most: number): number[] {
  if (candidates.length <= most) return [...candidates];
  const first: { value: number; label: string }[] = [];
  for (const value of candidates) {
    const { label } = values.name(value);
    const last = first.at(-1);
    if (first.length >= most && (!last || compareLabels(label, last.label) >= 0)) continue;
    const place = first.findIndex((each) => compareLabels(label, each.label) < 0);
    first.splice(place < 0 ? first.length : place, 0, { value, label });
    if (first.length > most) first.pop();
  }
  return first.map(({ value }) => value);
}

function compareLabels(a: string, b: string): number {
  return a < b ? -1 : a > b ? 1 : 0;
}

function presentOf(counts: Int32Array): Map<number, number> {
  const found = new Map<number, number>();
  counts.forEach((photos, value) => photos > 0 && found.set(value, photos));
  return found;
}

const VALUES: Record<Exclude<CountedFacet, OwnFacetId>, (index: FinderIndex, knowsPrivate: boolean) => Values> = {
  person: (index, knowsPrivate) => listed(index, 'person', knowsPrivate),
  place: (index) => listed(index, 'place'),
  camera: (index) => single(index, 'camera'),
  lens: (index) => single(index, 'lens'),
  mark: (index) => single(index, 'mark'),
  kind: (index) => single(index, 'kind'),
  codec: (index) => listed(index, 'codec'),
  fixity: (index) => single(index, 'fixity'),
  year: yearValues,
  rating: (index) => numbers(index.measures.rating.values, -1),
  accession: (index) => numbers(index.measures.accession.values, 0),
  drive: driveValues,
  folder: (index) => ({
    ...columnValues(index.folder.values, index.folders.end),
    name: (id) => ({ value: index.folders.textOf(id), label: index.folders.textOf(id) }),
  }),
  changedBy: (index) => listedValues(index.changers),
  creator: (index) => listed(index, 'creator'),
  event: (index) => listed(index, 'event'),
  source: (index) => listed(index, 'source'),
  copyrightNotice: (index) => listed(index, 'copyrightNotice'),
  plan: (index) => listed(index, 'plan'),
};

/** What own fields of one name say: those of all names, of which the others count for nothing. */
function ownValues(index: FinderIndex, id: OwnFacetId): Values {
  const { prefix = '' } = facetOf(id);
  const [all, begin] = [listed(index, 'own'), foldText(prefix)];
  const isOf = Uint8Array.from({ length: all.size }, (_, value) =>
    Number(foldText(all.name(value).label).startsWith(begin)),
  );
  return {
    size: all.size,
    count: (ordinals, counts) => {
      all.count(ordinals, counts);
      for (let value = 0; value < counts.length; value++) if (!isOf[value]) counts[value] = 0;
    },
    of: (ordinal) => all.of(ordinal).filter((value) => isOf[value]),
    name: (value) => {
      const text = all.name(value).label.slice(prefix.length);
      return { value: text, label: text };
    },
  };
}

/** One value a photo at most, from `first` on; a smaller one or NaN is none. */
function columnValues(values: Int32Array | Float64Array, size: number, first = 0): Omit<Values, 'name'> {
  const none = first - 1;
  return {
    size,
    count: (ordinals, counts) => {
      for (let i = 0; i < ordinals.length; i++) {
        const value = (values[ordinals[i] ?? 0] ?? none) - first;
        if (value >= 0) counts[value] = (counts[value] ?? 0) + 1;
      }
    },
    of: (ordinal) => {
      const value = (values[ordinal] ?? none) - first;
      return value >= 0 ? [value] : [];
    },
  };
}

/** Whole numbers from `first` on. */
function numbers(values: Float64Array, first: number): Values {
  let last = first - 1;
  for (let i = 0; i < values.length; i++) if ((values[i] ?? 0) > last) last = values[i] ?? 0;
  return {
    ...columnValues(values, last - first + 1, first),
    name: (value) => ({ value: String(value + first), label: String(value + first) }),
  };
}

/** The drives of folders: folders are counted, and what is in them told by drive. */
function driveValues(index: FinderIndex): Values {
  const folders = [...index.folders.all()];
  const labels = [...new Set(folders.map(({ drive }) => drive))];
  const places = new Map(labels.map((label, i) => [label, i]));
  const inFolders = columnValues(index.folder.values, index.folders.end);
  const driveOf = new Map(folders.map(({ id, drive }) => [id, places.get(drive) ?? 0]));
  return {
    size: labels.length,
    count: (ordinals, counts) => {
      const byFolder = new Int32Array(inFolders.size);
      inFolders.count(ordinals, byFolder);
      for (const [folder, drive] of driveOf) counts[drive] = (counts[drive] ?? 0) + (byFolder[folder] ?? 0);
    },
    of: (ordinal) => inFolders.of(ordinal).flatMap((folder) => driveOf.get(folder) ?? []),
    name: (value) => ({ value: labels[value] ?? '', label: labels[value] ?? '' }),
  };
}

/** A list of values a photo. */
function listValues(column: ListColumn, size: number): Values {
  return {
    size,
    count: (ordinals, counts) =>
      column.forEachList(ordinals, (values, start, end) => {
        for (let i = start; i < end; i++) {
          const value = values[i] ?? 0;
          counts[value] = (counts[value] ?? 0) + 1;
        }
      }),
    of: (ordinal) => column.get(ordinal),
    name: (value) => ({ value: String(value), label: String(value) }),
  };
}

/** Terms with their broader ones: several narrower ones of a photo count once. */
function termValues(index: FinderIndex): Values {
  const { offsets, ids, size } = index.terms.broader();
  return {
    size,
    count: (ordinals, counts) => {
      const seen = new Int32Array(size);
      let photo = 0;
      index.termIds.forEachList(ordinals, (values, start, end) => {
        photo++;
        for (let i = start; i < end; i++) {
          const value = values[i] ?? 0;
          const last = offsets[value + 1] ?? 0;
          for (let k = offsets[value] ?? 0; k < last; k++) {
            const id = ids[k] ?? 0;
            if (seen[id] === photo) continue;
            seen[id] = photo;
            counts[id] = (counts[id] ?? 0) + 1;
          }
        }
      });
    },
    of: (ordinal) => [
      ...new Set(index.termIds.get(ordinal).flatMap((id) => Array.from(ids.subarray(offsets[id], offsets[id + 1])))),
    ],
    name: (id) => ({ value: String(id), label: String(id) }),
  };
}

const LAST_YEAR = 9999;
const UNDATED = -1;
const ROUGHLY = -2;

function yearValues(index: FinderIndex): Values {
  const from = index.taken.from.values;
  const until = index.taken.until.values;
  const of = (ordinal: number): number[] => {
    const start = from[ordinal] ?? NaN;
    if (Number.isNaN(start)) return [];
    const [first, last] = [yearOf(start), yearOf((until[ordinal] ?? 0) - 1)];
    return Array.from({ length: last - first + 1 }, (_, i) => first + i);
  };
  // The year of each photo that is known to the second; of others it is asked for.
  const years = new Int16Array(from.length).fill(UNDATED);
  for (let ordinal = 0; ordinal < from.length; ordinal++) {
    const start = from[ordinal] ?? NaN;
    if (!Number.isNaN(start)) years[ordinal] = (until[ordinal] ?? 0) - start <= 1 ? yearOf(start) : ROUGHLY;
  }
  return {
    size: LAST_YEAR + 1,
    count: (ordinals, counts) => {
      for (let i = 0; i < ordinals.length; i++) {
        const ordinal = ordinals[i] ?? 0;
        const year = years[ordinal] ?? UNDATED;
        if (year >= 0) counts[year] = (counts[year] ?? 0) + 1;
        else if (year === ROUGHLY) for (const each of of(ordinal)) counts[each] = (counts[each] ?? 0) + 1;
      }
    },
    of,
    name: (year) => ({ value: String(year).padStart(4, '0'), label: String(year) }),
  };
}

/** The year of seconds since 1970 (H. Hinnant, chrono-compatible low-level date algorithms, civil_from_days). */
function yearOf(seconds: number): number {
  const day = Math.floor(seconds / 86_400) + 719_468;
  const era = Math.floor(day / 146_097);
  const ofEra = day - era * 146_097;
  const year = Math.floor(
    (ofEra - Math.floor(ofEra / 1460) + Math.floor(ofEra / 36_524) - Math.floor(ofEra / 146_096)) / 365,
  );
  const ofYear = ofEra - (365 * year + Math.floor(year / 4) - Math.floor(year / 100));
  // Years of this reckoning begin in March.
  return year + era * 400 + (ofYear >= 306 ? 1 : 0);
}

/** The texts of a criterion of which a photo may have several. */
function listed(index: FinderIndex, criterion: ListedId, knowsPrivate = true): Values {
  return listedValues(index.textsOf(criterion, knowsPrivate));
}

function listedValues(list: TextList): Values {
  return {
    ...listValues(list.column, list.texts.table.size),
    name: (number) => ({ value: list.texts.shown(number), label: list.texts.shown(number) }),
  };
}

/** A text a photo at most. */
function single(index: FinderIndex, id: 'camera' | 'lens' | 'mark' | 'kind' | 'fixity'): Values {
  const single = index.single[id];
  return {
    ...columnValues(single.column.values, single.texts.table.size),
    name: (number) => ({ value: single.texts.shown(number), label: single.texts.shown(number) }),
  };
}
