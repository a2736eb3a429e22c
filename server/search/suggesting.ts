// What the text being typed in the query line could mean: terms, people, places, folders, cameras, saved searches, fields
// and their values, each with how many photos of the present result have it.

import { CRITERIA, criterionOf, type Criterion, type TextId } from '@stellin/core/query/criteria';
import { RELATIVE_DATES } from '@stellin/core/search/dates';
import type { FacetId } from '@stellin/core/search/facets';
import { queryText } from '@stellin/core/search/language';
import { allOf, criterion, type Query } from '@stellin/core/query/query';
import { ALL_RULES } from '@stellin/core/search/saved';
import { foldText, wordsOf } from '@stellin/core/text/words';
import type { Suggestion } from '@stellin/contract/search';
import { likeAsked, likeText } from '@stellin/core/lookalikes/asked';
import { STRICTNESS, type Strictness } from '@stellin/core/lookalikes/look';
import type { Database } from '../database/database';
import type { VocabularyIndex } from '../catalogue/vocabularySnapshot';
import { viewpointOf, type Viewer } from '../catalogue/viewer';
import type { FinderClient } from './finder';
import type { Opened } from './opened';
import * as store from './store';

const MAX_SUGGESTIONS = 14;
/** Facets whose values are suggested, and as what. */
const NAMED: readonly { facet: Exclude<FacetId, 'term'>; kind: Suggestion['kind'] }[] = [
  { facet: 'person', kind: 'person' },
  { facet: 'place', kind: 'place' },
  { facet: 'camera', kind: 'camera' },
  { facet: 'lens', kind: 'lens' },
];
/** Facets by the criterion whose values they count. */
const VALUES: Partial<Record<Criterion['id'], Exclude<FacetId, 'term'>>> = {
  person: 'person',
  place: 'place',
  camera: 'camera',
  lens: 'lens',
  kind: 'kind',
  mark: 'mark',
  rating: 'rating',
  drive: 'drive',
  folder: 'folder',
  within: 'folder',
  accession: 'accession',
  changedBy: 'changedBy',
  taken: 'year',
};

/** What they ask for is too long or too various to be offered, or no text of the photo itself. */
const TEXTS_OF_THEIR_OWN: ReadonlySet<string> = new Set(['name', 'caption', 'drive', 'path', 'changedBy', 'mark']);

type Counted = Omit<Suggestion, 'photos'> & { photos?: number | null };

interface SuggesterParts {
  database: Database;
  vocabulary: VocabularyIndex;
  finder: FinderClient;
  open: (text: string) => Promise<Opened>;
  /** For whom it is. */
  viewer: Viewer;
}

