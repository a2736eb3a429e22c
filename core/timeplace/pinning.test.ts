import fc from 'fast-check';
import { metresOff, placementOf, type MapPin } from './pinning';

const pin = (x: number, y: number, latitude: number, longitude: number): MapPin => ({ x, y, latitude, longitude });

test('two pins turn and enlarge a picture, and keep its angles', () => {
  const placement = placementOf([pin(0, 0, 55, 3), pin(100, 0, 55, 4)]);
  if (!placement) throw new Error('it is not placed');
  const { a, b, d, e } = placement;
  // North is up, and a pixel is as high as it is wide.
  expect([b, d].map(Math.abs)).toEqual([expect.closeTo(0, 6), expect.closeTo(0, 6)]);
  expect(e).toBeCloseTo(-a, 6);
});

test('pins are met: two and three exactly, more as well as can be', () => {
  const corner = fc.record({
    ...{ x: fc.integer({ min: 0, max: 4000 }), y: fc.integer({ min: 0, max: 4000 }) },
    latitude: fc.double({ min: -80, max: 80, noNaN: true }),
    longitude: fc.double({ min: -179, max: 179, noNaN: true }),
  });
  fc.assert(
    fc.property(fc.array(corner, { minLength: 2, maxLength: 3 }), (pins) => {
      const placement = placementOf(pins);
      fc.pre(placement !== undefined && !onOneLine(pins));
      if (placement) for (const each of pins) expect(metresOff(placement, each)).toBeLessThan(1);
    }),
  );
  const off = [...square(), pin(50, 50, 55.2, 3.2)];
  const placement = placementOf(off);
  if (!placement) throw new Error('it is not placed');
  const worst = Math.max(...off.map((each) => metresOff(placement, each)));
  // The pin that does not fit says so.
  expect(metresOff(placement, off[4] ?? pin(0, 0, 0, 0))).toBe(worst);
  expect(worst).toBeGreaterThan(1000);
});

test('a single pin, and pins on one spot, place nothing; pins on a line still do', () => {
  expect(placementOf([])).toBeUndefined();
  expect(placementOf([pin(1, 2, 3, 4)])).toBeUndefined();
  expect(placementOf([pin(1, 2, 3, 4), pin(1, 2, 3, 4)])).toBeUndefined();
  const line = [pin(0, 0, 55, 3), pin(50, 50, 55.5, 3.5), pin(100, 100, 56, 4)];
  expect(placementOf(line)).toBeDefined();
});

function square(): MapPin[] {
  return [pin(0, 0, 55.5, 3), pin(100, 0, 55.5, 4), pin(100, 100, 55, 4), pin(0, 100, 55, 3)];
}

/** Whether three pins lie so flat, or so near one another, that they say little. */
function onOneLine(pins: readonly MapPin[]): boolean {
  const [a, b, c = a] = pins;
  if (!a || !b || !c || c === a) return false;
  const [ab, ac] = [Math.hypot(b.x - a.x, b.y - a.y), Math.hypot(c.x - a.x, c.y - a.y)];
  return Math.abs((b.x - a.x) * (c.y - a.y) - (b.y - a.y) * (c.x - a.x)) < 0.05 * ab * ac || Math.min(ab, ac) < 10;
}
