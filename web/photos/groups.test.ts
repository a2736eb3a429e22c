import fc from 'fast-check';
import { GROUP_LABELS, groupAt, groupsWithin, placeGroups, stepGroup } from './groups';

const groups = placeGroups([
  { key: '2019-06-15', count: 3 },
  { key: '2019-06-14', count: 1 },
  { key: '2019-05-02', count: 4 },
  { key: null, count: 2 },
]);

test('groups are placed one after the other, and positions found in them', () => {
  expect(groups.map(({ start }) => start)).toEqual([0, 3, 4, 8]);
  expect([0, 2, 3, 4, 7, 8, 9].map((position) => groupAt(groups, position))).toEqual([0, 0, 1, 2, 2, 3, 3]);
  expect(groupAt([], 3)).toBe(-1);
});

test('groups that begin in a stretch', () => {
  expect(groupsWithin(groups, 0, 4).map(({ start }) => start)).toEqual([0, 3]);
  expect(groupsWithin(groups, 4, 60).map(({ start }) => start)).toEqual([4, 8]);
  expect(groupsWithin(groups, 5, 8)).toEqual([]);
});

test('every group begins within just one stretch', () => {
  fc.assert(
    fc.property(fc.array(fc.integer({ min: 1, max: 200 }), { minLength: 1 }), (counts) => {
      const placed = placeGroups(counts.map((count, i) => ({ key: String(i), count })));
      const total = counts.reduce((sum, count) => sum + count, 0);
      const found = Array.from({ length: Math.ceil(total / 60) }, (_, block) =>
        groupsWithin(placed, block * 60, block * 60 + 60),
      );
      return (
        found
          .flat()
          .map(({ key }) => key)
          .join() === placed.map(({ key }) => key).join()
      );
    }),
  );
});

test.each([
  [1, 1, false, 3],
  [3, 1, false, 4],
  [9, 1, false, undefined],
  [2, -1, false, 0],
  [3, -1, false, 0],
  [0, -1, false, undefined],
  // By month.
  [1, 1, true, 4],
  [5, -1, true, 4],
  [4, -1, true, 0],
  [4, 1, true, 8],
] as const)('from %i by %i (far: %s) one comes to %s', (position, by, far, target) => {
  expect(stepGroup(groups, position, by, far)).toBe(target);
});

test('groups are called as people read them', () => {
  expect(GROUP_LABELS.day('2019-06-15')).toMatch(/^Saturday,? 15 June 2019$/);
  expect(GROUP_LABELS.day(null)).toBe('Without a date');
  expect(GROUP_LABELS.kind('jpeg')).toBe('JPEG');
  expect(GROUP_LABELS.rating('-1')).toBe('Rejected');
});
