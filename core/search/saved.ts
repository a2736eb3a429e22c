// Conditions that stand for others: `search:"To caption"` for what the saved search asks, `described:Prints` for what a rule of the
// team asks of photos that count as described, `like:12` for the photos that look like one.

import { parseQuery, queryText } from './language';
import { photosText } from '../lookalikes/asked';
import type { CriterionId } from '../query/criteria';
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
    const what = NAMED[part.criterion] ?? '';
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

/** What conditions name that stand for others. */
const NAMED: Partial<Record<CriterionId, string>> = { search: 'saved search', described: 'rule', like: 'photo' };

/** Whether a query names a saved search, or something else that is to be opened. */
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
  if (query.criterion === 'like') return likeName(query.value);
  return query.criterion === 'described' ? ruleName(query.value) : undefined;
}

/** The name by which photos are asked for that look like one. */
export function likeName(value: string): string {
  return `${LIKE}${value}`;
}

export function isLikeName(name: string): boolean {
  return name.startsWith(LIKE);
}

/** A name that is typed has no tab. */
const LIKE = 'like\t';

/** What is asked for by look-alikes in some queries and in all that these name, each once. */
export function likesReached(
  queries: readonly Query[],
  textOf: (name: string) => string | undefined,
): ReadonlySet<string> {
  const [likes, seen] = [new Set<string>(), new Set<string>()];
  const visit = (part: Query): void => {
    if (part.kind === 'all' || part.kind === 'any') return part.of.forEach(visit);
    if (part.kind === 'not') return visit(part.of);
    const name = nameIn(part);
    if (name === undefined || part.kind !== 'criterion' || seen.has(name)) return;
    seen.add(name);
    if (part.criterion === 'like') likes.add(part.value);
    else visit(parseQuery(textOf(name) ?? '').query);
  };
  queries.forEach(visit);
  return likes;
}

/** The text that stands for photos, the likest first. */
export function photosQueryText(ids: readonly number[]): string {
  return queryText(ids.length === 0 ? NOTHING : criterion('photos', photosText(ids)));
}

/** No taking-in has this number. As text it is still a condition that nothing meets. */
const NOTHING: Query = criterion('accession', '-1');
