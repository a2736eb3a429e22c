import { axisMarks, firstShift, firstView, inSight, MOST_PER_PIXEL, momentOfLocal } from './liningUp';

const row = (...clocks: string[]) =>
  clocks.map((clock, i) => ({ photoId: i + 1, at: momentOfLocal(`2031-06-${clock}`) }));
const NOON = momentOfLocal('2031-06-01T12:00:00');

test('rows that meet in time stay where they are; others begin together', () => {
  const first = row('01T12:00:00', '01T13:00:00');
  expect(firstShift(first, row('01T12:59:00', '02T12:00:00'))).toBe(0);
  expect(firstShift(first, row('01T13:00:01'))).toBe(-3_601_000);
  expect(firstShift(first, row('01T10:00:00', '01T11:59:59'))).toBe(7_200_000);
  expect(firstShift(first, [])).toBe(0);
});

test('at first a day is seen on which both took photos, else the one on which the second took most', () => {
  const first = row('01T12:00:00', '01T12:04:00', '08T09:00:00');
  const second = row('01T12:00:00', '01T12:08:00', '05T10:00:00', '05T10:01:00', '05T10:02:00');
  const view = firstView(first, second, 0, 1000);
  expect(view).toEqual({ from: NOON - 60_000, perPixel: 600, width: 1000 });
  expect(inSight(second, view, 50).map(({ left }) => left)).toEqual([100, 900]);
  // Moved by a year they meet nowhere.
  const apart = firstView(first, second, -365 * 86_400_000, 1000);
  expect(apart.from + (apart.perPixel * 1000) / 2).toBe(momentOfLocal('2030-06-05T10:01:00'));
  // A single photo has no span; nothing at all neither.
  expect(firstView(first, row('01T12:00:00'), 0, 1000).perPixel).toBe(120);
  expect(firstView([], [], 0, 1000).perPixel).toBe(MOST_PER_PIXEL);
});

test('only what is in sight is shown, also what reaches into it from the left', () => {
  const photos = row('01T11:59:00', '01T11:59:50', '01T12:00:00', '01T12:01:40');
  expect(inSight(photos, { from: NOON, perPixel: 1000, width: 100 }, 20)).toEqual([
    { photoId: 2, left: -10 },
    { photoId: 3, left: 0 },
  ]);
});

test('an axis is marked at round times that are far enough apart', () => {
  expect(axisMarks({ from: NOON - 30_000, perPixel: 1000, width: 200 }, 40)).toEqual([
    { at: NOON, left: 30 },
    { at: NOON + 60_000, left: 90 },
    { at: NOON + 120_000, left: 150 },
  ]);
  expect(axisMarks({ from: NOON, perPixel: MOST_PER_PIXEL, width: 1000 }, 80).length).toBeLessThanOrEqual(13);
});
