// Facets and the time ruler: each counted over the result without its own choice in the query.

import { dateBounds } from '@stellin/core/search/evaluate';
import {
  choiceOf,
  missingQuery,
  valueQuery,
  withoutFacet,
  type FacetChoice,
  type FacetId,
} from '@stellin/core/search/facets';
import { parseQuery, queryText } from '@stellin/core/search/language';
import { secondsOf } from '@stellin/core/search/photo';
import { allOf, criterion, type CriterionQuery, type Query } from '@stellin/core/query/query';
import { stretchesOf, stretchText } from '@stellin/core/search/ruler';
import { foldText } from '@stellin/core/text/words';
import { compareLabels } from '@stellin/core/vocabulary/tree';
import type { FacetResult, FacetValue } from '@stellin/contract/search';
import type { Snapshot, VocabularyIndex } from '../catalogue/vocabularySnapshot';
import { today } from '../catalogue/clock';
import { viewpointOf, type Viewer } from '../catalogue/viewer';
import type { FinderClient } from './finder';
import type { Opened } from './opened';

export interface FacetsAsked {
  query: string;
  facets: FacetId[];
  limit: number;
  containing: string;
  under?: number | undefined;
}

interface CounterParts {
  vocabulary: VocabularyIndex;
  finder: FinderClient;
  open: (text: string) => Promise<Opened>;
  /** For whom they are counted. */
  viewer: Viewer;
}

export function facetCounter({ vocabulary, finder, open, viewer }: CounterParts) {
  // One closure for what its functions share; each of them fits a screen.
  /** The part of a query that a facet counts within. */
  const within = async (query: Query, id: FacetId): Promise<Query> =>
    (await open(queryText(withoutFacet(query, id)))).query;

  async function facets({ query: text, facets: ids, limit, containing, under }: FacetsAsked): Promise<FacetResult[]> {
    const { query } = parseQuery(text);
    const counted = ids.filter((id): id is Exclude<FacetId, 'term'> => id !== 'term');
    const asked = await Promise.all(counted.map(async (id) => ({ id, query: await within(query, id) })));
    const [counts, terms] = await Promise.all([
      asked.length
        ? finder.ask('facets', { facets: asked, limit, containing: foldText(containing), from: viewpointOf(viewer) })
        : [],
      ids.includes('term') ? termFacet(query, limit, containing, under) : undefined,
    ]);
    const results = await Promise.all(
      ids.map(async (id): Promise<FacetResult[]> => {
        if (id === 'term') return terms ? [terms] : [];
        const place = counted.indexOf(id);
        const [result, rest] = [counts[place], asked[place]?.query];
        if (!result || !rest) return [];
        const choice = choiceOf(query, id);
        const values = result.values.map(({ value, label, photos }) =>
          shown(choice, valueQuery(id, value), { label, detail: '', photos, termId: null, narrower: false }),
        );
        return [
          {
            id,
            values: await chosenFirst(rest, choice, values),
            distinct: result.distinct,
            missing: missingOf(id, choice, result.missing),
          },
        ];
      }),
    );
    return results.flat();
  }

  /** The values with the chosen ones first, those that are not among them with their counts too. */
  async function chosenFirst(rest: Query, choice: FacetChoice, values: readonly FacetValue[]): Promise<FacetValue[]> {
    const absent = absentOf(choice, values);
    const queries = absent.map(({ part }) => allOf([rest, part]));
    const counts = queries.length ? await finder.ask('counts', { queries, from: viewpointOf(viewer) }) : [];
    return [
      ...values.filter((value) => value.chosen),
      ...absent.map(({ part, as }, i) => ({
        label: part.value,
        detail: '',
        query: queryText(part),
        photos: counts[i]?.photos ?? 0,
        chosen: as,
        termId: null,
        narrower: false,
      })),
      ...values.filter((value) => !value.chosen),
    ];
  }

  /** Terms below one, or all with a text in their label, that photos of the result have with narrower ones. */
  async function termFacet(
    query: Query,
    limit: number,
    containing: string,
    under: number | undefined,
  ): Promise<FacetResult> {
    const snapshot = await vocabulary.current();
    const { tree } = snapshot;
    const wanted = foldText(containing);
    const candidates = wanted
      ? [...tree.all()].filter(({ label }) => foldText(label).includes(wanted))
      : tree.narrower(under ?? null);
    const rest = await within(query, 'term');
    const { counts, missing } = await finder.ask('terms', {
      query: rest,
      ids: candidates.map(({ id }) => id),
      from: viewpointOf(viewer),
    });
    const photosById = new Map(candidates.map(({ id }, i) => [id, counts[i] ?? 0]));
    const photosOf = (id: number) => photosById.get(id) ?? 0;
    const choice = choiceOf(query, 'term');
    const listed = candidates.filter(({ id }) => photosOf(id) > 0);
    const value = ({ id, label }: { id: number; label: string }) =>
      shown(choice, criterion('term', snapshot.names().nameOf(id)), {
        label,
        detail: wanted ? pathText(snapshot, id) : '',
        photos: photosOf(id),
        termId: id,
        narrower: tree.narrower(id).length > 0,
      });
    const byCount = [...listed].sort((a, b) => photosOf(b.id) - photosOf(a.id) || compareLabels(a.label, b.label));
    const first = byCount.slice(0, limit).map(value);
    return {
      id: 'term',
      // Below a term only what is there is listed.
      values: await (under === undefined ? chosenFirst(rest, choice, first) : first),
      distinct: listed.length,
      missing: missingOf('term', choice, missing),
    };
  }

  async function ruler(text: string, from: string | undefined, to: string | undefined) {
    const { query } = parseQuery(text);
    const rest = await within(query, 'year');
    const span = await finder.ask('timeSpan', { query: rest, from: viewpointOf(viewer) });
    const chosen = chosenTime(query);
    if (!span) return { unit: 'year' as const, stretches: [], missing: 0, whole: null, chosen };
    const { unit, bounds } = stretchesOf(from ? secondsOf(from) : span.from, to ? secondsOf(to) : span.until);
    const { counts, missing } = await finder.ask('overTime', {
      query: rest,
      bounds: bounds.map(secondsOf),
      from: viewpointOf(viewer),
    });
    return {
      unit,
      stretches: counts.map((photos, i) => ({
        from: bounds[i] ?? '',
        to: bounds[i + 1] ?? '',
        query: queryText(criterion('taken', stretchText(unit, bounds[i] ?? ''))),
        photos,
      })),
      missing,
      whole: { from: timeText(span.from), to: timeText(span.until) },
      chosen,
    };
  }

  return { facets, ruler };
}

