import type { FieldValues } from '../metadata/fields';
import { originalFinder } from './matching';
import { differing, givenElsewhere, keywordsBack, wordsBack } from './words';

describe('what a file that came back is called after', () => {
  const handed = ['July/kite.jpg', 'July/kite-red.jpg', 'June/box.jpg', 'May/box.jpg', 'sled 2.nef', 'sled 2.jpg'].map(
    (path) => ({ path }),
  );
  const find = originalFinder(handed);
  test.each([
    ['July/kite.tif', 'July/kite.jpg'],
    ['July/KITE.TIF', 'July/kite.jpg'],
    ['July/kite_edited.jpg', 'July/kite.jpg'],
    ['July/kite (2).jpg', 'July/kite.jpg'],
    ['July/kite-red-2.tif', 'July/kite-red.jpg'],
    ['July/kite-reddish.tif', 'July/kite.jpg'],
    ['out/kite 2.tif', 'July/kite.jpg'],
    ['June/box edited.tif', 'June/box.jpg'],
    ['sled 2-b.tif', 'sled 2.nef'],
    ['July/kiter.tif', undefined],
    ['out/box.tif', undefined],
    ['-kite.tif', undefined],
    ['.tif', undefined],
  ])('%s: %s', (path, original) => expect(find(path)?.path).toBe(original));
});

describe('words that came back', () => {
  const sent: FieldValues = {
    headline: 'Dunes',
    creator: ['Ida'],
    city: 'Northmere',
    description: { 'x-default': 'A', de: 'B' },
  };
  test('what only one side changed stands', () => {
    const now = { ...sent, city: 'Saltmarsh' };
    const back = { ...sent, headline: 'Dunes by night' };
    expect(wordsBack(sent, now, back, false)).toEqual({
      values: { ...now, headline: 'Dunes by night' },
      contested: [],
    });
  });
  test('what both changed is named, and what came back stands', () => {
    const { values, contested } = wordsBack(sent, { ...sent, headline: 'Here' }, { ...sent, headline: 'There' }, false);
    expect([values.headline, contested]).toEqual(['There', ['headline']]);
  });
  test('a picture that was saved without its words takes none away; a sidecar does', () => {
    expect(wordsBack(sent, sent, {}, false).values).toEqual(sent);
    const { headline: _, ...rest } = sent;
    expect(wordsBack(sent, sent, rest, true).values).toEqual(rest);
  });
  test('what was taken out there and changed here goes, by name', () => {
    const { headline: _, ...rest } = sent;
    const { values, contested } = wordsBack(sent, { ...sent, headline: 'Here' }, rest, true);
    expect([values.headline, contested]).toEqual([undefined, ['headline']]);
  });
  test('lists and languages go together', () => {
    const now: FieldValues = {
      ...sent,
      creator: ['Ida', 'Tomas'],
      description: { 'x-default': 'A', de: 'B', fr: 'C' },
    };
    const back: FieldValues = { ...sent, creator: ['Ida', 'Edda'], description: { 'x-default': 'A2', de: 'B' } };
    const { values, contested } = wordsBack(sent, now, back, false);
    expect(contested).toEqual([]);
    expect(values.creator).toEqual(expect.arrayContaining(['Ida', 'Tomas', 'Edda']));
    expect(values.description).toEqual({ 'x-default': 'A2', de: 'B', fr: 'C' });
  });
  test('keywords, ratings and marks are no part of it', () => {
    const back: FieldValues = { ...sent, keywords: ['a'], rating: 3, mark: 'Red' };
    expect(wordsBack(sent, sent, back, false).values).toEqual(sent);
    expect(differing(sent, back)).toEqual([]);
    expect(differing(sent, { ...sent, city: 'Saltmarsh' })).toEqual(['city']);
  });
});

test('keywords that came and went; none went where there are none at all', () => {
  expect(keywordsBack({ keywords: ['a', 'b'] }, { keywords: ['b', 'c'] }, false)).toEqual({
    given: ['c'],
    taken: ['a'],
  });
  expect(keywordsBack({ keywords: ['a'] }, {}, false)).toEqual({ given: [], taken: [] });
  expect(keywordsBack({ keywords: ['a'] }, {}, true)).toEqual({ given: [], taken: ['a'] });
});

test('a rating counts when it is another one than before', () => {
  expect(givenElsewhere('rating', { rating: 3 }, { rating: 4 })).toBe(4);
  expect(givenElsewhere('rating', { rating: 3 }, { rating: 3 })).toBeUndefined();
  expect(givenElsewhere('rating', { rating: 3 }, {})).toBeUndefined();
});
