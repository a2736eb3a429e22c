import { parseQuery } from '../search/language';
import { leftText, PHOTO_LISTS, ruleListId, searchListId, THING_LIST_IDS } from './lists';

test('every list asks for something that can be asked, and each has a name of its own', () => {
  expect(PHOTO_LISTS.flatMap(({ query }) => parseQuery(query).errors)).toEqual([]);
  const ids = [...PHOTO_LISTS.map(({ id }) => id), ...THING_LIST_IDS, ruleListId(1, 'caption'), searchListId(1)];
  expect(new Set(ids).size).toBe(ids.length);
});

test.each([
  ['missing:caption', 'caption', 'missing:caption not done:caption'],
  ['', 'search-2', 'not done:search-2'],
  ['a or b', 'search-3', '(a or b) not done:search-3'],
  ['missing:headline', ruleListId(3, 'a b'), 'missing:headline not done:"rule-3-a b"'],
])('what is left of %j', (query, list, left) => {
  expect(parseQuery(leftText(query, list))).toEqual(parseQuery(left));
  expect(parseQuery(left).errors).toEqual([]);
});
