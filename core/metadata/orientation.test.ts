import fc from 'fast-check';
import { between, followedBy, orientationOf, reverseOf, seenAt, swapsSides, turnedTo, TURNS } from './orientation';

const anyOrientation = fc.integer({ min: 1, max: 8 });

test('two turns one after the other are one, for every point', () => {
  fc.assert(
    fc.property(
      anyOrientation,
      anyOrientation,
      fc.double({ min: 0, max: 1, noNaN: true }),
      fc.double({ min: 0, max: 1, noNaN: true }),
      (a, b, x, y) => {
        const [u, v] = seenAt(b)(...seenAt(a)(x, y));
        const [s, t] = seenAt(followedBy(a, b))(x, y);
        expect(s).toBeCloseTo(u, 9);
        expect(t).toBeCloseTo(v, 9);
        expect(swapsSides(followedBy(a, b))).toBe(swapsSides(a) !== swapsSides(b));
      },
    ),
  );
});

test('a turn and its reverse are none, and what lies between two leads from one to the other', () => {
  fc.assert(
    fc.property(anyOrientation, anyOrientation, (a, b) => {
      expect(followedBy(a, reverseOf(a))).toBe(1);
      expect(followedBy(a, between(a, b))).toBe(b);
    }),
  );
});

test('four turns to a side are none, and one to each side neither', () => {
  for (const orientation of [1, 2, 3, 4, 5, 6, 7, 8]) {
    expect(turnedTo(turnedTo(turnedTo(turnedTo(orientation, 'right'), 'right'), 'right'), 'right')).toBe(orientation);
    expect(turnedTo(turnedTo(orientation, 'left'), 'right')).toBe(orientation);
    expect(turnedTo(orientation, 'over')).toBe(turnedTo(turnedTo(orientation, 'left'), 'left'));
    expect(turnedTo(orientation, 'stored')).toBe(1);
  }
  // What lies on its left side stands after it was turned to the right.
  expect(turnedTo(1, 'right')).toBe(6);
  expect(Object.keys(TURNS)).toHaveLength(4);
});

test.each([0, 9, 1.5, '6', undefined, Number.NaN, null])('%p is no orientation', (value) => {
  expect(orientationOf(value)).toBeUndefined();
});
