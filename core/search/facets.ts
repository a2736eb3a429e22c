// Facets: the criteria whose values stand beside a result with their counts, and what choosing one does to the query.
// Values of one facet widen (any of them), different facets narrow (all of them).

import type { CriterionId } from '../query/criteria';
import { allOf, conjuncts, criterion, type CriterionQuery, type Query } from '../query/query';
import { foldText } from '../text/words';

export type FacetId =
  | 'term'
  | 'person'
  | 'place'
  | 'year'
  | 'camera'
  | 'lens'
  | 'kind'
  | 'codec'
  | 'fixity'
  | 'rating'
  | 'mark'
  | 'drive'
  | 'folder'
  | 'accession'
  | 'changedBy'
  | FieldFacetId
  | OwnFacetId;
/** What photos say of some fields, and on which site plans they are. */
export type FieldFacetId = 'creator' | 'event' | 'source' | 'copyrightNotice' | 'plan';
/** What own fields of one name say. */
export type OwnFacetId = `own:${string}`;

export interface Facet {
  id: FacetId;
  label: string;
  criterion: CriterionId;
  /** What `missing:` asks for; undefined where nothing can be missing. */
  missing?: string;
  /** Of an own field: what its values begin with. */
  prefix?: string;
}

export const FACETS: readonly Facet[] = [
  { id: 'term', label: 'Terms', criterion: 'term', missing: 'terms' },
  { id: 'person', label: 'People', criterion: 'person', missing: 'people' },
  { id: 'place', label: 'Places', criterion: 'place', missing: 'place' },
  { id: 'year', label: 'Years', criterion: 'taken', missing: 'date' },
  { id: 'camera', label: 'Cameras', criterion: 'camera', missing: 'camera' },
  { id: 'lens', label: 'Lenses', criterion: 'lens', missing: 'lens' },
  { id: 'kind', label: 'Kinds', criterion: 'kind' },
  { id: 'codec', label: 'Codecs', criterion: 'codec' },
  { id: 'rating', label: 'Ratings', criterion: 'rating' },
  { id: 'mark', label: 'Marks', criterion: 'mark', missing: 'mark' },
  { id: 'drive', label: 'Drives', criterion: 'drive' },
  { id: 'folder', label: 'Folders', criterion: 'folder' },
  { id: 'accession', label: 'Accessions', criterion: 'accession', missing: 'accession' },
  { id: 'fixity', label: 'Fixity', criterion: 'fixity' },
  { id: 'creator', label: 'Creators', criterion: 'creator', missing: 'creator' },
  { id: 'event', label: 'Events', criterion: 'event', missing: 'event' },
  { id: 'source', label: 'Sources', criterion: 'source', missing: 'source' },
  { id: 'copyrightNotice', label: 'Rights', criterion: 'copyrightNotice', missing: 'copyrightNotice' },
  { id: 'plan', label: 'Site plans', criterion: 'plan', missing: 'plan' },
  { id: 'changedBy', label: 'Described by', criterion: 'changedBy', missing: 'changedBy' },
];

const byId = new Map(FACETS.map((facet) => [facet.id, facet]));

/** The facet of an own field of a project, by its name. */
export function ownFacet(name: string): Facet {
  return { id: `own:${name}`, label: name, criterion: 'own', prefix: `${name}: ` };
}

export function facetOf(id: FacetId): Facet {
  const facet = byId.get(id) ?? (isOwnFacet(id) ? ownFacet(id.slice('own:'.length)) : undefined);
  if (!facet) throw new Error(`there is no facet ${id}`);
  return facet;
}

export function isOwnFacet(id: string): id is OwnFacetId {
  return id.startsWith('own:') && id.length > 'own:'.length;
}

/** The choice of a facet in a query: values that are asked for, and that are left out. */
export interface FacetChoice {
  any: CriterionQuery[];
  none: CriterionQuery[];
}

/** What is chosen of a facet. */
export function choiceOf(query: Query, id: FacetId): FacetChoice {
  const facet = facetOf(id);
  const own = conjuncts(query).filter((part) => belongs(part, facet));
  return {
    any: own.flatMap((part) =>
      part.kind === 'any' ? (part.of as CriterionQuery[]) : part.kind === 'criterion' ? [part] : [],
    ),
    none: own.flatMap((part) => (part.kind === 'not' ? [part.of as CriterionQuery] : [])),
  };
}

/** The query without what is chosen of a facet. */
export function withoutFacet(query: Query, id: FacetId): Query {
  const facet = facetOf(id);
  return allOf(conjuncts(query).filter((part) => !belongs(part, facet)));
}

/** Asks for a value of a facet as well as for those chosen before, or no longer if it was chosen. */
export function toggleValue(query: Query, id: FacetId, value: Query): Query {
  const { any, none } = choiceOf(query, id);
  const chosen = any.some((part) => same(part, value));
  const others = none.filter((part) => !same(part, value));
  return chosen || others.length < none.length
    ? withChoice(query, id, { any: any.filter((part) => !same(part, value)), none: others })
    : withChoice(query, id, { any: [...any, value as CriterionQuery], none });
}

/** Leaves a value out, or no longer. */
export function excludeValue(query: Query, id: FacetId, value: Query): Query {
  const { any, none } = choiceOf(query, id);
  const excluded = none.some((part) => same(part, value));
  return withChoice(query, id, {
    any: any.filter((part) => !same(part, value)),
    none: excluded ? none.filter((part) => !same(part, value)) : [...none, value as CriterionQuery],
  });
}

/** Asks for this value of the facet alone. */
export function onlyValue(query: Query, id: FacetId, value: Query): Query {
  return withChoice(query, id, { any: [value as CriterionQuery], none: [] });
}

/** The condition for a value of a facet, as counts name it. */
export function valueQuery(id: FacetId, value: string): CriterionQuery {
  const { criterion: asked, prefix = '' } = facetOf(id);
  return criterion(asked, prefix + value);
}

/** The condition for photos that have none. */
export function missingQuery(id: FacetId): CriterionQuery | undefined {
  const { missing } = facetOf(id);
  return missing === undefined ? undefined : criterion('missing', missing);
}

function withChoice(query: Query, id: FacetId, { any, none }: FacetChoice): Query {
  const [first] = any;
  const wanted: Query[] = any.length > 1 ? [{ kind: 'any', of: any }] : first ? [first] : [];
  return allOf([withoutFacet(query, id), ...wanted, ...none.map((of): Query => ({ kind: 'not', of }))]);
}

/** Whether a part of the query is a choice of the facet: one value, any of several, or all but one. */
function belongs(part: Query, facet: Facet): boolean {
  const isValue = (query: Query) =>
    query.kind === 'criterion' &&
    // Years are chosen on the time ruler as well, as stretches of any length.
    ((query.criterion === facet.criterion &&
      (query.operator === '=' || facet.id === 'year') &&
      foldText(query.value).startsWith(foldText(facet.prefix ?? ''))) ||
      (query.criterion === 'missing' && query.value.toLowerCase() === facet.missing?.toLowerCase()));
  if (part.kind === 'any') return part.of.every(isValue);
  return isValue(part.kind === 'not' ? part.of : part);
}

function same(a: Query, b: Query): boolean {
  return (
    a.kind === 'criterion' &&
    b.kind === 'criterion' &&
    a.criterion === b.criterion &&
    a.operator === b.operator &&
    foldText(a.value) === foldText(b.value)
  );
}