export function suggester({ database, vocabulary, finder, open, viewer }: SuggesterParts) {
  // One closure for what its functions share; each of them fits a screen.
  return async function suggest(text: string, present: string): Promise<Suggestion[]> {
    const typed = text.trimStart();
    if (typed.trim() === '') return [];
    const { query } = await open(present);
    const [name = '', value] = typed.split(/:(.*)/s);
    const asked = value === undefined ? undefined : criterionOf(name);
    const found = asked
      ? await valuesOf(asked, (value ?? '').replace(/^["<>=]+|"$/g, ''), query)
      : [
          ...(
            await Promise.all([terms(typed, 6), named(typed, query), places(typed), searches(typed), dossiers(typed)])
          ).flat(),
          ...fields(typed),
        ];
    return counted((await existing(found)).slice(0, MAX_SUGGESTIONS), query);
  };

  /** Those that exist for who asks: where some photos do not, what finds none of those that do. Names of fields are everybody’s. */
  async function existing(found: readonly Counted[]): Promise<Counted[]> {
    if (viewer.sight === null) return [...found];
    const queries = await Promise.all(found.map(async (suggestion) => (await open(suggestion.query)).query));
    const counts = await finder.ask('counts', { queries, from: viewpointOf(viewer) });
    return found.filter(({ kind }, i) => kind === 'field' || kind === 'term' || (counts[i]?.photos ?? 0) > 0);
  }

  /** Counts those that are not counted yet, all at once. */
  async function counted(found: readonly Counted[], query: Query): Promise<Suggestion[]> {
    const uncounted = found.filter(({ photos }) => photos === undefined);
    const queries = await Promise.all(
      uncounted.map(async (suggestion) => allOf([query, (await open(suggestion.query)).query])),
    );
    const counts = queries.length ? await finder.ask('counts', { queries, from: viewpointOf(viewer) }) : [];
    const byQuery = new Map(uncounted.map((suggestion, i) => [suggestion, counts[i]?.photos ?? 0]));
    return found.map((suggestion) => ({ ...suggestion, photos: suggestion.photos ?? byQuery.get(suggestion) ?? null }));
  }

  async function terms(typed: string, most: number): Promise<Counted[]> {
    const { finder: labels, names, tree } = await vocabulary.current();
    return labels()
      .find(typed, most)
      .map(({ termId }) => {
        const path = tree.path(termId).map(({ label }) => label);
        const label = path.pop() ?? '';
        return {
          kind: 'term',
          label,
          detail: path.join(' › '),
          query: queryText(criterion('term', names().nameOf(termId))),
        };
      });
  }

  /** People, places, cameras and lenses one of whose words begins so. */
  async function named(typed: string, query: Query): Promise<Counted[]> {
    const words = wordsOf(typed);
    const first = words[0];
    if (first === undefined) return [];
    const counts = await finder.ask('facets', {
      facets: NAMED.map(({ facet }) => ({ id: facet, query })),
      limit: 40,
      containing: foldText(typed.trim()),
      from: viewpointOf(viewer),
    });
    return NAMED.flatMap(({ facet, kind }, i) =>
      (counts[i]?.values ?? [])
        .filter(({ label }) => wordsOf(label).some((word) => word.startsWith(first)))
        .slice(0, 3)
        .map(({ value, label, photos }) => ({
          kind,
          label,
          detail: '',
          query: queryText(criterion(facet as TextId, value)),
          photos,
        })),
    );
  }

  async function places(typed: string): Promise<Counted[]> {
    const folders = await store.suggestFolders(database, typed.trim(), 3);
    return folders.map(({ label, detail }) => ({
      kind: detail.includes('/') ? 'folder' : 'drive',
      label,
      detail: detail.includes('/') ? detail.slice(0, detail.lastIndexOf('/')).replaceAll('/', ' › ') : '',
      query: queryText(criterion('within', detail)),
    }));
  }

  async function searches(typed: string): Promise<Counted[]> {
    const known = await store.listSearches(database);
    return known
      .filter(({ name }) => foldText(name).includes(foldText(typed.trim())))
      .slice(0, 3)
      .map(({ name, query }) => ({
        kind: 'search',
        label: name,
        detail: query,
        query: queryText(criterion('search', name)),
      }));
  }

  /** How alike photos are to look to the one whose number is typed. */
  function likenesses(typed: string): Counted[] {
    const photoId = likeAsked(typed)?.photoId;
    if (photoId === undefined) return [];
    return (Object.keys(STRICTNESS) as Strictness[]).map((strictness) => ({
      kind: 'value',
      label: `${photoId} ${strictness}`,
      detail: 'looks like',
      query: queryText(criterion('like', likeText({ photoId, strictness }))),
    }));
  }

  async function dossiers(typed: string): Promise<Counted[]> {
    const known = await store.suggestDossiers(database, foldText(typed.trim()), 3);
    return known.map(({ name, path }) => ({
      kind: 'dossier',
      label: name,
      detail: path.split('/').slice(0, -1).join(' › '),
      query: queryText(criterion('dossier', path)),
    }));
  }

  /** The values a criterion could have that begin with what is typed. */
  async function valuesOf(asked: Criterion, typed: string, query: Query): Promise<Counted[]> {
    const condition = (value: string) => queryText(criterion(asked.id, value));
    const value = (label: string, photos?: number): Counted => ({
      kind: 'value',
      label,
      detail: asked.label,
      query: condition(label),
      ...(photos === undefined ? {} : { photos }),
    });
    if (asked.type === 'term')
      return (await terms(typed, MAX_SUGGESTIONS)).map((term) =>
        asked.id === 'term' ? term : { ...term, query: term.query.replace(/^term:/, 'only:') },
      );
    if (asked.type === 'dossier') return dossiers(typed);
    if (asked.id === 'described')
      return [ALL_RULES, ...(await store.listRules(database)).map(({ name }) => name)]
        .filter((name) => foldText(name).includes(foldText(typed)))
        .map((name) => value(name));
    if (asked.id === 'like') return likenesses(typed);
    if (asked.type === 'search') return searches(typed);
    const facet = VALUES[asked.id];
    const dates =
      asked.type === 'date'
        ? RELATIVE_DATES.filter((date) => date.startsWith(foldText(typed))).map((date) => value(date))
        : [];
    if (facet) {
      const [counts] = await finder.ask('facets', {
        facets: [{ id: facet, query }],
        limit: MAX_SUGGESTIONS,
        containing: foldText(typed),
        from: viewpointOf(viewer),
      });
      return [
        ...dates.slice(0, 5),
        ...(counts?.values ?? []).map(({ value: each, photos }) =>
          value(each, facet === 'folder' && asked.id === 'within' ? undefined : photos),
        ),
      ];
    }
    if (asked.type === 'text' && !TEXTS_OF_THEIR_OWN.has(asked.id)) {
      const found = await finder.ask('texts', {
        query,
        criterion: asked.id as TextId,
        containing: foldText(typed),
        limit: MAX_SUGGESTIONS,
        from: viewpointOf(viewer),
      });
      return found.map(({ value: each, photos }) => value(each, photos));
    }
    const choices = (asked.choices ?? []).filter((choice) => foldText(choice).startsWith(foldText(typed)));
    return [...dates, ...choices.map((choice) => value(choice))];
  }
}

function fields(typed: string): Counted[] {
  const wanted = foldText(typed.trim());
  const byName = CRITERIA.filter(
    ({ id, label }) => foldText(id).startsWith(wanted) || foldText(label).startsWith(wanted),
  );
  return byName
    .slice(0, 4)
    .map(({ id, help }) => ({ kind: 'field', label: `${id}:`, detail: help, query: `${id}:`, photos: null }));
}
