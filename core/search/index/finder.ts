// Finding with the index: results as the sheet shows them, pages of them in any order, places in them, counts by facet.

import { missingQuery, type FacetId } from '../facets';
import { conjuncts, criterion, type CriterionQuery, type Query } from '../../query/query';
import type { TextId } from '../../query/criteria';
import {
  countByTime,
  countSomeTerms,
  countTexts,
  countValues,
  describePhotos,
  timeSpanOf,
  type Counted,
  type Description,
  type Met,
} from './facets';
import { type FinderIndex } from './finderIndex';
import { mapCells, type MapCell, type MapView, type OnMap } from './mapCells';
import { matchingSet } from './matching';
import { PEOPLE_TEXTS } from '../said';
import { byHand } from './ordering';
import { seenSet } from './seeing';
import type { Viewpoint } from '../viewpoint';
import { Orders, type OrderId } from './orders';
import type { PhotoSet } from './photoSet';
import { SpatialOrder } from './spatialOrder';
import { calendarPages, foundEvents, type FoundEvent, type Stretch } from './calendar';
import { ResultCache } from './cache';

/** A query and, by hand, photos less and more. */
export interface Asked {
  /** Null: only the photos of `plus`. */
  query: Query | null;
  minus?: readonly number[];
  plus?: readonly number[];
}

export interface Order {
  id: OrderId | 'hand';
  descending: boolean;
  /** For the order by hand: the photos of a dossier, by id. */
  byHand?: readonly number[];
}

export interface FacetCounts extends Counted {
  /** How many photos have none; undefined where that can’t be. */
  missing: number | undefined;
}

/** Photos that say the name of a place. */
const NAMED = criterion('has', 'place');
const CACHED_SETS = 300;
const CACHED_ORDERS = 12;
const CACHED_EVENTS = 4;
/** So much of a result is put in order when something near its beginning is asked for. */
const BEGINNINGS = [2000, 16_000];

export class Finder {
  private readonly orders: Orders;
  private readonly sets: ResultCache<PhotoSet>;
  private readonly lists: ResultCache<Int32Array>;
  private readonly mets: ResultCache<Met>;
  private readonly eventLists = new ResultCache<FoundEvent[]>(CACHED_EVENTS);
  private spatial: { changes: number; order: SpatialOrder } | undefined;
  private version = -1;

  constructor(readonly index: FinderIndex) {
    this.orders = new Orders(index);
    const { sets: storage } = index;
    this.sets = new ResultCache(
      CACHED_SETS,
      (set) => storage.keep(set),
      (set) => storage.giveUp(set),
    );
    this.lists = new ResultCache(CACHED_ORDERS);
    this.mets = new ResultCache(
      CACHED_ORDERS,
      ({ visible, hidden }) => ({ visible: storage.keep(visible), hidden: storage.keep(hidden) }),
      ({ visible, hidden }) => [visible, hidden].forEach((set) => storage.giveUp(set)),
    );
  }

  /** To be called between questions: nothing that was found for one is looked at any more. */
  settle(): void {
    this.index.sets.settle();
  }

  /** How many photos the sheet shows for a query, and how many more stand behind the leads of closed bundles. */
  count(query: Query, from: Viewpoint): { photos: number; folded: number } {
    const { visible, hidden } = this.met(query, from);
    const behind = this.folded(from);
    if (behind.isEmpty) return { photos: visible.count(), folded: 0 };
    const leads = this.leadsOf(hidden, visible);
    let folded = 0;
    behind.forEach((ordinal) => {
      const lead = this.leadOf(ordinal);
      if (lead >= 0 && (visible.has(lead) || leads.has(lead))) folded++;
    });
    return { photos: visible.count() + leads.count(), folded };
  }

