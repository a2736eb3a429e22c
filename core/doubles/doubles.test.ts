import fc from 'fast-check';
import { bestToKeep, groupPairs, type Keepable } from './doubles';

test('pairs that share a photo are one group', () => {
  expect(
    groupPairs([
      [1, 2],
      [5, 6],
      [2, 3],
    ]),
  ).toEqual([
    [1, 2, 3],
    [5, 6],
  ]);
  expect(
    groupPairs([
      [3, 4],
      [1, 2],
      [4, 1],
    ]),
  ).toEqual([[1, 2, 3, 4]]);
  expect(groupPairs([])).toEqual([]);
});

test('both photos of every pair are in one group, and every photo in just one', () => {
  const id = fc.integer({ min: 1, max: 30 });
  fc.assert(
    fc.property(fc.array(fc.tuple(id, id)), (pairs) => {
      const groups = groupPairs(pairs);
      const of = (photo: number) => groups.filter((group) => group.includes(photo));
      return pairs.every(([a, b]) => of(a).length === 1 && of(a)[0] === of(b)[0]);
    }),
  );
});

const photo = (id: number, differs: Partial<Keepable> = {}): Keepable => ({
  id,
  missing: false,
  away: false,
  parts: { terms: false, caption: false },
  rating: 0,
  sizeBytes: 1000,
  width: 800,
  ...differs,
});

test.each<[string, Partial<Keepable>, Partial<Keepable>]>([
  ['is there', {}, { missing: true, width: 9000 }],
  ['is larger', { width: 1600 }, { parts: { terms: true, caption: true } }],
  ['is described', { parts: { terms: true, caption: false } }, { rating: 3 }],
  ['is rated', { rating: -1 }, {}],
  ['is attached', {}, { away: true, sizeBytes: 2000 }],
])('the one that %s is kept', (_, better, worse) => {
  expect(bestToKeep([photo(1, worse), photo(2, better)])?.id).toBe(2);
});

test('of equal ones the first is kept', () => {
  expect(bestToKeep([photo(3), photo(2), photo(7)])?.id).toBe(2);
  expect(bestToKeep([])).toBeUndefined();
});
