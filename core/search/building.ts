// The query as the builder shows it: groups of conditions that all hold, of which any holds, or none; and back.

import { criterionOf, type CriterionId } from '../query/criteria';
import { parseQuery, queryText } from './language';
import type { CriterionQuery, Operator, Query } from '../query/query';

export const GROUP_MODES = ['all', 'any', 'none'] as const;
export type GroupMode = (typeof GROUP_MODES)[number];

export interface BuiltGroup {
  kind: 'group';
  mode: GroupMode;
  of: Built[];
}

export interface BuiltCondition {
  kind: 'condition';
  /** Words and phrases are looked for in all texts. */
  of: CriterionId | 'words' | 'phrase';
  operator: Operator;
  value: string;
  /** The end of a range. */
  to: string;
  /** Whether it must not hold. */
  not: boolean;
}

export type Built = BuiltGroup | BuiltCondition;

/** The query as a group of conditions. */
export function builtOf(query: Query): BuiltGroup {
  const built = nodeOf(query);
  return built.kind === 'group' ? built : { kind: 'group', mode: 'all', of: [built] };
}

function nodeOf(query: Query): Built {
  switch (query.kind) {
    case 'everything':
      return { kind: 'group', mode: 'all', of: [] };
    case 'all':
    case 'any':
      return { kind: 'group', mode: query.kind, of: query.of.map(nodeOf) };
    case 'words':
    case 'phrase':
      return { kind: 'condition', of: query.kind, operator: '=', value: query.text, to: '', not: false };
    case 'criterion':
      return {
        kind: 'condition',
        of: query.criterion,
        operator: query.operator,
        value: query.value,
        to: query.to ?? '',
        not: false,
      };
    case 'not': {
      const inside = nodeOf(query.of);
      if (inside.kind === 'condition') return { ...inside, not: !inside.not };
      // "None of" several is "not any of" them; what is denied otherwise stands in a group of its own.
      return { kind: 'group', mode: 'none', of: inside.mode === 'any' ? inside.of : [inside] };
    }
  }
}

/** The query that a group of conditions asks. Conditions that are not complete are left out. */
export function queryOf(group: BuiltGroup): Query {
  const parts = group.of.flatMap((node) => {
    const query = node.kind === 'group' ? queryOf(node) : conditionQuery(node);
    return query === undefined || query.kind === 'everything' ? [] : [query];
  });
  const [only] = parts;
  if (only === undefined) return { kind: 'everything' };
  const joined: Query = parts.length === 1 ? only : { kind: group.mode === 'all' ? 'all' : 'any', of: parts };
  // Through its text the query takes the one form that text has.
  return parseQuery(queryText(group.mode === 'none' ? { kind: 'not', of: joined } : joined)).query;
}

/** What is wrong with a condition, in words; undefined when it can be asked or nothing is entered yet. */
export function problemOf(condition: BuiltCondition): string | undefined {
  if (condition.value.trim() === '') return undefined;
  return parseQuery(textOf(condition)).errors[0]?.message;
}

/** The operators that a condition may have. */
export function operatorsOf(of: BuiltCondition['of']): readonly Operator[] {
  const type = of === 'words' || of === 'phrase' ? undefined : criterionOf(of)?.type;
  return type === 'number' || type === 'date' ? ['=', '>', '>=', '<', '<=', '..'] : ['='];
}

function conditionQuery(condition: BuiltCondition): Query | undefined {
  if (condition.value.trim() === '') return undefined;
  const { query, errors } = parseQuery(textOf(condition));
  return errors.length > 0 ? undefined : query;
}

function textOf({ of, operator, value, to, not }: BuiltCondition): string {
  const condition: Query =
    of === 'words' || of === 'phrase'
      ? { kind: of, text: value.trim() }
      : ({
          kind: 'criterion',
          criterion: of,
          operator,
          value,
          ...(operator === '..' ? { to } : {}),
        } satisfies CriterionQuery);
  const text = queryText(condition);
  return not ? `not (${text})` : text;
}
