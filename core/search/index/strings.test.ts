import { matcherOf } from '../words';
import { StringTable } from './strings';

/** More than two joined chunks, and some behind them. */
const TEXTS = Array.from({ length: 9000 }, (_, i) => `skm_${i * 7}${i % 3 ? '' : ' ärger'}.jpg`);

describe.each([true, false])('texts, each once: %s', (isDistinct) => {
  const table = new StringTable(isDistinct);
  for (const text of TEXTS) table.add(text);

  test.each(['skm_70.jpg', 'skm_7*', '*77*', '*arger.jpg', '*ärger*', 'skm_?.jpg', '*', '*_1*2*3*', 'none', 's*k*z'])(
    '%s finds what looking at each finds',
    (pattern) => {
      const matches = matcherOf(pattern);
      const meant = TEXTS.flatMap((text, i) => (matches(text) ? [i] : []));
      expect(table.matching(pattern)).toEqual(meant);
    },
  );

  test('only texts behind a prefix, and the text of a number', () => {
    const own = new StringTable(isDistinct);
    for (const text of TEXTS) own.add(`a ${text}`);
    const last = own.add('b skm_7.jpg');
    expect(own.matching('skm_7.jpg', 'b ')).toEqual([last]);
    expect(own.matching('*m_7.*', 'b ')).toEqual([last]);
    expect(own.text(last)).toBe('b skm_7.jpg');
  });
});

test('a text seen before keeps its number where texts are kept once', () => {
  const [once, each] = [new StringTable(), new StringTable(false)];
  expect([once.add('a'), once.add('b'), once.add('a')]).toEqual([0, 1, 0]);
  expect([each.add('a'), each.add('b'), each.add('a')]).toEqual([0, 1, 2]);
  expect(each.matching('a')).toEqual([0, 2]);
});