  /**
   * How many photos the sheet shows for a query narrowed by each of some parts, none of which asks for photos that are set aside. Only what
   * single conditions find is remembered: what all of them find together would push that out.
   */
  countParts(query: Query, parts: readonly Query[], from: Viewpoint): number[] {
    const { visible, hidden } = this.met(query, from);
    const hasHidden = !hidden.isEmpty;
    const { sets } = this.index;
    return parts.map((part) => {
      const [first, ...others] = conjuncts(part).map((each) => this.set(each, from));
      if (!first) return this.leadsOf(hidden, visible).count() + visible.count();
      if (others.length === 0 && !hasHidden) return visible.countWith(first);
      const shown = others.reduce((found, other) => found.keepOnly(other), sets.intersection(visible, first));
      if (!hasHidden) return shown.count();
      const behind = others.reduce((found, other) => found.keepOnly(other), sets.intersection(hidden, first));
      return shown.count() + this.leadsOf(behind, shown).count();
    });
  }

  /** Ids of photos from a position of the result on. */
  page(asked: Asked, order: Order, offset: number, limit: number, from: Viewpoint): number[] {
    const list = this.firstOf(asked, order, offset + limit, from);
    return Array.from({ length: Math.max(0, Math.min(limit, list.length - offset)) }, (_, i) =>
      this.index.ids.get(list[offset + i] ?? 0),
    );
  }

  /** Where a photo stands in the result, undefined when it does not. */
  position(id: number, asked: Asked, order: Order, from: Viewpoint): number | undefined {
    const ordinal = this.index.ordinalOf(id);
    if (ordinal < 0 || !this.result(asked, from).has(ordinal)) return undefined;
    return this.ordered(asked, order, from).indexOf(ordinal);
  }

  /** The keys of neighbouring photos of a result and how many share each; `keyOf` tells those of an ordinal apart. */
  groups(
    asked: Asked,
    order: Order,
    keyOf: (ordinal: number) => number,
    from: Viewpoint,
  ): { first: number; count: number }[] {
    const groups: { first: number; count: number }[] = [];
    let key = NaN;
    for (const ordinal of this.ordered(asked, order, from)) {
      const own = keyOf(ordinal);
      const last = groups.at(-1);
      if (last && own === key) last.count++;
      else groups.push({ first: ordinal, count: 1 });
      key = own;
    }
    return groups;
  }

  /** How many photos of a result have each value of a facet: the most frequent first, at most `limit` of those whose label meets a test. */
  facet(
    query: Query,
    id: Exclude<FacetId, 'term'>,
    from: Viewpoint,
    limit: number,
    containing?: (label: string) => boolean,
  ): FacetCounts {
    const { knowsPrivate } = from;
    const counted = countValues(this.index, id, { met: this.met(query, from), knowsPrivate }, limit, containing);
    return { ...counted, missing: this.missing(query, id, from) };
  }

  /** What of a result lies in a view of the map, by cell; `id` is one of the photos of a cell. */
  onMap(asked: Asked, view: MapView, from: Viewpoint): Omit<OnMap, 'cells'> & { cells: (MapCell & { id: number })[] } {
    const { cells, ...others } = mapCells(this.result(asked, from), this.set(NAMED, from), this.spatialOrder(), view);
    return { ...others, cells: cells.map((cell) => ({ ...cell, id: this.index.ids.get(cell.first) })) };
  }

  /** All photos that have a position, in the order of where they are; made anew only when a position has changed. */
  private spatialOrder(): SpatialOrder {
    const { latitude, longitude } = this.index.position;
    const changes = latitude.changes + longitude.changes;
    if (this.spatial?.changes !== changes)
      this.spatial = {
        changes,
        order: new SpatialOrder({ latitudes: latitude.values, longitudes: longitude.values }),
      };
    return this.spatial.order;
  }

  /** Which of some photos are seen and meet a query, whether they are shown or not. */
  matching(query: Query, ids: readonly number[], from: Viewpoint): boolean[] {
    const set = this.set(query, from);
    const seen = this.seen(from);
    return ids.map((id) => {
      const ordinal = this.index.ordinalOf(id);
      return ordinal >= 0 && set.has(ordinal) && seen.has(ordinal);
    });
  }

  /** How many photos of a result say each text of a criterion: the most frequent of those that meet a test. */
  texts(
    query: Query,
    criterion: TextId,
    from: Viewpoint,
    limit: number,
    containing?: (label: string) => boolean,
  ): Counted {
    const { knowsPrivate } = from;
    return countTexts(this.index, criterion, { met: this.met(query, from), knowsPrivate }, limit, containing);
  }

