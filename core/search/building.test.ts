import fc from 'fast-check';
import { builtOf, operatorsOf, problemOf, queryOf, type BuiltCondition } from './building';
import { parseQuery, queryText } from './language';
import { anyQuery } from './testing';

test('what the builder makes of a query asks the same again', () => {
  fc.assert(
    fc.property(anyQuery, (query) => {
      const { query: read } = parseQuery(queryText(query));
      expect(queryText(queryOf(builtOf(read)))).toBe(queryText(read));
    }),
    { numRuns: 2000 },
  );
});

test('groups are all, any or none of their conditions', () => {
  expect(builtOf(parseQuery('not (beach or rating:5) kite').query)).toMatchObject({
    mode: 'all',
    of: [
      { kind: 'group', mode: 'none', of: [{ value: 'beach' }, { of: 'rating', value: '5' }] },
      { kind: 'condition', of: 'words', value: 'kite' },
    ],
  });
});

test('what is not complete is left out, and what is wrong is said', () => {
  const condition: BuiltCondition = { kind: 'condition', of: 'rating', operator: '>=', value: '', to: '', not: false };
  expect(queryText(queryOf({ kind: 'group', mode: 'any', of: [condition] }))).toBe('');
  expect(problemOf(condition)).toBeUndefined();
  expect(problemOf({ ...condition, value: 'many' })).toContain('takes a number');
  expect(problemOf({ ...condition, value: '3' })).toBeUndefined();
  expect(queryText(queryOf({ kind: 'group', mode: 'none', of: [{ ...condition, value: '3' }] }))).toBe(
    'not rating:>=3',
  );
});

test('only numbers and dates are compared', () => {
  expect(operatorsOf('taken')).toContain('..');
  expect(operatorsOf('term')).toEqual(['=']);
  expect(operatorsOf('words')).toEqual(['=']);
});
