// Finding: results and their counts, saved searches, and what a text being typed could mean. Answers come from the finder
// index; saved searches that a query names are opened before it is asked.

import { parseQuery, queryText, type QueryError } from '@stellin/core/search/language';
import { conjuncts, criterion, allOf, type Query } from '@stellin/core/query/query';
import { likeAsked, photosAsked, type LikeAsked } from '@stellin/core/lookalikes/asked';
import {
  ALL_RULES,
  asksSearch,
  describedText,
  likeName,
  likesReached,
  openSearches,
  photosQueryText,
  ruleName,
} from '@stellin/core/search/saved';
import { secondsOf } from '@stellin/core/search/photo';
import { freeName } from '@stellin/core/text/freeName';
import { foldText } from '@stellin/core/text/words';
import type { MapView } from '@stellin/core/search/index/mapCells';
import type { Order } from '@stellin/core/search/index/finder';
import { sortOrder, type Sort } from '@stellin/core/search/sorts';
import type { Selection } from '@stellin/contract/photos';
import { MAX_SEARCH_NAME, type SavedSearch, type SearchDefinition } from '@stellin/contract/search';
import type { Database, Transaction } from '../database/database';
import { StellinError } from '../errors';
import type { VocabularyIndex } from '../catalogue/vocabularySnapshot';
import type { SettledSelection } from '../catalogue/selection';
import { PROGRAM, seesOnlyParts, viewpointOf, type Viewer } from '../catalogue/viewer';
import { explainer } from './explaining';
import { calendarReader } from './calendar';
import { facetCounter } from './facets';
import type { FinderClient } from './finder';
import * as store from './store';
import type { Opened } from './opened';
import { suggester } from './suggesting';
import { recordObject } from '../ledger/recordStore';

export type Search = ReturnType<typeof searchService>;

const MAX_GROUPS = 50_000;
const MAX_KEYWORDS = 30;

interface SearchParts {
  database: Database;
  vocabulary: VocabularyIndex;
  finder: FinderClient;
  /** The photos that look like one, the likest first; undefined where it does not exist for somebody. */
  like: (asked: LikeAsked, viewer: Viewer) => Promise<number[] | undefined>;
}

export function searchService(parts: SearchParts) {
  const { database } = parts;
  const seenBy = (viewer: Viewer) => finding(parts, viewer);
  const all = seenBy(PROGRAM);
  return {
    /** What exists for somebody, and nothing else. */
    seenBy,
    /** All there is: what the program itself looks for. */
    all,

    /** The definitions of the saved searches that exist for somebody. */
    definitions: async (viewer: Viewer): Promise<SearchDefinition[]> =>
      (await seenSearches(parts, viewer)).map(definitionOf),

    /** What a saved search asks, with those in it opened; undefined where there is none. */
    async queryOf(searchId: number): Promise<Query | undefined> {
      const found = (await store.listSearches(database)).find(({ id }) => id === searchId);
      return found && (await all.open(asked(found))).query;
    },

    remember: (accountId: number, query: string, sort: Sort) => store.rememberQuery(database, accountId, query, sort),
    recent: (accountId: number) => store.recentQueries(database, accountId),

    /** Records that saved searches ask otherwise, where a query becomes another one. */
    async rewrite(entryId: number, follow: Follow, tx: Transaction): Promise<void> {
      for (const search of await store.listSearches(database, tx)) {
        const after = { ...search, query: rewritten(search.query, follow), scope: rewritten(search.scope, follow) };
        if (after.query !== search.query || after.scope !== search.scope)
          await recordObject<store.SavedSearchRow>(database, entryId, 'saved_search', search, after, tx);
      }
    },

    /** Records that a dossier gets searches like those of another one: asked within it, and called by `call` or nearly so. */
    async recordLike(
      entryId: number,
      like: number,
      made: { dossierId: number; scope: string; accountId: number; call: (name: string) => string },
      tx: Transaction,
    ): Promise<void> {
      const all = await store.listSearches(database, tx);
      const taken = new Set(all.map(({ name }) => foldText(name)));
      for (const { id: _, ...search } of all) {
        if (search.dossier_id !== like) continue;
        const name = freeName(made.call(search.name), (wanted) => taken.has(foldText(wanted)), MAX_SEARCH_NAME);
        taken.add(foldText(name));
        const copy = { ...search, name, scope: made.scope, created_by: made.accountId, dossier_id: made.dossierId };
        await recordObject<store.SavedSearchRow>(database, entryId, 'saved_search', null, copy, tx);
      }
    },

    /** Records that the searches of a dossier belong to none any more; they stay. */
    async recordFreed(entryId: number, dossierId: number, tx: Transaction): Promise<void> {
      for (const search of await store.listSearches(database, tx))
        if (search.dossier_id === dossierId)
          await recordObject<store.SavedSearchRow>(
            database,
            entryId,
            'saved_search',
            search,
            { ...search, dossier_id: null },
            tx,
          );
    },

    /** Which saved searches would ask otherwise, and how. */
    async rewritten(follow: Follow, tx: Transaction): Promise<{ name: string; before: string; after: string }[]> {
      const searches = await store.listSearches(database, tx);
      return searches.flatMap((search) => {
        const before = asked(search);
        const after = rewritten(before, follow);
        return after === before ? [] : [{ name: search.name, before, after }];
      });
    },
  };
}

