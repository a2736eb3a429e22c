// Queries that follow when a person is called otherwise.

import type { Query } from '../query/query';
import { foldText } from '../text/words';

/** The criteria that ask for persons by name. */
const CRITERIA = new Set<string>(['person', 'confirmed', 'suggested', 'personInImage']);

/** A query in which whoever was called `from` is called `to`; the same object when it does not ask for that name. */
export function followName(query: Query, from: string, to: string): Query {
  if (query.kind === 'all' || query.kind === 'any') {
    const of = query.of.map((part) => followName(part, from, to));
    return of.every((part, i) => part === query.of[i]) ? query : { kind: query.kind, of };
  }
  if (query.kind === 'not') {
    const of = followName(query.of, from, to);
    return of === query.of ? query : { kind: 'not', of };
  }
  if (query.kind !== 'criterion' || !CRITERIA.has(query.criterion)) return query;
  return foldText(query.value) === foldText(from) ? { ...query, value: to } : query;
}
