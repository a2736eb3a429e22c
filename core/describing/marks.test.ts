import { freeLetter, MARK_LETTERS } from './marks';

test('a mark gets a letter of its name where one is free, else any, else none', () => {
  expect(freeLetter('Ready', new Set())).toBe('r');
  expect(freeLetter('Ready', new Set(['r', 'e']))).toBe('a');
  expect(freeLetter('Zzz', new Set(['a']))).toBe('b');
  expect(freeLetter('Any', new Set(MARK_LETTERS))).toBeUndefined();
});
