// A page of the calendar as a condition of a query.

import { allOf, conjuncts, criterion, type Query } from '../query/query';
import { withoutFacet } from './facets';

/** Of photos that are known to be of one day. */
const OF_ONE_DAY = criterion('has', 'day');
/** Of photos whose time is known to the hour: those of which events are made. */
export const OF_ONE_HOUR = criterion('has', 'hour');

/** A query without what it says about time. */
export function withoutTime(query: Query): Query {
  const others = conjuncts(withoutFacet(query, 'year')).filter(
    (part) =>
      part.kind !== 'criterion' ||
      !(part.criterion === 'has' || part.criterion === 'missing') ||
      !['day', 'hour'].includes(part.value.toLowerCase()),
  );
  return allOf(others);
}

/** What a query finds of a year, a month or a day; of a day only what is known to be of it. */
export function ofPage(query: Query, name: string): Query {
  const isDay = name.length === 10;
  return allOf([withoutTime(query), criterion('taken', name), ...(isDay ? [OF_ONE_DAY] : [])]);
}

/** What a query finds from one time up to and with another, of photos whose hour is known. */
export function ofSpan(query: Query, from: string, to: string): Query {
  const span: Query = { kind: 'criterion', criterion: 'taken', operator: '..', value: from, to };
  return allOf([withoutTime(query), span, OF_ONE_HOUR]);
}
