import fc from 'fast-check';
import { beside, ListColumn, MeasureColumn, ValueColumn } from './columns';
import { PhotoSet } from './photoSet';

const ordinalsOf = (set: { ordinals(): Int32Array }) => Array.from(set.ordinals());

test('a list column is what was last set, however often it was packed in between', () => {
  const column = new ListColumn();
  const naive = new Map<number, number[]>();
  let seed = 7;
  const next = (below: number) => (seed = (seed * 1103515245 + 12345) % 2147483648) % below;
  const set = (ordinal: number) => {
    const values = [...new Set(Array.from({ length: next(4) }, () => next(50)))];
    column.set(ordinal, values);
    naive.set(ordinal, values);
  };
  const having = (wanted: number[]) =>
    [...naive]
      .filter(([, values]) => values.some((value) => wanted.includes(value)))
      .map(([ordinal]) => ordinal)
      .sort((a, b) => a - b);
  const check = () => {
    const size = Math.max(...naive.keys()) + 1;
    for (const wanted of [[3], [3, 4, 49], [], [77]])
      expect(ordinalsOf(column.having(wanted, new PhotoSet(size)))).toEqual(having(wanted));
    expect(column.havingAny(new PhotoSet(size)).count()).toBe(
      [...naive.values()].filter((values) => values.length > 0).length,
    );
    for (const ordinal of [0, 1, 4999, size - 1]) expect(column.get(ordinal)).toEqual(naive.get(ordinal) ?? []);
  };
  for (let ordinal = 0; ordinal < 5000; ordinal++) set(ordinal);
  check();
  // Some again, some new, with gaps between: more than are kept apart.
  for (let i = 0; i < 9000; i++) set(next(7000));
  check();
  for (let i = 0; i < 3000; i++) set(6000 + next(3000));
  check();
});

test('who has a value is as it was last set, however many were set since somebody asked', () => {
  const column = new ValueColumn();
  const naive = new Map<number, number>();
  let seed = 3;
  const next = (below: number) => (seed = (seed * 48_271) % 0x7fffffff) % below;
  const set = (ordinal: number) => {
    const value = next(7) - 1;
    column.set(ordinal, value);
    naive.set(ordinal, value);
  };
  const check = () => {
    for (const wanted of [[0], [5, 2], [9], []]) {
      const meant = [...naive].flatMap(([ordinal, value]) => (wanted.includes(value) ? [ordinal] : []));
      expect(ordinalsOf(column.having(wanted, new PhotoSet(9000)))).toEqual(meant.sort((a, b) => a - b));
    }
  };
  for (let i = 0; i < 6000; i++) set(i);
  check();
  for (let i = 0; i < 900; i++) set(next(6000));
  check();
  // More than are kept apart, and new ones.
  for (let i = 0; i < 9000; i++) set(next(9000));
  check();
  const again = new ValueColumn();
  again.append(column.saved(9000), 0);
  expect(again.saved(9000)).toEqual(column.saved(9000));
});

test('values, and measures between two limits', () => {
  const kinds = new ValueColumn();
  const sizes = new MeasureColumn();
  [2, -1, 0, 2, 7].forEach((kind, ordinal) => kinds.set(ordinal, kind));
  [1, NaN, 2.5, 3, -4].forEach((value, ordinal) => sizes.set(ordinal, Number.isNaN(value) ? undefined : value));
  expect(ordinalsOf(kinds.having([2, 7, 9], new PhotoSet(5)))).toEqual([0, 3, 4]);
  expect(ordinalsOf(kinds.havingAny(new PhotoSet(5)))).toEqual([0, 2, 3, 4]);
  expect(ordinalsOf(kinds.having([], new PhotoSet(5)))).toEqual([]);
  expect(ordinalsOf(sizes.between(1, 3, new PhotoSet(5)))).toEqual([0, 2, 3]);
  expect(ordinalsOf(sizes.between(beside(1, true), beside(3, false), new PhotoSet(5)))).toEqual([2]);
  expect(ordinalsOf(sizes.known(new PhotoSet(5)))).toEqual([0, 2, 3, 4]);
});

test('the number beside another is the very next one', () => {
  fc.assert(
    fc.property(fc.double({ noNaN: true, noDefaultInfinity: true }), (value) => {
      const [above, below] = [beside(value, true), beside(value, false)];
      expect(above).toBeGreaterThan(value);
      expect(below).toBeLessThan(value);
      if (Number.isFinite(above))
        expect(beside(above, false) === value || Object.is(beside(above, false), -value)).toBe(true);
    }),
  );
});
