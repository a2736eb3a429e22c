// Finding: counts, saved searches, and what a text being typed could mean.

import { CRITERIA } from '@stellin/core/search/criteria';
import { narrowText, parseQuery, queryText } from '@stellin/core/search/language';
import { criterion, type Query } from '@stellin/core/search/query';
import { foldText } from '@stellin/core/search/words';
import type { SavedSearch, Suggestion } from '@stellin/contract/search';
import type { Database, Transaction } from '../database/database';
import type { VocabularyIndex } from '../vocabulary/snapshot';
import * as store from './store';

export type Search = ReturnType<typeof searchService>;

const MAX_SUGGESTIONS = 12;

export function searchService(database: Database, vocabulary: VocabularyIndex) {
  return {
    count: (text: string) => store.countQuery(database, text),
    /** How many photos stand behind the leads of closed bundles that a query finds. */
    countFolded: (text: string) => store.countFolded(database, text),

    /** All saved searches with what they find now. */
    async list(): Promise<SavedSearch[]> {
      const searches = await store.listSearches(database);
      return Promise.all(
        searches.map(async ({ id, name, query, sort, note }) => ({
          id,
          name,
          query,
          sort,
          note,
          count: await store.countQuery(database, query),
        })),
      );
    },

    /** Records that saved searches ask otherwise, where a query becomes another one. */
    async rewrite(entryId: number, follow: Follow, tx: Transaction): Promise<void> {
      for (const search of await store.listSearches(database, tx)) {
        const query = rewritten(search.query, follow);
        if (query !== search.query) await store.recordSearch(database, entryId, search, { ...search, query }, tx);
      }
    },

    /** Which saved searches would ask otherwise, and how. */
    async rewritten(follow: Follow, tx: Transaction): Promise<{ name: string; before: string; after: string }[]> {
      const searches = await store.listSearches(database, tx);
      return searches.flatMap(({ name, query }) => {
        const after = rewritten(query, follow);
        return after === query ? [] : [{ name, before: query, after }];
      });
    },

    /** Fields, terms, folders and saved searches that begin like the text; counts of terms are within the present query. */
    async suggest(text: string, query: string): Promise<Suggestion[]> {
      const typed = text.trim();
      if (typed === '') return [];
      const [name, value] = typed.split(/:(.*)/s);
      const fields = value === undefined ? fieldSuggestions(typed) : valueSuggestions(name ?? '', value);
      const [terms, folders, searches] =
        value === undefined
          ? await Promise.all([termSuggestions(typed, query), folderSuggestions(typed), savedSuggestions(typed)])
          : [[], [], []];
      return [...terms, ...folders, ...searches, ...fields].slice(0, MAX_SUGGESTIONS);
    },
  };

  async function termSuggestions(typed: string, query: string): Promise<Suggestion[]> {
    const { finder, names, tree } = await vocabulary.current();
    return Promise.all(
      finder()
        .find(typed, 7)
        .map(async ({ termId }) => {
          const named = criterion('term', names().nameOf(termId));
          const path = tree.path(termId).map(({ label }) => label);
          return {
            kind: 'term' as const,
            label: path.pop() ?? '',
            detail: path.join(' › '),
            query: queryText(named),
            photos: await store.countQuery(database, narrowText(query, named)),
          };
        }),
    );
  }

  async function folderSuggestions(typed: string): Promise<Suggestion[]> {
    const folders = await store.suggestFolders(database, typed, 3);
    return folders.map(({ label, detail }) => ({
      kind: detail.includes('/') ? ('folder' as const) : ('drive' as const),
      label,
      detail: detail.includes('/') ? detail.slice(0, detail.lastIndexOf('/')).replaceAll('/', ' › ') : '',
      query: queryText(criterion('within', detail)),
      photos: null,
    }));
  }

  async function savedSuggestions(typed: string): Promise<Suggestion[]> {
    const searches = await store.listSearches(database);
    return searches
      .filter(({ name }) => foldText(name).startsWith(foldText(typed)))
      .slice(0, 3)
      .map(({ name, query }) => ({ kind: 'search' as const, label: name, detail: query, query, photos: null }));
  }
}

type Follow = (query: Query) => Query;

/** The text of a saved search as it is to be; the same text where nothing changes. */
function rewritten(text: string, follow: Follow): string {
  const { query, errors } = parseQuery(text);
  // What is not understood would be lost.
  if (errors.length > 0) return text;
  const after = follow(query);
  return after === query ? text : queryText(after);
}

function fieldSuggestions(typed: string): Suggestion[] {
  return CRITERIA.filter(({ id }) => id.startsWith(typed.toLowerCase()))
    .slice(0, 4)
    .map(({ id, help }) => ({ kind: 'field' as const, label: `${id}:`, detail: help, query: `${id}:`, photos: null }));
}

function valueSuggestions(name: string, value: string): Suggestion[] {
  const choices = CRITERIA.find(({ id }) => id === name.toLowerCase())?.choices ?? [];
  return choices
    .filter((choice) => choice.startsWith(value.toLowerCase()))
    .map((choice) => ({
      kind: 'value' as const,
      label: choice,
      detail: name,
      query: `${name}:${choice}`,
      photos: null,
    }));
}
