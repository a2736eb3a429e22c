import { matcherOf } from '../../text/words';
import { StringTable } from './strings';

/** More than two joined chunks, and some behind them. */
const TEXTS = Array.from({ length: 9000 }, (_, i) => `skm_${i * 7}${i % 3 ? '' : ' ärger'}.jpg`);

describe.each([true, false])('texts, each once: %s', (isDistinct) => {
  const table = new StringTable(isDistinct);
  for (const text of TEXTS) table.add(text);

  test.each([
    'skm_70.jpg',
    'skm_7*',
    '*77*',
    '*arger.jpg',
    '*ärger*',
    '7*',
    'm_*',
    '',
    'skm_?.jpg',
    '*',
    '*_1*2*3*',
    '*7*7*',
    'none',
    's*k*z',
  ])('%s finds what looking at each finds', (pattern) => {
    const matches = matcherOf(pattern);
    const meant = TEXTS.flatMap((text, i) => (matches(text) ? [i] : []));
    expect(table.matching(pattern)).toEqual(meant);
  });
});

test('a text seen before keeps its number where texts are kept once', () => {
  const [once, each] = [new StringTable(), new StringTable(false)];
  expect([once.add('a'), once.add('b'), once.add('a')]).toEqual([0, 1, 0]);
  expect([each.add('a'), each.add('b'), each.add('a')]).toEqual([0, 1, 2]);
  expect(each.matching('a')).toEqual([0, 2]);
});

test.each([0, 1, 4096, 5000])(
  '%i texts that were saved are there again, and others get numbers of their own',
  (count) => {
    const table = new StringTable();
    for (const text of ['', ...TEXTS].slice(0, count)) table.add(text);
    const again = new StringTable();
    expect(again.append(table.saved())).toBeUndefined();
    expect(again.size).toBe(count);
    const numbers = Array.from({ length: count }, (_, number) => number);
    expect(numbers.map((number) => again.text(number))).toEqual(numbers.map((number) => table.text(number)));
    expect(numbers.map((number) => again.find(table.text(number)))).toEqual(numbers);
    expect(again.find('none')).toBeUndefined();
    expect(again.add('one more')).toBe(count);
    expect(again.matching('one*')).toEqual([count]);
  },
);

test.each([true, false])('texts that were saved are added behind others, each once: %s', (isDistinct) => {
  const [first, second] = [new StringTable(isDistinct), new StringTable(isDistinct)];
  for (const text of ['other', ...TEXTS.slice(0, 6000)]) first.add(text);
  for (const text of [...TEXTS.slice(3000), '']) second.add(text);
  const numbers = first.append(second.saved());
  const read = Array.from({ length: 6001 }, (_, number) => first.text(numbers?.[number] ?? -1));
  expect(read).toEqual([...TEXTS.slice(3000), '']);
  expect(first.size).toBe(isDistinct ? TEXTS.length + 2 : 6001 + 6001);
});

test('texts are compared as they would be by themselves', () => {
  const texts = ['', ...TEXTS, 'skm', 'skm_7', 'skm_70', 'z'];
  const table = new StringTable(false);
  for (const text of texts) table.add(text);
  const byTable = texts.map((_, number) => number).sort((a, b) => table.compare(a, b));
  expect(byTable.map((number) => table.text(number))).toEqual([...texts].sort());
  expect(texts.map((_, number) => table.lengthOf(number))).toEqual(texts.map((text) => text.length));
  expect([table.lengthOf(-1), table.lengthOf(texts.length)]).toEqual([0, 0]);
  expect(table.compare(5, 5)).toBe(0);
  expect(table.compare(-1, 0)).toBe(0);
});
