import fc from 'fast-check';
import { edtfInterval } from './edtf';
import { isCalendarPart, pagesWithin, yearsOf } from './calendar';

test('a year has its months, a month its days', () => {
  expect(pagesWithin('2019').names).toEqual(expect.arrayContaining(['2019-01', '2019-12']));
  expect(pagesWithin('2020-02').names.at(-1)).toBe('2020-02-29');
  expect(pagesWithin('2019-02').names).toHaveLength(28);
});

test('what is no year and no month is refused', () => {
  for (const part of ['', '19', '2019-13', '2019-22', '2019-06-01', '193X', '0000'])
    expect(() => pagesWithin(part)).toThrow(RangeError);
  expect(isCalendarPart('2019-12')).toBe(true);
});

test('pages lie one after the other, and together are what they are cut from', () => {
  const part = fc.oneof(
    fc.integer({ min: 1, max: 9998 }).map((year) => String(year).padStart(4, '0')),
    fc
      .tuple(fc.integer({ min: 1, max: 9998 }), fc.integer({ min: 1, max: 12 }))
      .map((parts) => parts.map((each, i) => String(each).padStart(i === 0 ? 4 : 2, '0')).join('-')),
  );
  fc.assert(
    fc.property(part, (name) => {
      const { names, bounds } = pagesWithin(name);
      const { from, to } = edtfInterval(name) ?? {};
      expect(bounds).toHaveLength(names.length + 1);
      expect([bounds[0], bounds.at(-1)]).toEqual([from, to].map((text) => Date.parse(`${text}Z`) / 1000));
      names.forEach((each, i) => expect(Date.parse(`${edtfInterval(each)?.from}Z`) / 1000).toBe(bounds[i]));
    }),
  );
});

test('the years of a span are all of it, or the last ones', () => {
  const [from, until] = [Date.UTC(1932, 5) / 1000, Date.UTC(1936, 0) / 1000];
  expect(yearsOf(from, until, 10).names).toEqual(['1932', '1933', '1934', '1935']);
  expect(yearsOf(from, until, 2).names).toEqual(['1934', '1935']);
});
