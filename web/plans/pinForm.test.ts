import type { PlanPin } from '@stellin/contract/plans';
import { areaOf, layersOf, movedBy, newPin, pointAt, viewFrom } from './pinForm';

const PIN: PlanPin = {
  ...{ id: 4, name: 'Door', query: '', photos: 0, cover: null, termLabel: null, placeName: null },
  ...{ kind: 'point', number: 7, x: 0.5, y: 0.5, corners: null, direction: null, label: 'Door', note: '' },
  ...{ colour: 'red', shape: 'square', layer: 'Walls', termId: null, placeId: null },
};

test('a new pin looks as the one before it, and has the next number', () => {
  expect(newPin([PIN], PIN, pointAt({ x: 0.1, y: 0.2 }))).toMatchObject({
    ...{ kind: 'point', number: 8, x: 0.1, y: 0.2, label: '', colour: 'red', shape: 'square', layer: 'Walls' },
  });
  expect(newPin([], undefined, pointAt({ x: 0, y: 0 }))).toMatchObject({ number: 1, colour: 'teal', layer: '' });
});

test('a view looks from one spot to another, as these lie on the picture', () => {
  const size = { width: 2000, height: 1000 };
  const looks = (x: number, y: number) => viewFrom({ x: 0.5, y: 0.5 }, { x, y }, size).direction;
  expect([looks(0.5, 0), looks(1, 0.5), looks(0.5, 1), looks(0, 0.5)]).toEqual([0, 90, 180, 270]);
  // Twice as wide as high: what is as many parts away to the right is farther.
  expect(looks(0.75, 0)).toBe(45);
  expect(looks(0.5, 0.5)).toBe(0);
});

test('an area moves with its outline, and nothing leaves the plan', () => {
  const corners = [
    { x: 0.6, y: 0.1 },
    { x: 0.9, y: 0.1 },
    { x: 0.9, y: 0.4 },
  ];
  const area = { ...PIN, ...areaOf(corners) };
  const moved = movedBy(area, { x: 0.5, y: -0.05 });
  expect(moved.corners?.map(({ x, y }) => [Number(x.toFixed(3)), Number(y.toFixed(3))])).toEqual([
    [0.7, 0.05],
    [1, 0.05],
    [1, 0.35],
  ]);
  expect(Number((moved.x - area.x).toFixed(3))).toBe(0.1);
  expect(movedBy(PIN, { x: -2, y: 3 })).toMatchObject({ x: 0, y: 1 });
});

test('layers by name, pins on none last', () => {
  expect(layersOf([PIN, { layer: '' }, { layer: 'Doors' }, { layer: 'Walls' }])).toEqual(['Doors', 'Walls', '']);
});
