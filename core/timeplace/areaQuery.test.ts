import { parseQuery, queryText } from '../search/language';
import { areaOf, contains } from './areas';
import { areasIn, withinBox, withinPolygon } from './areaQuery';

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

test('what a line encloses is asked for by its corners, and the map is told of any part that a query asks for', () => {
  const corners = [
    { latitude: 54.1234567, longitude: 8 },
    { latitude: 54.5, longitude: -8.25 },
    { latitude: 55, longitude: 9 },
  ];
  const query = withinPolygon(parseQuery('kite near:54,8,20km').query, corners);
  expect(queryText(query)).toBe('kite near:"54.12346,8 54.5,-8.25 55,9"');
  expect(areasIn(query)).toEqual([
    { kind: 'polygon', corners: [{ latitude: 54.12346, longitude: 8 }, ...corners.slice(1)] },
  ]);
  expect(areasIn(parseQuery('near:54,8,20km (near:1,2,3,4 or kite)').query)).toEqual([
    { kind: 'circle', centre: { latitude: 54, longitude: 8 }, metres: 20_000 },
  ]);
});
