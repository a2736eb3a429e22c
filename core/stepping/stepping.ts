// Stepping from one part of the catalogue to its neighbour: folders beside a folder, days, months and events in their order.

import { allOf, conjuncts, criterion, type Query } from '../query/query';
import { parseQuery, queryText } from '../search/language';

/** What is stepped through, and which conditions of a query say where one is in it. */
export const STEPS = {
  folder: { label: 'folder', criteria: ['within', 'folder'] },
  day: { label: 'day', criteria: ['taken'] },
  month: { label: 'month', criteria: ['taken'] },
  event: { label: 'event', criteria: ['event'] },
} as const satisfies Record<string, { label: string; criteria: readonly string[] }>;
export type StepKind = keyof typeof STEPS;
export const STEP_KINDS = Object.keys(STEPS) as StepKind[];
export type Direction = 'next' | 'before';

const isOf = (kind: StepKind) => (part: Query) =>
  part.kind === 'criterion' && (STEPS[kind].criteria as readonly string[]).includes(part.criterion);

/** What a query asks besides where one is: it is kept when one steps on. */
export function restOf(query: string, kind: StepKind): Query[] {
  return conjuncts(parseQuery(query).query).filter((part) => !isOf(kind)(part));
}

/** A query with another place to be: what it asked besides stays. */
export function steppedTo(query: string, kind: StepKind, here: Query): string {
  return queryText(allOf([here, ...restOf(query, kind)]));
}

/** The folder a query asks for, as drive and path; undefined where it asks for none. */
export function folderAsked(query: string): { path: string; deep: boolean } | undefined {
  const part = conjuncts(parseQuery(query).query).find(isOf('folder'));
  return part?.kind === 'criterion' ? { path: part.value, deep: part.criterion === 'within' } : undefined;
}

/** The query of a folder, with all below it. */
export function folderQuery(drive: string, path: string): Query {
  return criterion('within', path === '' ? drive : `${drive}/${path}`);
}

/** What stands beside one in an order; undefined at its end. */
export function neighbour<Item>(items: readonly Item[], at: number, direction: Direction): Item | undefined {
  return at < 0 ? undefined : items[direction === 'next' ? at + 1 : at - 1];
}
