import fc from 'fast-check';
import { contains } from '../../timeplace/areas';
import { cellsOf, mapCells, MAX_CELLS, type MapView } from './mapCells';
import { PhotoSet } from './photoSet';
import { SpatialOrder } from './spatialOrder';

const view = (south: number, west: number, north: number, east: number, level: number): MapView => ({
  ...{ south, west, north, east },
  level,
});

function counted(points: readonly (readonly [latitude: number, longitude: number])[], asked: MapView) {
  const [photos, named] = [new PhotoSet(points.length + 1), new PhotoSet(points.length + 1)];
  points.forEach((_, ordinal) => {
    photos.add(ordinal);
    if (ordinal % 2 === 0) named.add(ordinal);
  });
  const columns = {
    latitudes: Float64Array.from(points, ([latitude]) => latitude),
    longitudes: Float64Array.from(points, ([, longitude]) => longitude),
  };
  return mapCells(photos, named, new SpatialOrder(columns), asked);
}

test('photos far apart are counted apart, those near one another together, with how many say a place', () => {
  const { photos, cells } = counted(
    [
      [54.1, 8.2],
      [54.11, 8.21],
      [54.12, 8.2],
      [10, -60],
    ],
    view(-80, -180, 80, 180, 6),
  );
  expect(photos).toBe(4);
  expect(cells.map(({ photos: count, named, first }) => `${count} ${named} ${first}`).sort()).toEqual([
    '1 0 3',
    '3 2 0',
  ]);
});

test('a view across the date line has what lies on both sides, in the middle of them', () => {
  const { cells } = counted(
    [
      [-17, 179.99],
      [-17, -179.99],
      [-17, 0],
    ],
    view(-20, 170, -10, -170, 8),
  );
  expect(cells).toHaveLength(1);
  expect(cells[0]?.photos).toBe(2);
  expect(Math.abs(cells[0]?.longitude ?? 0)).toBeCloseTo(180, 5);
});

test('photos without a position, and those at the poles, do no harm', () => {
  const { photos, cells } = counted(
    [
      [NaN, NaN],
      [90, 0],
      [-90, 0],
    ],
    view(-90, -180, 90, 180, 3),
  );
  expect(photos).toBe(2);
  expect(cells).toHaveLength(2);
});

test('a view beyond the sides of the projection has what lies there', () => {
  const beyond = (latitude: number): number =>
    counted([[latitude, 0]], { south: latitude, west: 0, north: latitude, east: 0, level: 0 }).photos;
  expect([85.052, 89.999, 90, -85.052, -90].map(beyond)).toEqual([1, 1, 1, 1, 1]);
});

test('a view of too many cells is refused', () => {
  const whole = view(-80, -180, 80, 180, 12);
  expect(cellsOf(whole).columns * cellsOf(whole).rows).toBeGreaterThan(MAX_CELLS);
  expect(() => counted([], whole)).toThrow(RangeError);
});

test('whatever the view, each photo in it is counted once and none besides', () => {
  // To a hundred metres: nobody measures places nearer to one another than numbers tell apart.
  const latitude = fc.integer({ min: -90_000, max: 90_000 }).map((thousandths) => thousandths / 1000);
  const longitude = fc.integer({ min: -180_000, max: 180_000 }).map((thousandths) => thousandths / 1000);
  fc.assert(
    fc.property(
      fc.array(fc.tuple(latitude, longitude), { maxLength: 60 }),
      fc.tuple(latitude, latitude),
      longitude,
      longitude,
      fc.integer({ min: 0, max: 7 }),
      (points, latitudes, west, east, level) => {
        const [south, north] = [Math.min(...latitudes), Math.max(...latitudes)];
        const { photos, extent, cells } = counted(points, { south, west, north, east, level });
        const box = { kind: 'box', south, west, north, east } as const;
        const inside = points.filter(([a, b]) => contains(box, { latitude: a, longitude: b }));
        expect(photos).toBe(inside.length);
        expect(cells.reduce((sum, cell) => sum + cell.photos, 0)).toBe(inside.length);
        expect(extent === null).toBe(inside.length === 0);
        for (const [a, b] of inside)
          expect(contains({ kind: 'box', ...(extent ?? box) }, { latitude: a, longitude: b })).toBe(true);
      },
    ),
  );
});

test('closer than photos are put in order each still has its own cell', () => {
  const near = fc.integer({ min: 0, max: 400 }).map((steps) => steps / 100_000);
  fc.assert(
    fc.property(
      fc.array(fc.tuple(near, near), { minLength: 1, maxLength: 40 }),
      fc.integer({ min: 15, max: 20 }),
      (points, level) => {
        const placed = points.map(([north, east]) => [54 + north, 8 + east] as const);
        const asked = view(54.001, 8.001, 54.003, 8.003, level);
        const { photos, cells } = counted(placed, asked);
        const inside = placed.filter(([a, b]) => a >= 54.001 && a <= 54.003 && b >= 8.001 && b <= 8.003);
        expect([photos, cells.reduce((sum, cell) => sum + cell.photos, 0)]).toEqual([inside.length, inside.length]);
        for (const { latitude, longitude } of cells)
          expect([latitude >= 54.001, latitude <= 54.0031, longitude >= 8.001, longitude <= 8.0031]).not.toContain(
            false,
          );
      },
    ),
  );
});
