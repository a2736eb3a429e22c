import { parseQuery, queryText } from '../search/language';
import { areaOf, contains } from './areas';
import { withinBox } from './areaQuery';

const BOX = { south: 54.123456, west: -8.000001, north: 54.9, east: 9.123451 };

test('a query is narrowed to a box, which takes the place of another part of the map', () => {
  const narrowed = (text: string) => queryText(withinBox(parseQuery(text).query, BOX));
  const near = 'near:54.12345,-8.00001,54.9,9.12346';
  expect(narrowed('')).toBe(near);
  expect(narrowed('kite rating:>=3')).toBe(`kite rating:>=3 ${near}`);
  expect(narrowed('near:54,8,20km kite')).toBe(`kite ${near}`);
  expect(narrowed('(kite or near:54,8,20km)')).toBe(`(kite or near:54,8,20km) ${near}`);
});

test('what lies on the sides of the box is in it', () => {
  const query = withinBox({ kind: 'everything' }, BOX);
  const area = query.kind === 'criterion' ? areaOf(query.value) : undefined;
  if (!area) throw new Error('it is no area');
  for (const latitude of [BOX.south, BOX.north])
    for (const longitude of [BOX.west, BOX.east]) expect(contains(area, { latitude, longitude })).toBe(true);
});
