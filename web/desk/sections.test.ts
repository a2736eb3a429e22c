import fc from 'fast-check';
import { placeGroups } from '../photos/groups';
import { estimateBlock, HEADING_HEIGHT, layBlock } from './sections';

const OPTIONS = { width: 1000, rowHeight: 130, gap: 10, caption: 22, last: false };

test('every photo stands once, below the heading of its group, and nothing overlaps', () => {
  fc.assert(
    fc.property(
      fc.array(fc.integer({ min: 1, max: 40 }), { minLength: 1, maxLength: 8 }),
      fc.integer({ min: 0, max: 50 }),
      (counts, from) => {
        const groups = placeGroups(counts.map((count, i) => ({ key: String(i), count })));
        const total = counts.reduce((sum, count) => sum + count, 0);
        fc.pre(from < total);
        const aspects = Array.from({ length: Math.min(60, total - from) }, (_, i) => [1.5, 0.7, 1.3][i % 3] ?? 1);
        const { rows, headings, height } = layBlock(aspects, groups, from, OPTIONS);
        expect(rows.flat().map(({ index }) => index)).toEqual(aspects.map((_, i) => i));
        for (const { group, top } of headings) {
          const first = rows.flat().find(({ index }) => index === group.start - from);
          expect(first?.top).toBe(top + HEADING_HEIGHT);
          expect(first?.left).toBe(0);
        }
        const tops = rows.map((row) => row[0]?.top ?? 0);
        expect([...tops].sort((a, b) => a - b)).toEqual(tops);
        expect(height).toBeGreaterThan(tops.at(-1) ?? 0);
      },
    ),
  );
});

test('without groups a block is as it was', () => {
  const layout = layBlock([1.5, 1.5, 1.5], [], 0, { ...OPTIONS, last: true });
  expect(layout.headings).toEqual([]);
  expect(layout.rows).toHaveLength(1);
});

test('the estimate counts headings', () => {
  const groups = placeGroups([
    { key: 'a', count: 30 },
    { key: 'b', count: 30 },
  ]);
  expect(estimateBlock(60, groups, 0, OPTIONS)).toBeGreaterThanOrEqual(
    estimateBlock(60, [], 0, OPTIONS) + 2 * HEADING_HEIGHT,
  );
});
