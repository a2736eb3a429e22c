import { ownMatcherOf } from './ownValues';

test.each<[pattern: string, met: string[], missed: string[]]>([
  ['value: >=500', ['value: 500', 'value: 500.5'], ['value: 499.9', 'value: many', 'other: 600', 'value: 1952-06']],
  ['value: <500', ['value: -3', 'value: 0'], ['value: 500']],
  ['value: 10..20', ['value: 10', 'value: 15', 'value: 20'], ['value: 9', 'value: 21']],
  ['v*: >9', ['value: 10', 'volume: 9.1'], ['value: 9']],
  // A year is as long as its days.
  ['opens: >=2019-06', ['opens: 2019-06-01', 'opens: 2019', 'opens: 2020'], ['opens: 2019-05-31', 'opens: 2018']],
  ['opens: >2019', ['opens: 2020', 'opens: 2020-01-01'], ['opens: 2019', 'opens: 2019-12-31']],
  ['opens: <2019-06', ['opens: 2019', 'opens: 2019-05-31'], ['opens: 2019-06-01', 'opens: 2019-06']],
  ['opens: <=2019', ['opens: 2019-12-31', 'opens: 1952'], ['opens: 2020-01-01']],
  ['opens: 2018..2019-01', ['opens: 2018-07', 'opens: 2019'], ['opens: 2019-02', 'opens: 2017-12-31']],
  // What compares nothing is a text to be met.
  ['value: 500', ['value: 500'], ['value: 500.0']],
  ['value: >=much', ['value: >=much'], ['value: 500']],
  ['note: a..b', ['note: a..b'], ['note: a']],
  ['opens: at: >2019', ['opens: at: 2020'], ['opens: 2020', 'at: 2020']],
])('%s', (pattern, met, missed) => {
  const matches = ownMatcherOf(pattern);
  expect(met.filter((text) => !matches(text))).toEqual([]);
  expect(missed.filter(matches)).toEqual([]);
});
