// Changing one part of a query tree, named by its path: the place in `of` at each level (always 0 below a `not`).

import type { Query } from '../query/query';

export type QueryPath = readonly number[];

/** The part at a path. */
function partAt(query: Query, path: QueryPath): Query | undefined {
  const [first, ...rest] = path;
  if (first === undefined) return query;
  const parts = partsOf(query);
  return parts[first] && partAt(parts[first], rest);
}

/** The query with another part at a path; without it where `part` is undefined. Groups left with one part become it. */
export function replaceAt(query: Query, path: QueryPath, part: Query | undefined): Query {
  const [first, ...rest] = path;
  if (first === undefined) return part ?? { kind: 'everything' };
  const parts = partsOf(query);
  const at = parts[first];
  if (!at) return query;
  return rebuilt(
    query,
    parts.map((each, i) => (i === first ? replaceAt(at, rest, part) : each)),
  );
}

/** The query with a part the other way round: denied, or no longer. */
export function turnAt(query: Query, path: QueryPath): Query {
  const part = partAt(query, path);
  if (!part) return query;
  return replaceAt(query, path, part.kind === 'not' ? part.of : { kind: 'not', of: part });
}

/** What a part consists of. */
export function partsOf(query: Query): readonly Query[] {
  if (query.kind === 'all' || query.kind === 'any') return query.of;
  return query.kind === 'not' ? [query.of] : [];
}

/** The same kind of group of other parts, in the form in which text gives it: no empty ones, none of one, none in its like. */
export function rebuilt(query: Query, parts: readonly Query[]): Query {
  const kept = parts.filter(({ kind }) => kind !== 'everything');
  if (query.kind === 'not') {
    const [of] = kept;
    return of === undefined ? { kind: 'everything' } : of.kind === 'not' ? of.of : { kind: 'not', of };
  }
  if (query.kind !== 'all' && query.kind !== 'any') return query;
  const flat = kept.flatMap((part) => (part.kind === query.kind ? part.of : [part]));
  const [only] = flat;
  if (only === undefined) return { kind: 'everything' };
  return flat.length === 1 ? only : { kind: query.kind, of: flat };
}
