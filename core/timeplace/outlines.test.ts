import fc from 'fast-check';
import { Borders } from './borders';
import { clippedLine, clippedRing, cutAtDateLine } from './outlines';

const box = { south: 0, west: 0, north: 10, east: 10 };
const square = (west: number, south: number, size: number) => [
  [west, south],
  [west + size, south],
  [west + size, south + size],
  [west, south + size],
  [west, south],
];

test('a ring is cut at the sides of the box; one apart from it is nothing, one within stays', () => {
  expect(clippedRing(square(20, 20, 5), box)).toEqual([]);
  const cut = clippedRing(square(8, 8, 5), box);
  expect(new Set(cut.map(String))).toEqual(new Set(['8,8', '10,8', '10,10', '8,10']));
  expect(new Set(clippedRing(square(2, 2, 5), box).map(String))).toEqual(new Set(square(2, 2, 5).map(String)));
});

test('a line falls apart where it leaves the box and comes back', () => {
  const line = [
    [-5, 5],
    [5, 5],
    [15, 5],
    [15, 2],
    [5, 2],
  ];
  expect(clippedLine(line, box)).toEqual([
    [
      [0, 5],
      [5, 5],
      [10, 5],
    ],
    [
      [10, 2],
      [5, 2],
    ],
  ]);
});

test('whatever the ring, its part in the box holds just what of the box the ring holds', () => {
  // As fine as maps are drawn, a metre or so, and off the grid of whole degrees: numbers that differ by less than they are
  // reckoned to say nothing about maps.
  const degrees = (offset: number) => fc.integer({ min: -2_000_000, max: 2_000_000 }).map((n) => n / 100_000 + offset);
  const corner = fc.tuple(degrees(3.7e-6), degrees(7.1e-6));
  const within = fc.double({ min: 0.1, max: 9.9, noNaN: true });
  fc.assert(
    fc.property(fc.array(corner, { minLength: 3, maxLength: 12 }), within, within, (corners, longitude, latitude) => {
      const [first = [0, 0]] = corners;
      const ring = [...corners, first];
      fc.pre(ring.every((to, i) => fromLine([longitude, latitude], ring[i - 1] ?? to, to) > 1e-9));
      const at = { latitude, longitude };
      expect(Borders.of([[clippedRing(ring, box)]]).find(at)).toBe(Borders.of([[ring]]).find(at));
    }),
  );
});

/** How far a point is from the line between two others, in degrees. */
function fromLine(
  [x = 0, y = 0]: readonly number[],
  [x1 = 0, y1 = 0]: readonly number[],
  [x2 = 0, y2 = 0]: readonly number[],
) {
  const [dx, dy] = [x2 - x1, y2 - y1];
  const part = Math.max(0, Math.min(1, ((x - x1) * dx + (y - y1) * dy) / (dx * dx + dy * dy || 1)));
  return Math.hypot(x - x1 - part * dx, y - y1 - part * dy);
}

test('a ring across the date line is cut in two; one around a pole and one apart from it stay', () => {
  const across = [
    [170, 10],
    [-170, 10],
    [-170, 20],
    [170, 20],
    [170, 10],
  ];
  const borders = Borders.of([cutAtDateLine(across)]);
  expect(cutAtDateLine(across)).toHaveLength(2);
  expect([175, -175, 0, 165, -165].map((longitude) => borders.find({ latitude: 15, longitude }))).toEqual([
    0, 0, -1, -1, -1,
  ]);
  const pole = [
    [-180, -90],
    [-180, -70],
    [0, -60],
    [180, -70],
    [180, -90],
    [-180, -90],
  ];
  expect(cutAtDateLine(pole)).toEqual([pole]);
  expect(cutAtDateLine(square(0, 0, 5))).toEqual([square(0, 0, 5)]);
});

test('a hole is not in the shape, and of shapes that overlap the last is meant', () => {
  const borders = Borders.of([[square(0, 0, 10), square(4, 4, 2)], [square(8, 8, 4)]]);
  expect(borders.find({ latitude: 1, longitude: 1 })).toBe(0);
  expect(borders.find({ latitude: 5, longitude: 5 })).toBe(-1);
  expect(borders.find({ latitude: 9, longitude: 9 })).toBe(1);
  expect(borders.find({ latitude: 50, longitude: 9 })).toBe(-1);
});
