// The typed query tree: what the text of the query line means. Text, tokens and SQL are all made from it.

import type { CriterionId } from './criteria';

export type Operator = '=' | '>' | '>=' | '<' | '<=' | '..';

export type Query =
  | { kind: 'everything' }
  | { kind: 'all'; of: Query[] }
  | { kind: 'any'; of: Query[] }
  | { kind: 'not'; of: Query }
  | { kind: 'words'; text: string }
  | { kind: 'phrase'; text: string }
  | {
      kind: 'criterion';
      criterion: CriterionId;
      operator: Operator;
      value: string;
      /** The end of a range. */ to?: string;
    };

export type CriterionQuery = Extract<Query, { kind: 'criterion' }>;

/** A criterion met by equality, the most common node. */
export function criterion(id: CriterionId, value: string): CriterionQuery {
  return { kind: 'criterion', criterion: id, operator: '=', value };
}

/** The parts that must all hold, nested `all` opened up. */
export function conjuncts(query: Query): Query[] {
  if (query.kind === 'everything') return [];
  return query.kind === 'all' ? query.of.flatMap(conjuncts) : [query];
}

/** The query that asks for all of these. */
export function allOf(queries: readonly Query[]): Query {
  const parts = queries.flatMap(conjuncts);
  if (parts.length === 0) return { kind: 'everything' };
  return parts.length === 1 && parts[0] ? parts[0] : { kind: 'all', of: parts };
}
