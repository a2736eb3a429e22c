import { describeDrafts, toDecision, type Draft } from './drafts';

test('drafts are told in words, photos only where they are touched', () => {
  const drafts = new Map<string, Draft>([
    ['a', { kind: 'term', termId: 1, label: 'A' }],
    ['b', { kind: 'new', label: 'B', parentId: null }],
    ['c', { kind: 'keep' }],
    ['d', { kind: 'drop' }],
  ]);
  const keywords = [...drafts.keys()].map((keyword, i) => ({ keyword, photos: i + 1 }));
  expect(describeDrafts(keywords, drafts, 'keywords')).toBe(
    '2 become terms (up to 3 photos), 1 stays a free keyword, 1 is dropped (up to 4 photos).',
  );
  expect(describeDrafts(keywords.slice(3), drafts, 'folders')).toBe('1 is left out.');
});

test('a draft becomes the decision of the contract', () => {
  expect(toDecision('x', { kind: 'new', label: 'X', parentId: 3 })).toEqual({
    keyword: 'x',
    decision: 'new',
    label: 'X',
    parentId: 3,
  });
  expect(toDecision('x', { kind: 'drop' })).toEqual({ keyword: 'x', decision: 'drop' });
});
