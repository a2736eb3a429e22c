import { resultSentence, RESULT_SENTENCES } from './jobKinds';

test('a job says what came of it, nothings left out but for the main thing', () => {
  expect(resultSentence({ kind: 'faces', result: { faces: 1204 } })).toBe('1,204 faces found');
  expect(resultSentence({ kind: 'faces', result: { faces: 0 } })).toBe('0 faces found');
  expect(
    resultSentence({ kind: 'copyIn', result: { copied: 3, known: 1, failed: 0, unlisted: 0, new: 3, changed: 0 } }),
  ).toBe('3 files copied, 1 known before, 3 new photos');
  expect(resultSentence({ kind: 'copyIn', result: { copied: 0, known: 4, failed: 1, unlisted: 2 } })).toBe(
    '0 files copied, 4 known before, 1 failed, 2 folders could not be read',
  );
  expect(resultSentence({ kind: 'index', result: { new: 0, missing: 2 } })).toBe('0 new photos, 2 not found');
  expect(resultSentence({ kind: 'filing', result: { moved: 0, copied: 0, failed: 0 } })).toBe('nothing was moved');
});

test('every kind of job has a sentence, and of others nothing is said', () => {
  for (const kind of Object.keys(RESULT_SENTENCES)) expect(resultSentence({ kind, result: {} })).not.toBe('');
  expect(resultSentence({ kind: 'of long ago', result: { new: 1 } })).toBe('');
});