function chosenTime(query: Query): { from: string | null; to: string | null } | null {
  const [first] = choiceOf(query, 'year').any.filter(({ criterion: id }) => id === 'taken');
  const bounds = first && dateBounds(first, today());
  return bounds ? { from: bounds.from ?? null, to: bounds.to ?? null } : null;
}

function timeText(seconds: number): string {
  return new Date(seconds * 1000).toISOString().slice(0, 19);
}

function shown(
  { any, none }: FacetChoice,
  condition: CriterionQuery,
  value: Pick<FacetValue, 'label' | 'detail' | 'photos' | 'termId' | 'narrower'>,
): FacetValue {
  const isIn = (parts: readonly CriterionQuery[]) => parts.some((part) => sameCondition(part, condition));
  return { ...value, query: queryText(condition), chosen: isIn(any) ? 'any' : isIn(none) ? 'none' : null };
}

function sameCondition(a: CriterionQuery, b: CriterionQuery): boolean {
  return a.criterion === b.criterion && foldText(a.value) === foldText(b.value);
}

/** Chosen values that are not among those listed: they are shown as well, so that they can be given up. */
function absentOf(
  { any, none }: FacetChoice,
  values: readonly FacetValue[],
): { part: CriterionQuery; as: 'any' | 'none' }[] {
  const chosen = [
    ...any.map((part) => ({ part, as: 'any' as const })),
    ...none.map((part) => ({ part, as: 'none' as const })),
  ];
  return chosen.filter(
    ({ part }) =>
      part.criterion !== 'missing' && part.operator === '=' && !values.some(({ query }) => sameText(query, part)),
  );
}

function sameText(text: string, part: CriterionQuery): boolean {
  const { query } = parseQuery(text);
  return query.kind === 'criterion' && sameCondition(query, part);
}

function missingOf(id: FacetId, { any }: FacetChoice, photos: number | undefined): FacetResult['missing'] {
  const condition = missingQuery(id);
  if (!condition || photos === undefined) return null;
  return { query: queryText(condition), photos, chosen: any.some((part) => sameCondition(part, condition)) };
}

function pathText({ tree }: Snapshot, id: number): string {
  return tree
    .path(id)
    .slice(0, -1)
    .map(({ label }) => label)
    .join(' › ');
}
