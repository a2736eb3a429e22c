import { PhotoSet } from './photoSet';
import { ResultCache, OrdinalLists, SetStorage } from './cache';

function setOf(...ordinals: number[]): PhotoSet {
  const set = new PhotoSet(100);
  for (const ordinal of ordinals) set.add(ordinal);
  return set;
}

const ordinalsOf = (set: PhotoSet) => Array.from(set.ordinals());

test('what was asked for longest ago is forgotten first, and told', () => {
  const forgotten: string[] = [];
  const memory = new ResultCache<string>(2, undefined, (value) => forgotten.push(value));
  for (const key of ['a', 'b', 'a', 'c']) memory.of(key, () => key.toUpperCase());
  expect(forgotten).toEqual(['B']);
  expect(memory.of('a', () => 'again')).toBe('A');
  memory.clear();
  expect(forgotten).toEqual(['B', 'C', 'A']);
  expect(memory.of('a', () => 'again')).toBe('again');
});

function filled(set: PhotoSet, ...ordinals: number[]): PhotoSet {
  for (const ordinal of ordinals) set.add(ordinal);
  return set;
}

test('a set that was given up stays as it is until the next question; then its memory is used again', () => {
  const storage = new SetStorage();
  const memory = new ResultCache<PhotoSet>(
    1,
    (set) => storage.keep(set),
    (set) => storage.giveUp(set),
  );
  const made = (...ordinals: number[]) => filled(storage.empty(100), ...ordinals);
  const first = memory.of('first', () => made(1, 2));
  const second = memory.of('second', () => made(3));
  const third = memory.of('third', () => made(4, 64));
  expect([first, second, third].map(ordinalsOf)).toEqual([[1, 2], [3], [4, 64]]);
  storage.settle();
  const fourth = memory.of('fourth', () => made(5));
  expect([first.bits, second.bits]).toContain(fourth.bits);
  expect([third, fourth].map(ordinalsOf)).toEqual([[4, 64], [5]]);
});

test('what was made for a question and not kept is empty memory for the next one', () => {
  const storage = new SetStorage();
  const kept = storage.keep(filled(storage.empty(100), 1));
  const left = filled(storage.empty(100), 2, 3);
  storage.settle();
  const next = storage.empty(100);
  expect(next.bits).toBe(left.bits);
  expect([kept, next].map(ordinalsOf)).toEqual([[1], []]);
  expect(ordinalsOf(storage.copy(kept))).toEqual([1]);
  expect(ordinalsOf(storage.intersection(setOf(1, 40, 41), setOf(2, 41, 99)))).toEqual([41]);
});

test('of a set that belongs to somebody else a copy is kept: altering it, or giving up the copy, changes nothing', () => {
  const storage = new SetStorage();
  const shared = setOf(7);
  const [kept, again] = [storage.keep(shared), storage.keep(shared)];
  // What is kept once belongs to the one who kept it.
  expect(storage.keep(again)).not.toBe(again);
  storage.giveUp(kept);
  storage.settle();
  shared.add(8);
  expect(ordinalsOf(storage.keep(setOf(9)))).toEqual([9]);
  expect(ordinalsOf(again)).toEqual([7]);
});

test('memory of another size is not used', () => {
  const storage = new SetStorage();
  storage.giveUp(storage.keep(new PhotoSet(32)));
  storage.settle();
  expect(ordinalsOf(storage.keep(setOf(99)))).toEqual([99]);
});

test('ordinals of the sets asked for last are made once', () => {
  const lists = new OrdinalLists(2);
  const [a, b, c] = [setOf(1, 2, 3), setOf(4), setOf(5, 6)];
  const others = (set: PhotoSet) => setOf(...Array.from({ length: 100 }, (_, i) => i).filter((i) => !set.has(i)));
  const first = lists.of(a);
  expect([Array.from(first), Array.from(lists.of(b))]).toEqual([[1, 2, 3], [4]]);
  expect(lists.of(a)).toBe(first);
  // The oldest, that of b, gives its room.
  expect(Array.from(lists.of(c))).toEqual([5, 6]);
  expect(Array.from(first)).toEqual([1, 2, 3]);
  expect(Array.from(lists.of(b, others))).toHaveLength(99);
});
