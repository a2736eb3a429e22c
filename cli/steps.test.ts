import { durationText, secondsLeft } from './steps';

test('how much is left follows from how far it is, or else from how long it usually takes', () => {
  expect(secondsLeft({ done: 25, total: 100 }, 10, 999)).toBe(30);
  expect(secondsLeft({ done: 0, total: 100 }, 10, 40)).toBe(30);
  expect(secondsLeft(undefined, 10, 40)).toBe(30);
  expect(secondsLeft(undefined, 90, 40)).toBe(1);
  expect(secondsLeft(undefined, 10, undefined)).toBeUndefined();
});

test.each([
  [0.2, '5 s'],
  [31, '35 s'],
  [58, '1 min'],
  [61, '1 min 5 s'],
  [124, '2 min 5 s'],
])('%d seconds read as %s', (seconds, text) => {
  expect(durationText(seconds)).toBe(text);
});
