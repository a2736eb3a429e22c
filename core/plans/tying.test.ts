import fc from 'fast-check';
import { pinFor, reachOf, tiedBy, type Tied } from './tying';
import type { PinShape } from './pins';

const SIZE = { width: 800, height: 400 };
const CORNERS = [
  { x: 0, y: 0, latitude: 55.51, longitude: 3.5 },
  { x: 1, y: 1, latitude: 55.5, longitude: 3.52 },
];

function tied(ties = CORNERS): Tied {
  const found = tiedBy(ties, SIZE);
  if (!found) throw new Error('it is not tied');
  return found;
}

test('less than two different spots tie nothing', () => {
  expect(tiedBy([], SIZE)).toBeUndefined();
  expect(tiedBy(CORNERS.slice(0, 1), SIZE)).toBeUndefined();
  expect(
    tiedBy(
      [CORNERS[0], CORNERS[0]].flatMap((tie) => tie ?? []),
      SIZE,
    ),
  ).toBeUndefined();
});

test('every spot has a point, and every point leads back to its spot', () => {
  const part = fc.double({ min: 0, max: 1, noNaN: true });
  fc.assert(
    fc.property(part, part, (x, y) => {
      const { pointAt, spotAt } = tied();
      const back = spotAt(pointAt({ x, y }));
      expect(Math.hypot(back.x - x, back.y - y)).toBeLessThan(1e-9);
    }),
  );
  for (const { x, y, latitude, longitude } of CORNERS) {
    const point = tied().pointAt({ x, y });
    expect(Math.hypot(point.latitude - latitude, point.longitude - longitude)).toBeLessThan(1e-9);
  }
});

test('a photo belongs to the area that holds it, else to the nearest pin in reach', () => {
  const pin = (number: number, x: number, y: number, more: Partial<PinShape> = {}): PinShape => ({
    ...{ kind: 'point', number, x, y, corners: null, direction: null, label: '', note: '', layer: '' },
    ...more,
  });
  const corners = [
    { x: 0.7, y: 0.7 },
    { x: 1, y: 0.7 },
    { x: 0.85, y: 1 },
  ];
  const pins = [pin(1, 0.2, 0.2), pin(2, 0.22, 0.2), pin(3, 0.85, 0.8, { kind: 'area', corners })];
  const plan = { tied: tied(), size: SIZE };
  const at = (x: number, y: number) => pinFor(pins, plan.tied.pointAt({ x, y }), plan)?.number;
  expect([at(0.215, 0.2), at(0.85, 0.75), at(0.5, 0.5)]).toEqual([2, 3, undefined]);
});

test('the box of a plan holds all of it', () => {
  const { south, west, north, east } = reachOf(tied());
  for (const { latitude, longitude } of CORNERS) {
    expect(latitude > south && latitude < north).toBe(true);
    expect(longitude > west && longitude < east).toBe(true);
  }
  expect(tied().metresWide).toBeGreaterThan(1000);
});
