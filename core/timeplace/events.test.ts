import fc from 'fast-check';
import { eventsIn, type Moments } from './events';

const MINUTE = 60;
const DAY = 86_400;

function moments(seconds: readonly number[], latitudes: readonly number[] = []): Moments {
  return {
    seconds: Float64Array.from(seconds),
    latitudes: Float64Array.from(seconds, (_, i) => latitudes[i] ?? NaN),
    longitudes: Float64Array.from(seconds, (_, i) => (latitudes[i] === undefined ? NaN : 8)),
  };
}

const sizes = (given: Moments) => eventsIn(given).map(({ from, until }) => until - from);

test('a gap that is long among those around it ends an event', () => {
  const burst = (at: number) => Array.from({ length: 8 }, (_, i) => at + i * MINUTE);
  expect(sizes(moments([...burst(0), ...burst(100 * MINUTE), ...burst(3 * DAY)]))).toEqual([8, 8, 8]);
});

test('photos that are taken once in a while are not torn apart by the same gap', () => {
  const walk = Array.from({ length: 12 }, (_, i) => i * 100 * MINUTE);
  expect(sizes(moments(walk))).toEqual([12]);
});

test('nothing goes on over a day and a half, and a far way ends an event', () => {
  const yearly = Array.from({ length: 5 }, (_, i) => i * 365 * DAY);
  expect(sizes(moments(yearly))).toEqual([1, 1, 1, 1, 1]);
  const hourly = Array.from({ length: 6 }, (_, i) => i * 60 * MINUTE);
  expect(sizes(moments(hourly, [54, 54, 54, 55, 55, 55]))).toEqual([3, 3]);
});

test('each photo is in just one event, and no event is empty', () => {
  const seconds = fc.array(fc.integer({ min: 0, max: 40 * DAY }), { maxLength: 200 });
  fc.assert(
    fc.property(seconds, (times) => {
      const sorted = [...times].sort((a, b) => a - b);
      const events = eventsIn(moments(sorted));
      expect(events.flatMap(({ from, until }) => Array.from({ length: until - from }, (_, i) => from + i))).toEqual(
        sorted.map((_, i) => i),
      );
      for (const { from, until } of events) expect(until).toBeGreaterThan(from);
    }),
  );
});