/** Finding what exists for somebody. */
function finding(parts: SearchParts, viewer: Viewer) {
  // One closure for what its functions share; each of them fits a screen.
  const { database, vocabulary, finder } = parts;
  /** The text that a condition of a query stands for, by its name; of what does not exist for who asks there is none. */
  const textsFor = async (query: Query) => textsBy(parts, viewer, await seenSearches(parts, viewer), [query]);

  async function open(text: string): Promise<Opened> {
    const { query, errors } = parseQuery(text);
    if (!asksSearch(query)) return { query, errors };
    const opened = openSearches(query, await textsFor(query));
    return {
      query: opened.query,
      errors: [...errors, ...opened.problems.map((message) => ({ at: 0, length: text.length, message }))],
    };
  }

  async function orderOf(query: Query, sort: Sort): Promise<Order> {
    const order = sortOrder(sort).order;
    if (sort === 'likeness') return { ...order, byHand: likestFirst(query) };
    return sort === 'hand' ? { ...order, byHand: await orderByHand(query) } : order;
  }

  /** The photos that a query names, in its order: what looks like a photo stands so in it, opened. */
  function likestFirst(query: Query): number[] {
    const named = conjuncts(query).find((part) => part.kind === 'criterion' && part.criterion === 'photos');
    return named?.kind === 'criterion' ? (photosAsked(named.value) ?? []) : [];
  }

  /** The photos of the dossier that a query asks for, in the order made by hand. */
  async function orderByHand(query: Query): Promise<number[]> {
    const dossier = conjuncts(query).find((part) => part.kind === 'criterion' && part.criterion === 'dossier');
    return dossier?.kind === 'criterion' ? store.photosByHand(database, dossier) : [];
  }

  async function askedOf({ query, minus, plus }: Selection) {
    return { query: query === null ? null : (await open(query)).query, minus, plus };
  }

  const { facets, ruler } = facetCounter({ vocabulary, finder, open, viewer });
  return {
    open,
    facets,
    ruler,
    ...calendarReader({ finder, open, viewer }),
    suggest: suggester({ database, vocabulary, finder, open, viewer }),
    why: explainer({ database, finder, open, textsFor, viewer }),

    /** How many photos the sheet shows for a query. */
    count: async (text: string): Promise<number> => {
      const { query } = await open(text);
      return (await finder.ask('counts', { queries: [query], from: viewpointOf(viewer) }))[0]?.photos ?? 0;
    },

    /** How many photos the sheet shows for each of some queries. */
    async counts(texts: readonly string[]): Promise<number[]> {
      const opened = await Promise.all(texts.map(open));
      const counts = await finder.ask('counts', {
        queries: opened.map(({ query }) => query),
        from: viewpointOf(viewer),
      });
      return counts.map(({ photos }) => photos);
    },

    /** How many photos the sheet shows for an opened query narrowed by each of some parts, in which nothing is to be opened. */
    countParts: (query: Query, parts: readonly Query[]): Promise<number[]> =>
      finder.ask('countParts', { query, parts: [...parts], from: viewpointOf(viewer) }),

    /** How many photos of an opened query lie in each stretch between bounds of time (`YYYY-MM-DDTHH:MM:SS`, ascending). */
    async overTime(query: Query, bounds: readonly string[]): Promise<number[]> {
      if (bounds.length < 2) return [];
      const { counts } = await finder.ask('overTime', {
        query,
        bounds: bounds.map(secondsOf),
        from: viewpointOf(viewer),
      });
      return counts;
    },

    /** The number of photos a query finds and of those behind the leads of closed bundles, and what of its text was not understood. */
    async counted(text: string): Promise<{ count: number; folded: number; errors: QueryError[] }> {
      const { query, errors } = await open(text);
      const [counts] = await finder.ask('counts', { queries: [query], from: viewpointOf(viewer) });
      return { count: counts?.photos ?? 0, folded: counts?.folded ?? 0, errors };
    },

    /** The ids of a page of what a query finds. */
    async page(text: string, sort: Sort, offset: number, limit: number): Promise<number[]> {
      const { query } = await open(text);
      const order = await orderOf(query, sort);
      return finder.ask('page', { asked: { query }, order, offset, limit, from: viewpointOf(viewer) });
    },

    /** Whether the team has rules of what counts as described. */
    hasRules: async (): Promise<boolean> => (await store.listRules(database)).length > 0,

    /** Whether each of some photos counts as described by the team's rules; null where there are none. */
    async described(ids: readonly number[]): Promise<boolean[] | null> {
      if (ids.length === 0 || (await store.listRules(database)).length === 0) return null;
      const { query } = await open(queryText(criterion('described', ALL_RULES)));
      return finder.ask('matching', { query, ids: [...ids], from: viewpointOf(viewer) });
    },

    /** The ids of the first photos of a selection; those of closed bundles stand behind their lead. */
    async ofSelection(selection: Selection, sort: Sort, limit: number): Promise<number[]> {
      const asked = await askedOf(selection);
      const order = await orderOf(asked.query ?? { kind: 'everything' }, sort);
      return finder.ask('page', { asked, order, offset: 0, limit, from: viewpointOf(viewer) });
    },

    async position(id: number, text: string, sort: Sort): Promise<number | null> {
      const { query } = await open(text);
      const order = await orderOf(query, sort);
      return (await finder.ask('position', { id, asked: { query }, order, from: viewpointOf(viewer) })) ?? null;
    },

    /** The groups of a result in its order; none for orders without. */
    async groups(text: string, sort: Sort): Promise<{ key: string | null; count: number }[]> {
      const by = sortOrder(sort).groupBy;
      if (!by) return [];
      const { query } = await open(text);
      const groups = await finder.ask('groups', {
        asked: { query },
        order: sortOrder(sort).order,
        by,
        from: viewpointOf(viewer),
      });
      return groups.length > MAX_GROUPS ? [] : groups;
    },

    /** What of a selection lies in a view of the map, by cell. */
    async onMap(selection: Selection, view: MapView) {
      return finder.ask('onMap', { asked: await askedOf(selection), view, from: viewpointOf(viewer) });
    },

    /** About how many photos a selection means: at least as many as it does. */
    async countSelection({ query, plus }: Selection): Promise<number> {
      if (query === null) return plus.length;
      const opened = await open(query);
      const [found] = await finder.ask('counts', { queries: [opened.query], from: viewpointOf(viewer) });
      return (found?.photos ?? 0) + (found?.folded ?? 0) + plus.length;
    },

    /** What the photos of a selection have, those behind the leads of closed bundles too. */
    async describe(selection: Selection) {
      return finder.ask('describe', {
        asked: await askedOf(selection),
        mostKeywords: MAX_KEYWORDS,
        from: viewpointOf(viewer),
      });
    },

    /** How many photos of a selection meet each of some queries, and the ids of the first `most`. */
    async within(selection: Selection, texts: readonly string[], most: number) {
      const opened = await Promise.all(texts.map(open));
      const queries = opened.map(({ query }) => query);
      return finder.ask('within', { asked: await askedOf(selection), queries, most, from: viewpointOf(viewer) });
    },

    /** A selection whose query says by itself what it means, of what exists for who asks. Refuses one that names saved searches which can’t be opened. */
    async settled(selection: Selection): Promise<SettledSelection> {
      const { query } = parseQuery(selection.query ?? '');
      const { sight, knowsPrivate } = viewer;
      const seen = sight === null && knowsPrivate ? {} : { by: { sight, knowsPrivate } };
      if (!asksSearch(query)) return { ...selection, ...seen };
      const opened = openSearches(query, await textsFor(query));
      const [problem] = opened.problems;
      if (problem) throw new StellinError('badRequest', { problem });
      return { ...selection, query: queryText(opened.query), ...seen };
    },

    /** The saved searches that are kept on Holdings, and what they ask. */
    async kept(): Promise<{ id: number; name: string; note: string; asks: string }[]> {
      const searches = (await seenSearches(parts, viewer)).filter(({ pinned }) => pinned);
      return searches.map((search) => ({ id: search.id, name: search.name, note: search.note, asks: asked(search) }));
    },

    /** The saved searches with what they find now. */
    async list(): Promise<SavedSearch[]> {
      const searches = await seenSearches(parts, viewer);
      const read = searches.map((search) => ({ search, ...parseQuery(asked(search)) }));
      const queries = read.map(({ query }) => query);
      const textOf = await textsBy(parts, viewer, searches, queries);
      const opened = read.map(({ search, query, errors }) => {
        const { query: whole, problems } = openSearches(query, textOf);
        return { search, query: whole, problems: [...errors.map(({ message }) => message), ...problems] };
      });
      const counts = await finder.ask('counts', {
        queries: opened.map(({ query }) => query),
        from: viewpointOf(viewer),
      });
      return opened.map(({ search, problems }, i) => ({
        ...definitionOf(search),
        id: search.id,
        dossierId: search.dossier_id,
        asks: asked(search),
        problems,
        count: counts[i]?.photos ?? 0,
      }));
    },
  };
}

