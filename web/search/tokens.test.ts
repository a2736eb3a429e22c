import fc from 'fast-check';
import { parseQuery, queryText } from '@stellin/core/search/language';
import { conjuncts } from '@stellin/core/query/query';
import { anyQuery } from '@stellin/core/search/testing';
import { joined, replaced } from './tokens';

const tokensOf = (text: string) => conjuncts(parseQuery(text).query).map(queryText);

test('all tokens must hold; one that is an “or” keeps its brackets', () => {
  expect(joined(['kite', 'rating:>=3'])).toBe('kite rating:>=3');
  expect(joined(['term:Delta or term:Rokkaku', 'beach'])).toBe('(term:Delta or term:Rokkaku) beach');
  expect(joined(['not is:away'])).toBe('not is:away');
  expect(joined([])).toBe('');
});

test('a query cut into its tokens and joined again is the same query', () => {
  fc.assert(
    fc.property(anyQuery, (query) => {
      const text = queryText(query);
      expect(joined(tokensOf(text))).toBe(joined([text]));
    }),
  );
});

test('a token is replaced in its place, or goes when nothing is left of it', () => {
  const tokens = ['kite', 'beach', 'rating:5'];
  expect(replaced(tokens, 1, ' dunes ')).toEqual(['kite', 'dunes', 'rating:5']);
  expect(replaced(tokens, 0, '  ')).toEqual(['beach', 'rating:5']);
  expect(replaced(tokens, 3, 'is:away')).toEqual([...tokens, 'is:away']);
  expect(tokens).toEqual(['kite', 'beach', 'rating:5']);
});