  /** How many photos of a result have each of some terms or a narrower one, in the order of the ids. */
  countsOfTerms(
    query: Query,
    ids: readonly number[],
    from: Viewpoint,
  ): { counts: number[]; missing: number | undefined } {
    return {
      counts: countSomeTerms(this.index, ids, this.met(query, from), (id) => this.havingTerm(id)),
      missing: this.missing(query, 'term', from),
    };
  }

  /** The photos that have a term or a narrower one. */
  private havingTerm(id: number): PhotoSet {
    const { termIds, terms } = this.index;
    return this.cachedSet(`term ${id}`, () =>
      termIds.having(terms.within(id), this.index.empty()).keepOnly(this.index.live()),
    );
  }

  /** How many photos of a result overlap each stretch between bounds in seconds, and how many have no date. */
  overTime(query: Query, bounds: readonly number[], from: Viewpoint): { counts: number[]; missing: number } {
    return {
      counts: countByTime(this.index, bounds, this.met(query, from)),
      missing: this.missing(query, 'year', from) ?? 0,
    };
  }

  /** How many photos of a result may be of each page of the calendar between bounds in seconds, and the id of one of them; -1 for none. */
  calendar(query: Query, bounds: readonly number[], from: Viewpoint): { photos: number; id: number }[] {
    const pages = calendarPages(this.index, bounds, this.met(query, from));
    return pages.map(({ photos, best }) => ({ photos, id: best < 0 ? -1 : this.index.ids.get(best) }));
  }

  /** The events among the photos of a result that begin in a stretch of time, in seconds: those of at least `least` photos, the last `most`. */
  events(
    query: Query,
    stretch: Stretch,
    least: number,
    most: number,
    from: Viewpoint,
  ): (FoundEvent & { id: number })[] {
    this.forget();
    // All of a result hang together: what is a part of the calendar is told after.
    const all = this.eventLists.of(`${least} ${keyOf(query, from)}`, () =>
      foundEvents(this.index, this.ordered({ query }, { id: 'taken', descending: false }, from), least),
    );
    const found = all.filter(({ from: first }) => first >= stretch.from && first < stretch.until).slice(-most);
    return found.map((event) => ({ ...event, id: this.index.ids.get(event.best) }));
  }

  /** The first and the last second of the dated photos of a result; undefined when there are none. */
  timeSpan(query: Query, from: Viewpoint): { from: number; until: number } | undefined {
    return timeSpanOf(this.index, this.met(query, from));
  }

  /** What the photos of a choice have, those behind the leads of closed bundles too. */
  describe(asked: Asked, from: Viewpoint, mostKeywords: number): Description {
    return describePhotos(this.index, this.meant(asked, from), mostKeywords);
  }

  /** How many photos of a choice meet each of some queries, those behind the leads of closed bundles too, and the ids of the first. */
  within(
    asked: Asked,
    queries: readonly Query[],
    from: Viewpoint,
    most: number,
  ): { photos: number; first: number[] }[] {
    const chosen = this.meant(asked, from);
    return queries.map((query) => {
      const found = this.index.sets.intersection(chosen, this.set(query, from));
      const first = Array.from(found.ordinals().subarray(0, most), (ordinal) => this.index.ids.get(ordinal));
      return { photos: found.count(), first };
    });
  }

  /** The photos of a choice, those behind the leads of closed bundles too. */
  private meant(asked: Asked, from: Viewpoint): PhotoSet {
    const chosen = this.copy(this.result(asked, from));
    this.folded(from).forEach((ordinal) => {
      const lead = this.leadOf(ordinal);
      if (lead >= 0 && chosen.has(lead)) chosen.add(ordinal);
    });
    return chosen;
  }

  /** How many photos of a result lack what a facet counts: as many as the sheet shows for `query` and `none` together. */
  private missing(query: Query, id: FacetId, from: Viewpoint): number | undefined {
    const none = missingQuery(id);
    if (!none) return undefined;
    const { visible, hidden } = this.met(query, from);
    const lacking = this.set(none, from);
    if (hidden.isEmpty) return visible.countWith(lacking);
    const shown = this.index.sets.intersection(visible, lacking);
    return shown.count() + this.leadsOf(this.index.sets.intersection(hidden, lacking), shown).count();
  }