/**
 * Saved searches that exist for somebody: who sees only parts of the catalogue has their own, those that their rights name, and those of their projects;
 * for others one that finds nothing but what does not exist for them does not either.
 */
async function seenSearches(parts: SearchParts, viewer: Viewer): Promise<store.SavedSearchRow[]> {
  const { database, finder } = parts;
  const searches = await store.listSearches(database);
  if (viewer.sight === null) return searches;
  const named = new Set(viewer.sight.map(({ scope }) => (scope.kind === 'search' ? scope.searchId : 0)));
  const dossiers = new Set(viewer.sight.map(({ scope }) => (scope.kind === 'dossier' ? scope.dossierId : 0)));
  const isGiven = ({ id, created_by: maker, dossier_id: dossier }: store.SavedSearchRow) =>
    named.has(id) || maker === viewer.accountId || (dossier !== null && dossiers.has(dossier));
  if (seesOnlyParts(viewer)) return searches.filter(isGiven);
  const askedFor = searches.map((search) => parseQuery(asked(search)).query);
  const texts = await textsBy(parts, viewer, searches, askedFor);
  const queries = askedFor.map((query) => openSearches(query, texts).query);
  const [seen, all] = await Promise.all(
    [viewer, PROGRAM].map((who) => finder.ask('counts', { queries, from: viewpointOf(who) })),
  );
  return searches.filter((search, i) => isGiven(search) || seen?.[i]?.photos !== 0 || all?.[i]?.photos === 0);
}

