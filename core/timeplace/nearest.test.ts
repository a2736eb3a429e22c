import fc from 'fast-check';
import { metresBetween, NearestPoints } from './nearest';

const point = fc.record({
  latitude: fc.double({ min: -90, max: 90, noNaN: true }),
  longitude: fc.double({ min: -180, max: 180, noNaN: true }),
});

test('the nearest is found as by comparing all, poles and the date line included', () => {
  fc.assert(
    fc.property(fc.array(point, { minLength: 1, maxLength: 200 }), point, (points, from) => {
      const found = NearestPoints.of(points).find(from);
      const least = Math.min(...points.map((each) => metresBetween(from, each)));
      expect(found?.metres).toBeCloseTo(least, 3);
    }),
  );
});

test('of several at one place the first is meant, and only what is near enough and meant', () => {
  const kiteham = { latitude: 54.2, longitude: 8.1 };
  const points = [{ latitude: 0, longitude: 0 }, ...Array.from({ length: 50 }, () => kiteham)];
  const tree = NearestPoints.of(points);
  expect(tree.find(kiteham)?.at).toBe(1);
  expect(tree.find(kiteham, (at) => at > 20)?.at).toBe(21);
  expect(tree.find({ latitude: 1, longitude: 0 }, undefined, 100_000)).toBeUndefined();
  expect(tree.find({ latitude: 1, longitude: 0 }, undefined, 112_000)?.at).toBe(0);
  expect(NearestPoints.of([]).find(kiteham)).toBeUndefined();
});

test.each([
  // Half the way around, and along the equator one degree: π R / 180.
  [{ latitude: 0, longitude: 0 }, { latitude: 0, longitude: 180 }, 20_015_115],
  [{ latitude: 0, longitude: 179.5 }, { latitude: 0, longitude: -179.5 }, 111_195],
  [{ latitude: 89.5, longitude: 0 }, { latitude: 89.5, longitude: 180 }, 111_195],
])('from %j to %j it is %d m', (a, b, metres) => {
  expect(Math.abs(metresBetween(a, b) - metres)).toBeLessThan(1);
});
