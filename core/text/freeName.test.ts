import { freeName } from './freeName';

test('a free name stays; of a taken one the first number is added that makes it free', () => {
  const taken = new Set(['Loans', 'Loans (2)']);
  const isTaken = (name: string) => taken.has(name);
  expect(freeName('Gifts', isTaken)).toBe('Gifts');
  expect(freeName('Loans', isTaken)).toBe('Loans (3)');
});

test('it stays within its length, with its number', () => {
  const taken = new Set(['abcdefgh']);
  expect(freeName('abcdefghij', (name) => taken.has(name), 8)).toBe('abcd (2)');
});
