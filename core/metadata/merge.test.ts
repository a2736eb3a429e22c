import fc from 'fast-check';
import type { FieldValues } from './fields';
import { mergeValues } from './merge';

test.each<[string, FieldValues, FieldValues, FieldValues, FieldValues, string[]]>([
  [
    'what only one side changed is taken',
    { city: 'a', country: 'x' },
    { city: 'b', country: 'x' },
    { city: 'a', country: 'y' },
    { city: 'b', country: 'y' },
    [],
  ],
  ['the same on both sides is no conflict', { city: 'a' }, { city: 'b' }, { city: 'b' }, { city: 'b' }, []],
  [
    'texts changed on both sides conflict; the catalogue’s stands meanwhile',
    { city: 'a' },
    { city: 'b' },
    { city: 'c' },
    { city: 'b' },
    ['city'],
  ],
  ['removed on one side, changed on the other conflicts', { city: 'a' }, {}, { city: 'c' }, {}, ['city']],
  [
    'lists merge as sets',
    { keywords: ['a', 'b', 'c'] },
    { keywords: ['a', 'c', 'd'] },
    { keywords: ['a', 'e', 'b'] },
    { keywords: ['a', 'e', 'd'] },
    [],
  ],
  [
    'an item added in front stays in front',
    { creator: ['a'] },
    { creator: ['a', 'z'] },
    { creator: ['x', 'a'] },
    { creator: ['x', 'a', 'z'] },
    [],
  ],
  [
    'a list emptied on one side keeps what the other added',
    { keywords: ['a'] },
    {},
    { keywords: ['a', 'b'] },
    { keywords: ['b'] },
    [],
  ],
  [
    'structures in lists are items',
    { locationShown: [{ City: 'a' }] },
    { locationShown: [{ City: 'a' }, { City: 'b' }] },
    { locationShown: [] },
    { locationShown: [{ City: 'b' }] },
    [],
  ],
  [
    'languages merge one by one',
    { title: 'a' },
    { title: 'b' },
    { title: { 'x-default': 'a', de: 'd' } },
    { title: { 'x-default': 'b', de: 'd' } },
    [],
  ],
  [
    'the same language changed on both sides conflicts',
    { title: 'a' },
    { title: 'b' },
    { title: 'c' },
    { title: 'b' },
    ['title'],
  ],
])('%s', (_name, base, catalogue, file, values, conflicts) => {
  expect(mergeValues(base, catalogue, file)).toEqual({ values, conflicts });
});

test('a list merge has just what neither side took out and what one put in', () => {
  const items = fc.uniqueArray(fc.constantFrom('a', 'b', 'c', 'd', 'e', 'f'));
  fc.assert(
    fc.property(items, items, items, (base, ours, theirs) => {
      const { values, conflicts } = mergeValues({ keywords: base }, { keywords: ours }, { keywords: theirs });
      const merged = (values.keywords ?? []) as string[];
      const wanted = [...new Set([...ours, ...theirs])].filter((item) =>
        base.includes(item) ? ours.includes(item) && theirs.includes(item) : true,
      );
      expect([...merged].sort()).toEqual(wanted.sort());
      expect(conflicts).toEqual([]);
    }),
  );
});

test('fields of a project merge name by name', () => {
  const own = (fields: Record<string, string>) => ({
    custom: Object.entries(fields).map(([Name, value]) => ({ Name, Value: [value] })),
  });
  const base = own({ Roll: '1', Loan: 'a' });
  expect(mergeValues(base, own({ Roll: '2', Loan: 'a' }), own({ Roll: '1', Loan: 'b', New: 'c' }))).toEqual({
    values: own({ Roll: '2', Loan: 'b', New: 'c' }),
    conflicts: [],
  });
  expect(mergeValues(base, own({ Roll: '2' }), own({ Roll: '3', Loan: 'a' })).conflicts).toEqual(['custom']);
  expect(mergeValues(base, {}, own({ Roll: '1', Loan: 'b' })).conflicts).toEqual(['custom']);
});