  /** The leads of photos behind leads, without those of a set. */
  private leadsOf(hidden: PhotoSet, without: PhotoSet): PhotoSet {
    const leads = this.index.empty();
    hidden.forEach((ordinal) => {
      const lead = this.leadOf(ordinal);
      if (lead >= 0 && !without.has(lead)) leads.add(lead);
    });
    return leads;
  }

  /** The photo that a folded one stands behind, -1 if it is not there. */
  private leadOf(ordinal: number): number {
    return this.index.ordinalOf(this.index.foldedInto.get(ordinal));
  }

  /** What the sheet shows: photos that are set aside only when asked for, and a closed bundle as its lead. */
  private result({ query, minus = [], plus = [] }: Asked, from: Viewpoint): PhotoSet {
    const byHand = minus.length > 0 || plus.length > 0;
    if (query && !byHand) return this.shownAs(query, from);
    const found = query ? this.copy(this.shownAs(query, from)) : this.index.empty();
    for (const id of minus) if (this.index.ordinalOf(id) >= 0) found.delete(this.index.ordinalOf(id));
    const seen = this.seen(from);
    for (const id of plus) {
      const ordinal = this.index.ordinalOf(id);
      if (ordinal >= 0 && seen.has(ordinal)) found.add(ordinal);
    }
    return found;
  }

  private shownAs(query: Query, from: Viewpoint): PhotoSet {
    const { visible, hidden } = this.met(query, from);
    if (hidden.isEmpty) return visible;
    return this.cachedSet(`result ${keyOf(query, from)}`, () =>
      this.copy(visible).addAll(this.leadsOf(hidden, visible)),
    );
  }

  private met(query: Query, from: Viewpoint): Met {
    this.forget();
    return this.mets.of(keyOf(query, from), () => {
      const all = this.set(query, from);
      const { alone, behind } = this.apart(asksForSetAside(query), from);
      const { sets } = this.index;
      const hidden = behind.isEmpty ? this.index.empty() : sets.intersection(all, behind);
      return { visible: sets.intersection(all, alone), hidden };
    });
  }

  /** The photos that exist for who asks. It is not to be altered. */
  private seen({ today, sight }: Pick<Viewpoint, 'today' | 'sight'>): PhotoSet {
    if (sight === null) return this.index.live();
    // What a right’s own query finds does not hang on who asks.
    const everybody = { today, sight: null, knowsPrivate: true };
    return this.cachedSet(`seen ${today} ${JSON.stringify(sight)}`, () =>
      seenSet(this.index, sight, (query) => this.set(query, everybody)),
    );
  }

  /** Seen photos that stand behind a seen lead: where the lead does not exist for who asks, a photo stands by itself. */
  private folded(from: Viewpoint): PhotoSet {
    if (from.sight === null || this.index.folded().isEmpty) return this.index.folded();
    const seen = this.seen(from);
    return this.cachedSet(`folded ${from.today} ${JSON.stringify(from.sight)}`, () =>
      this.index.sets.intersection(this.index.folded(), seen).keepIf((ordinal) => {
        const lead = this.leadOf(ordinal);
        return lead >= 0 && seen.has(lead);
      }),
    );
  }

  /** All seen photos, or those that are shown: which of them stand by themselves, and which behind the lead of a closed bundle. */
  private apart(all: boolean, from: Viewpoint): { alone: PhotoSet; behind: PhotoSet } {
    if (from.sight === null) return this.index.apart(all);
    const [seen, folded] = [this.seen(from), this.folded(from)];
    const within = all ? this.index.live() : this.index.shown();
    const name = `${all} ${from.today} ${JSON.stringify(from.sight)}`;
    return {
      alone: this.cachedSet(`alone ${name}`, () => this.index.sets.intersection(within, seen).takeOut(folded)),
      behind: this.cachedSet(`behind ${name}`, () => this.index.sets.intersection(within, folded)),
    };
  }

