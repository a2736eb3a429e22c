import { choiceOf, excludeValue, onlyValue, toggleValue, valueQuery, withoutFacet, type FacetId } from './facets';
import { parseQuery, queryText } from './language';
import type { Query } from '../query/query';

const change = (step: (query: Query, id: FacetId, value: Query) => Query, text: string, id: FacetId, value: string) =>
  queryText(step(parseQuery(text).query, id, valueQuery(id, value)));

test('a value narrows, a second one of the same facet widens, again takes it off', () => {
  expect(change(toggleValue, 'beach', 'camera', 'Halden M7')).toBe('beach camera:"Halden M7"');
  expect(change(toggleValue, 'beach camera:"Halden M7"', 'camera', 'Corvina')).toBe(
    'beach (camera:"Halden M7" or camera:Corvina)',
  );
  expect(change(toggleValue, 'beach (camera:a or camera:b)', 'camera', 'A')).toBe('beach camera:b');
  expect(change(toggleValue, 'rating:3', 'kind', 'tiff')).toBe('rating:3 kind:tiff');
});

test('a value is left out, and asked for alone', () => {
  expect(change(excludeValue, 'beach kind:tiff', 'kind', 'tiff')).toBe('beach not kind:tiff');
  expect(change(excludeValue, 'beach not kind:tiff', 'kind', 'tiff')).toBe('beach');
  expect(change(toggleValue, 'not kind:tiff', 'kind', 'tiff')).toBe('');
  expect(change(onlyValue, '(kind:tiff or kind:jpeg) not kind:png', 'kind', 'dng')).toBe('kind:dng');
});

test('only what the facet itself could have said is its choice', () => {
  const { query } = parseQuery(
    'kind:tiff (kind:jpeg or beach) not (kind:png or missing:terms) (rating:3 or rating:4) rating:>2',
  );
  expect(choiceOf(query, 'kind')).toMatchObject({ any: [{ value: 'tiff' }], none: [] });
  expect(queryText(withoutFacet(query, 'rating'))).toBe(
    'kind:tiff (kind:jpeg or beach) not (kind:png or missing:terms) rating:>2',
  );
});

test('stretches of time are a choice of years; photos without a value can be chosen as well', () => {
  const { query } = parseQuery('beach taken:2018..2019-06');
  expect(queryText(withoutFacet(query, 'year'))).toBe('beach');
  expect(queryText(withoutFacet(parseQuery('beach (term:Delta or missing:terms)').query, 'term'))).toBe('beach');
});
