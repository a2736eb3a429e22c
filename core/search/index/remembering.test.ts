import { PhotoSet } from './photoSet';
import { Memory, SetStorage } from './remembering';

function setOf(...ordinals: number[]): PhotoSet {
  const set = new PhotoSet(100);
  for (const ordinal of ordinals) set.add(ordinal);
  return set;
}

const ordinalsOf = (set: PhotoSet) => Array.from(set.ordinals());

test('what was asked for longest ago is forgotten first, and told', () => {
  const forgotten: string[] = [];
  const memory = new Memory<string>(2, undefined, (value) => forgotten.push(value));
  for (const key of ['a', 'b', 'a', 'c']) memory.of(key, () => key.toUpperCase());
  expect(forgotten).toEqual(['B']);
  expect(memory.of('a', () => 'again')).toBe('A');
  memory.clear();
  expect(forgotten).toEqual(['B', 'C', 'A']);
  expect(memory.of('a', () => 'again')).toBe('again');
});

test('a set that was given up stays as it is until the next question; then its memory is used again', () => {
  const storage = new SetStorage();
  const memory = new Memory<PhotoSet>(
    1,
    (set) => storage.keep(set),
    (set) => storage.giveUp(set),
  );
  const first = memory.of('first', () => setOf(1, 2));
  const second = memory.of('second', () => setOf(3));
  const third = memory.of('third', () => setOf(4, 64));
  expect([first, second, third].map(ordinalsOf)).toEqual([[1, 2], [3], [4, 64]]);
  storage.settle();
  const fourth = memory.of('fourth', () => setOf(5));
  expect([first.bits, second.bits]).toContain(fourth.bits);
  expect([third, fourth].map(ordinalsOf)).toEqual([[4, 64], [5]]);
});

test('what is kept is a copy: altering the one that was given, or giving it up elsewhere, changes nothing', () => {
  const storage = new SetStorage();
  const shared = setOf(7);
  const [kept, again] = [storage.keep(shared), storage.keep(shared)];
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
