// The tokens of the query line and the query they make.

import { parseQuery, queryText } from '@stellin/core/search/language';

/** The query of some tokens: parts that must all hold; one that is an "or" keeps its brackets. */
export function joined(tokens: readonly string[]): string {
  const texts = tokens.map((token) => {
    const { query } = parseQuery(token);
    return query.kind === 'any' ? `(${queryText(query)})` : token;
  });
  return queryText(parseQuery(texts.join(' ')).query);
}

/** The tokens with one replaced; without it where the text is empty. */
export function replaced(tokens: readonly string[], place: number, text: string): string[] {
  const before = tokens.slice(0, place);
  return [...before, ...(text.trim() === '' ? [] : [text.trim()]), ...tokens.slice(place + 1)];
}