  /** The beginning of a result, at least `most` of it. */
  private firstOf(asked: Asked, order: Order, most: number, from: Viewpoint): Int32Array {
    const { id, descending } = order;
    const length = BEGINNINGS.find((each) => each >= most);
    if (id === 'hand' || length === undefined) return this.ordered(asked, order, from);
    return this.cachedOrder(asked, order, `first ${length}`, from, () =>
      this.orders.sequence(id, descending).first(this.result(asked, from), length),
    );
  }

  /** All of a result. */
  private ordered(asked: Asked, order: Order, from: Viewpoint): Int32Array {
    const { id, descending } = order;
    if (id === 'hand') {
      const places = (order.byHand ?? []).map((photo) => this.index.ordinalOf(photo));
      return byHand(this.result(asked, from), places);
    }
    return this.cachedOrder(asked, order, 'all', from, () =>
      this.orders.sequence(id, descending).all(this.result(asked, from)),
    );
  }

  private cachedOrder(
    asked: Asked,
    { id, descending }: Order,
    part: string,
    from: Viewpoint,
    list: () => Int32Array,
  ): Int32Array {
    this.forget();
    if (!asked.query || asked.minus?.length || asked.plus?.length) return list();
    return this.lists.of(`${part} ${id} ${descending} ${keyOf(asked.query, from)}`, list);
  }

  private copy(set: PhotoSet): PhotoSet {
    return this.index.sets.copy(set);
  }

  private set(query: Query, from: Viewpoint): PhotoSet {
    const everybody = { today: from.today, sight: null, knowsPrivate: true };
    const isLimited = from.sight !== null || !from.knowsPrivate;
    // What a query finds is found once for all, but for what hangs on what exists for who asks.
    const meet = (part: Query): PhotoSet => {
      const asker = isLimited && hangsOnWhoAsks(part) ? from : everybody;
      return this.cachedSet(`set ${keyOf(part, asker)}`, () =>
        asker.sight !== null && isDouble(part)
          ? this.index.doublesAmong(this.index.sets.intersection(this.index.shown(), this.seen(asker)))
          : matchingSet(this.index, part, asker, meet),
      );
    };
    return meet(query);
  }

  private cachedSet(key: string, find: () => PhotoSet): PhotoSet {
    this.forget();
    return this.sets.of(key, find);
  }

  /** What was found of an index that has changed since is no longer so. */
  private forget(): void {
    if (this.version === this.index.version) return;
    this.version = this.index.version;
    this.orders.refresh();
    for (const memory of [this.sets, this.lists, this.mets, this.eventLists]) memory.clear();
  }
}

function keyOf(query: Query, { today, sight, knowsPrivate }: Viewpoint): string {
  const who = sight === null && knowsPrivate ? '' : JSON.stringify([sight, knowsPrivate]);
  return `${today} ${who} ${JSON.stringify(query)}`;
}

/** Whether any condition of a query meets a test. */
function someCondition(query: Query, test: (condition: CriterionQuery) => boolean): boolean {
  if (query.kind === 'all' || query.kind === 'any') return query.of.some((part) => someCondition(part, test));
  if (query.kind === 'not') return someCondition(query.of, test);
  return query.kind === 'criterion' && test(query);
}

const isDouble = (query: Query) =>
  query.kind === 'criterion' && query.criterion === 'is' && /^double$/i.test(query.value);

/** Criteria, and values of has and missing, that tell of people. */
const OF_PEOPLE: ReadonlySet<string> = new Set(['people', ...PEOPLE_TEXTS]);

/** Whether the photos that meet a query hang on which photos and persons exist for who asks. */
function hangsOnWhoAsks(query: Query): boolean {
  return someCondition(
    query,
    (condition) =>
      isDouble(condition) || OF_PEOPLE.has(condition.criterion) || OF_PEOPLE.has(condition.value.toLowerCase()),
  );
}

/** Whether a query asks for photos in the trash or out of the catalogue. */
export function asksForSetAside(query: Query): boolean {
  return someCondition(query, ({ criterion, value }) => criterion === 'is' && /^(trashed|removed)$/i.test(value));
}
