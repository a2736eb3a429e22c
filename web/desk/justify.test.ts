import fc from 'fast-check';
import { justify, neighbour, type LayoutOptions } from './justify';

const OPTIONS: LayoutOptions = { width: 1000, rowHeight: 130, gap: 10, caption: 22, last: false };

test('every row of a full block fills the width, and every photo stands in it once', () => {
  fc.assert(
    fc.property(fc.array(fc.double({ min: 0.5, max: 3, noNaN: true }), { minLength: 20, maxLength: 60 }), (aspects) => {
      const { rows, height } = justify(aspects, OPTIONS);
      expect(rows.flat().map(({ index }) => index)).toEqual(aspects.map((_, index) => index));
      for (const row of rows) {
        const last = row.at(-1);
        expect((last?.left ?? 0) + (last?.width ?? 0)).toBeCloseTo(1000, 3);
        for (const photo of row) expect(photo.width / photo.height).toBeCloseTo(aspects[photo.index] ?? 0, 6);
      }
      expect(height).toBeGreaterThan(0);
    }),
  );
});

test('rows are near the wanted height', () => {
  const aspects = Array.from({ length: 60 }, (_, i) => [1.5, 0.667, 1.33, 1.78][i % 4] ?? 1);
  for (const row of justify(aspects, OPTIONS).rows) expect(row[0]?.height).toBeGreaterThan(100);
  for (const row of justify(aspects, OPTIONS).rows) expect(row[0]?.height).toBeLessThan(170);
});

test('the last row of a result is not stretched', () => {
  const { rows } = justify([1.5, 1.5], { ...OPTIONS, last: true });
  expect(rows).toHaveLength(1);
  expect(rows[0]?.[0]?.height).toBe(130);
});

test('moving up and down finds the photo nearest by its middle', () => {
  const layout = justify(
    Array.from({ length: 20 }, () => 1.5),
    OPTIONS,
  );
  const below = neighbour(layout, 2, 1);
  expect(below).toBeDefined();
  expect(neighbour(layout, below ?? 0, -1)).toBe(2);
  expect(neighbour(layout, 2, -1)).toBeUndefined();
});
