import { boxOf, levelOf, viewOf, withinWorld } from './view';

test('cells are about as wide as a disc, whatever the zoom', () => {
  expect([0, 2, 5, 10].map(levelOf)).toEqual([2, 4, 7, 12]);
  expect(levelOf(40)).toBe(24);
});

test('what reaches beyond the date line is told so, and the whole world once', () => {
  expect(boxOf([170, -20, 190, 10])).toEqual({ west: 170, south: -20, east: -170, north: 10 });
  expect(boxOf([-400, -89, 400, 89])).toEqual({ west: -180, south: -85.05, east: 180, north: 85.05 });
  expect(viewOf([3, 55, 4, 56], 8)).toEqual({ west: 3, south: 55, east: 4, north: 56, level: 10 });
});

test.each([
  [190, -170],
  [-190, 170],
  [180, 180],
  [-180, -180],
  [540, 180],
  [3.5, 3.5],
])('longitude %d is %d', (longitude, said) => expect(withinWorld(longitude)).toBe(said));
