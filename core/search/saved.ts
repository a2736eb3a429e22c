// Saved searches inside queries: `search:"To caption"` stands for what the saved search asks, and `described:Prints` for what
// a rule of the team asks of photos that count as described.

import { parseQuery } from './language';
import { criterion, type Query } from '../query/query';
import { foldText } from '../text/words';

export interface OpenedQuery {
  query: Query;
  /** Names that no saved search has, and circles, in words. */
  problems: string[];
}

const MAX_PARTS = 5000;

/**
 * The query with what each named saved search asks in its place. `textOf` gives the text of a saved search by its folded
 * name. A name that is unknown or would lead back to itself finds nothing.
 */
export function openSearches(query: Query, textOf: (name: string) => string | undefined): OpenedQuery {
  const problems: string[] = [];
  let parts = 0;
  const open = (part: Query, within: readonly string[]): Query => {
    if (++parts > MAX_PARTS) {
      if (parts === MAX_PARTS + 1) problems.push(`the saved searches in it ask for more than ${MAX_PARTS} conditions`);
      return NOTHING;
    }
    if (part.kind === 'all' || part.kind === 'any')
      return { kind: part.kind, of: part.of.map((each) => open(each, within)) };
    if (part.kind === 'not') return { kind: 'not', of: open(part.of, within) };
    const name = nameIn(part);
    if (name === undefined || part.kind !== 'criterion') return part;
    const what = part.criterion === 'search' ? 'saved search' : 'rule';
    if (within.includes(name)) {
      problems.push(`the ${what} “${part.value}” would ask for itself`);
      return NOTHING;
    }
    const text = textOf(name);
    if (text === undefined) {
      problems.push(`there is no ${what} “${part.value}”`);
      return NOTHING;
    }
    return open(parseQuery(text).query, [...within, name]);
  };
  return { query: asksSearch(query) ? open(query, []) : query, problems };
}

/** Whether a query names a saved search. */
export function asksSearch(query: Query): boolean {
  if (query.kind === 'all' || query.kind === 'any') return query.of.some(asksSearch);
  if (query.kind === 'not') return asksSearch(query.of);
  return nameIn(query) !== undefined;
}

/** The name by which the text of a rule is asked for; that of a saved search is its folded name itself. */
export function ruleName(rule: string): string {
  return `described ${foldText(rule)}`;
}

/** The rule that stands for all rules together. */
export const ALL_RULES = 'all';

/** What photos that count as described by some rules meet, as text: none that a rule is about lacks what it requires. */
export function describedText(rules: readonly { query: string; requires: readonly string[] }[]): string {
  return rules
    .map(({ query, requires }) => {
      const lacking = `(${requires.map((part) => `missing:${part}`).join(' or ')})`;
      return `not (${query.trim() === '' ? lacking : `(${query}) ${lacking}`})`;
    })
    .join(' ');
}

/** The name under which the text that a condition stands for is asked for; undefined for conditions that say by themselves what they ask. */
export function nameIn(query: Query): string | undefined {
  if (query.kind !== 'criterion') return undefined;
  if (query.criterion === 'search') return foldText(query.value);
  return query.criterion === 'described' ? ruleName(query.value) : undefined;
}

/** No taking-in has this number. As text it is still a condition that nothing meets. */
const NOTHING: Query = criterion('accession', '-1');