/** The texts that conditions of some queries stand for, by their names: of saved searches, of the rules, of the look-alikes that are reached. */
async function textsBy(
  { database, like }: SearchParts,
  viewer: Viewer,
  searches: readonly store.SavedSearchRow[],
  queries: readonly Query[],
): Promise<(name: string) => string | undefined> {
  const rules = await store.listRules(database);
  const texts = new Map(searches.map((search) => [foldText(search.name), asked(search)]));
  for (const rule of rules) texts.set(ruleName(rule.name), describedText([rule]));
  texts.set(ruleName(ALL_RULES), describedText(rules));
  for (const value of likesReached(queries, (name) => texts.get(name))) {
    const likeness = likeAsked(value);
    const ids = likeness && (await like(likeness, viewer));
    if (ids) texts.set(likeName(value), photosQueryText(ids));
  }
  return (name) => texts.get(name);
}

type Follow = (query: Query) => Query;

/** Scope and query of a saved search together. */
export function asked({ scope, query }: { scope: string; query: string }): string {
  if (scope === '') return query;
  return queryText(allOf([parseQuery(scope).query, parseQuery(query).query]));
}

function definitionOf({
  name,
  query,
  sort,
  note,
  folder,
  pinned,
  scope,
  size,
}: store.SavedSearchRow): SearchDefinition {
  return { name, query, sort, note, folder, pinned, scope, size };
}

/** The text of a saved search as it is to be; the same text where nothing changes. */
function rewritten(text: string, follow: Follow): string {
  const { query, errors } = parseQuery(text);
  // What is not understood would be lost.
  if (errors.length > 0) return text;
  const after = follow(query);
  return after === query ? text : queryText(after);
}
