// How queries name plans and their pins, and how they follow when these are called otherwise.

import type { Query } from '../query/query';
import { foldText } from '../text/words';

/** Names of plans and pins (`Hall`, `Hall/North wall`) that have become other ones, by what they were. */
export type Renamed = ReadonlyMap<string, string>;

/** A query whose plans and pins are named as they are now; the same object when nothing has to change. */
export function followPlans(query: Query, renamed: Renamed): Query {
  const folded = new Map([...renamed].map(([before, now]) => [foldText(before), now]));
  return follow(query, (name) => folded.get(foldText(name)));
}

function follow(query: Query, nowOf: (name: string) => string | undefined): Query {
  if (query.kind === 'all' || query.kind === 'any') {
    const of = query.of.map((part) => follow(part, nowOf));
    return of.every((part, i) => part === query.of[i]) ? query : { kind: query.kind, of };
  }
  if (query.kind === 'not') {
    const of = follow(query.of, nowOf);
    return of === query.of ? query : { kind: 'not', of };
  }
  if (query.kind !== 'criterion' || query.criterion !== 'plan') return query;
  const value = nowOf(query.value);
  return value === undefined ? query : { ...query, value };
}
