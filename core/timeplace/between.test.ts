import fc from 'fast-check';
import { pointBetween } from './between';
import { metresBetween } from './nearest';

const point = fc.record({
  latitude: fc.double({ min: -89, max: 89, noNaN: true }),
  longitude: fc.double({ min: -180, max: 180, noNaN: true }),
});

test('the way to it and from it make up the whole way, across the date line and over a pole too', () => {
  fc.assert(
    fc.property(point, point, fc.double({ min: 0, max: 1, noNaN: true }), (a, b, part) => {
      const whole = metresBetween(a, b);
      // From one end of the globe to the other any way is as short.
      fc.pre(whole < 19_000_000);
      const middle = pointBetween(a, b, part);
      expect(metresBetween(a, middle) + metresBetween(middle, b)).toBeCloseTo(whole, 0);
      expect(metresBetween(a, middle)).toBeCloseTo(whole * part, 0);
    }),
  );
});

test('the ends are the points themselves', () => {
  const [a, b] = [
    { latitude: 55, longitude: 179 },
    { latitude: 55, longitude: -179 },
  ];
  expect([pointBetween(a, b, 0), pointBetween(a, b, 1), pointBetween(a, b, -1)]).toEqual([a, b, a]);
  expect(Math.abs(pointBetween(a, b, 0.5).longitude)).toBeCloseTo(180, 6);
  expect(pointBetween(a, a, 0.5)).toEqual(a);
});
