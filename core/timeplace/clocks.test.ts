import { wrongClock } from './clocks';

const CLOCKS = [
  { camera: 'Corvina M3', from: '2019-06-03', until: '2019-06-09', aheadSeconds: 3600 },
  { camera: 'Corvina M3', from: '2020-01-01', until: '2020-01-01', aheadSeconds: -60 },
];

test('a clock is wrong from its first day to its last, both included, and only for its camera', () => {
  const aheadOf = (camera: string, clock: string) => wrongClock(CLOCKS, camera, clock)?.aheadSeconds;
  expect(aheadOf('Corvina M3', '2019-06-02T23:59:59')).toBeUndefined();
  expect(aheadOf('Corvina M3', '2019-06-03T00:00:00')).toBe(3600);
  expect(aheadOf('Corvina M3', '2019-06-09T23:59:59')).toBe(3600);
  expect(aheadOf('Corvina M3', '2019-06-10T00:00:00')).toBeUndefined();
  expect(aheadOf('Corvina M3', '2020-01-01T12:00:00')).toBe(-60);
  expect(aheadOf('Corvina M4', '2019-06-05T12:00:00')).toBeUndefined();
});
