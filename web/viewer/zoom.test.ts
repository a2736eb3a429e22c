import fc from 'fast-check';
import { FIT, fitScale, panned, placeOf, toggled, zoomedAt, type Zoom } from './zoom';

const frame = { width: 1000, height: 600 };
const picture = { width: 6000, height: 4000 };

test('fits whole and centred, and is never blown up', () => {
  expect(placeOf(FIT, frame, picture)).toEqual({ scale: 0.15, width: 900, height: 600, left: 50, top: 0 });
  expect(fitScale(frame, { width: 100, height: 100 })).toBe(1);
});

test('1:1 and back; a picture smaller than its frame stays as it is', () => {
  const close = toggled(FIT, { x: 500, y: 300 }, frame, picture);
  expect(close).toEqual({ scale: 1, x: 0.5, y: 0.5 });
  expect(toggled(close, { x: 0, y: 0 }, frame, picture)).toEqual(FIT);
  expect(toggled(FIT, { x: 0, y: 0 }, frame, { width: 100, height: 100 })).toEqual(FIT);
});

const point = fc.record({ x: fc.integer({ min: 60, max: 940 }), y: fc.integer({ min: 1, max: 599 }) });

test('what is under the pointer stays there while zooming, but for the edges', () => {
  fc.assert(
    fc.property(point, fc.double({ min: 1.1, max: 6, noNaN: true }), (at, factor) => {
      const before = placeOf(FIT, frame, picture);
      const zoom = zoomedAt(FIT, factor, at, frame, picture);
      const after = placeOf(zoom, frame, picture);
      const part = (place: typeof before) => (at.x - place.left) / place.width;
      const atEdge =
        Math.abs(after.left) < 1e-6 ||
        Math.abs(after.left + after.width - frame.width) < 1e-6 ||
        after.width <= frame.width;
      if (!atEdge) expect(part(after)).toBeCloseTo(part(before), 6);
    }),
  );
});

test('however it is zoomed and panned, no empty edge shows beside a picture larger than its frame', () => {
  const step = fc.oneof(
    fc.tuple(fc.constant('zoom'), fc.double({ min: 0.3, max: 4, noNaN: true }), point),
    fc.tuple(fc.constant('pan'), fc.integer({ min: -9000, max: 9000 }), point),
  );
  fc.assert(
    fc.property(fc.array(step, { maxLength: 12 }), (steps) => {
      let zoom: Zoom = FIT;
      for (const [kind, amount, at] of steps)
        zoom =
          kind === 'zoom' ? zoomedAt(zoom, amount, at, frame, picture) : panned(zoom, amount, -amount, frame, picture);
      const { left, top, width, height } = placeOf(zoom, frame, picture);
      if (width >= frame.width) {
        expect(left).toBeLessThanOrEqual(1e-6);
        expect(left + width).toBeGreaterThanOrEqual(frame.width - 1e-6);
      }
      if (height >= frame.height) {
        expect(top).toBeLessThanOrEqual(1e-6);
        expect(top + height).toBeGreaterThanOrEqual(frame.height - 1e-6);
      }
    }),
  );
});
