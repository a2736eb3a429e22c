import { byHand, Sequence } from './ordering';
import { PhotoSet } from './photoSet';

const SIZE = 500;
/** Ordinals by a value that 430 of them have. */
const order = Int32Array.from({ length: SIZE }, (_, i) => (i * 37) % SIZE);
const valued = 430;
/** What was sorted in it before must not show. */
const room = new Int32Array(4000).fill(-1);
const ranks = new Int32Array(SIZE);
order.forEach((ordinal, place) => (ranks[ordinal] = place));

function setOf(ordinals: readonly number[]): PhotoSet {
  const set = new PhotoSet(SIZE);
  for (const ordinal of ordinals) set.add(ordinal);
  return set;
}

test.each([
  ['few', 13],
  ['many', 2],
  ['all', 1],
])('a result of %s stands in order, forwards and backwards, those without a value last', (_, every) => {
  const result = setOf(Array.from({ length: SIZE }, (_each, i) => i).filter((i) => i % every === 0));
  const forwards = Array.from(order).filter((ordinal) => result.has(ordinal));
  const isValued = (ordinal: number) => (ranks[ordinal] ?? 0) < valued;
  const backwards = [
    ...forwards.filter(isValued).reverse(),
    ...forwards.filter((ordinal) => !isValued(ordinal)).reverse(),
  ];
  const sequence = (descending: boolean) => new Sequence(order, () => ranks, descending, valued, room);
  expect(Array.from(sequence(false).all(result))).toEqual(forwards);
  expect(Array.from(sequence(true).all(result))).toEqual(backwards);
  expect(Array.from(sequence(true).first(result, 5)).slice(0, 5)).toEqual(backwards.slice(0, 5));
});

test('by hand: as given, what is not in the order last, nothing twice', () => {
  expect(Array.from(byHand(setOf([1, 5, 9, 30]), [9, 400, 1, 9, -1]))).toEqual([9, 1, 5, 30]);
});

test('the first of a large result are those that sorting all of it puts first', () => {
  // Many more than there are buckets.
  const size = 40_000;
  const many = Int32Array.from({ length: size }, (_, i) => (i * 9973) % size);
  const places = new Int32Array(size);
  many.forEach((ordinal, place) => (places[ordinal] = place));
  for (const [every, dated] of [
    [13, size],
    [13, 25_000],
    [97, 100],
    [4001, size],
  ] as const) {
    const result = new PhotoSet(size);
    for (let ordinal = every; ordinal < size; ordinal += every) result.add(ordinal);
    for (const descending of [false, true]) {
      const sequence = new Sequence(many, () => places, descending, dated, room);
      const all = Array.from(sequence.all(result));
      expect(new Set(all).size).toBe(result.count());
      for (const most of [1, 7, 200, 5000])
        expect(Array.from(sequence.first(result, most)).slice(0, most)).toEqual(all.slice(0, most));
    }
  }
});
