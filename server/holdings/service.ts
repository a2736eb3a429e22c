// Figures of the holdings, worked out by the finder index within what somebody looks at.

import {
  CHARTED,
  CHARTED_VALUES,
  decadeFigures,
  FACE_FIGURES,
  growthFigures,
  MEDIA_FIGURES,
  SIZE_FIGURES,
  withinAll,
  yearFigures,
  type Figure,
} from '@stellin/core/holdings/figures';
import { allOf, type Query } from '@stellin/core/query/query';
import { facetOf } from '@stellin/core/search/facets';
import { parseQuery } from '@stellin/core/search/language';
import type { FigureCount, Figures, SinceLast, WorkDone } from '@stellin/contract/holdings';
import { kindsFor } from '@stellin/contract/ledger';
import { today } from '../catalogue/clock';
import type { Person, Viewer } from '../catalogue/viewer';
import type { Database } from '../database/database';
import type { Search } from '../search/service';
import * as store from './store';

export type Holdings = ReturnType<typeof holdingService>;

/** What counts as described by the rules of the team. */
const DESCRIBED = 'described:all';
/** A visit goes on when somebody comes again within this time. */
const VISIT_HOURS = 4;
const CHANGED_BY = 5;
const DOUBLE: Figure = { label: 'Pictures that are there more than once', query: 'is:double' };

export function holdingService(database: Database, search: Search) {
  return {
    /** The figures of what a query finds for somebody. */
    async figures(viewer: Viewer, scope: string): Promise<Figures> {
      const seen = search.seenBy(viewer);
      const day = today();
      const within = withinAll(scope);
      const [facets, { chosen }, hasRules] = await Promise.all([
        seen.facets({ query: scope, facets: [...CHARTED], limit: CHARTED_VALUES, containing: '' }),
        seen.ruler(scope, undefined, undefined),
        seen.hasRules(),
      ]);
      const ruler = await seen.ruler(scope, chosen?.from ?? undefined, chosen?.to ?? undefined);
      const years = yearFigures(day);
      const decades = ruler.whole ? decadeFigures(ruler.whole.from, ruler.whole.to) : [];
      const cells = decades.flatMap((decade) =>
        years.map((year) => ({ label: `${decade.label}, ${year.label}`, query: `${decade.query} ${year.query}` })),
      );
      const [looked, described] = await Promise.all([
        seen.open(scope).then(({ query }) => query),
        hasRules ? seen.open(DESCRIBED).then(({ query }) => query) : undefined,
      ]);
      const bounds = [...ruler.stretches.map(({ from }) => from), ...ruler.stretches.slice(-1).map(({ to }) => to)];
      const both = described && allOf([looked, described]);
      const [counted, over, describedOver, [describedAll = 0]] = await Promise.all([
        counterOf(
          (parts) => seen.countParts(looked, parts),
          within,
        )({
          all: [{ label: '', query: '' }],
          undated: [{ label: 'Without a date', query: 'missing:date' }],
          media: MEDIA_FIGURES,
          sizes: SIZE_FIGURES,
          faces: FACE_FIGURES,
          doubles: [DOUBLE],
          growth: growthFigures(day),
          cells,
        }),
        seen.overTime(looked, bounds),
        both ? seen.overTime(both, bounds) : [],
        described ? seen.countParts(looked, [described]) : [],
      ]);
      return {
        photos: first(counted.all).photos,
        described: both ? describedAll : null,
        time: {
          unit: ruler.unit,
          bars: ruler.stretches.map(({ from, query }, i) => ({
            ...{ label: from, query: within(query), photos: over[i] ?? 0 },
            described: both ? (describedOver[i] ?? 0) : null,
          })),
          missing: first(counted.undated),
        },
        facets: facets.map(({ id, values, distinct, missing }) => ({
          id,
          label: facetOf(id).label,
          values: values.map(({ label, query, photos }) => ({ label, query: within(query), photos })),
          distinct,
          missing: missing && { label: 'without', query: within(missing.query), photos: missing.photos },
        })),
        ...{ media: counted.media, sizes: counted.sizes, faces: counted.faces, growth: counted.growth },
        doubles: first(counted.doubles),
        ages: {
          years: years.map(({ label }) => label),
          decades: decades.map(({ label }, i) => ({
            label,
            cells: counted.cells.slice(i * years.length, (i + 1) * years.length),
          })),
        },
      };
    },

    /** What came in and was changed since somebody was here before; they are here from now on. */
    async sinceLast(person: Person): Promise<SinceLast> {
      const day = await store.noteVisit(database, person.accountId, VISIT_HOURS);
      const none = { label: '', query: '', photos: 0 };
      if (day === null) return { day, cameIn: none, changed: none, by: [] };
      const seen = search.seenBy(person);
      const [came, changed] = [`added:>=${day}`, `changed:>=${day}`];
      const [counts, [facet]] = await Promise.all([
        seen.counts([came, changed]),
        seen.facets({ query: changed, facets: ['changedBy'], limit: CHANGED_BY, containing: '' }),
      ]);
      const within = withinAll(changed);
      return {
        day,
        cameIn: { label: 'came in', query: came, photos: counts[0] ?? 0 },
        changed: { label: 'changed', query: changed, photos: counts[1] ?? 0 },
        by: (facet?.values ?? []).map(({ label, query, photos }) => ({ label, query: within(query), photos })),
      };
    },

    /** What was described since a day, by week and who. */
    work: (since: string): Promise<WorkDone[]> => store.workSince(database, since, kindsFor('describe')),
  };
}

/** Counts some lists of figures within a scope, all at once. The figures name no saved searches: nothing in them is to be opened. */
function counterOf(countParts: (parts: readonly Query[]) => Promise<number[]>, within: (query: string) => string) {
  return async <Name extends string>(
    lists: Readonly<Record<Name, readonly Figure[]>>,
  ): Promise<Record<Name, FigureCount[]>> => {
    const names = Object.keys(lists) as Name[];
    const all = names.flatMap((name) => lists[name]);
    const found = await countParts(all.map(({ query }) => parseQuery(query).query));
    let at = 0;
    return Object.fromEntries(
      names.map((name) => [
        name,
        lists[name].map(({ label, query }) => ({ label, query: within(query), photos: found[at++] ?? 0 })),
      ]),
    ) as Record<Name, FigureCount[]>;
  };
}

function first(figures: readonly FigureCount[]): FigureCount {
  return figures[0] ?? { label: '', query: '', photos: 0 };
}
