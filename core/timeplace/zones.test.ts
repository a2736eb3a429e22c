import fc from 'fast-check';
import { offsetMinutes, offsetOfClock, zoneAt } from './zones';

test('a zone is that of the land, at sea that of the longitude', () => {
  expect(zoneAt({ latitude: 52.52, longitude: 13.4 })).toBe('Europe/Berlin');
  expect(zoneAt({ latitude: 40, longitude: -40 })).toBe('Etc/GMT+3');
});

test('the offset of a clock is that of the season, also of half hours and far north', () => {
  expect(offsetOfClock('Europe/Berlin', '2019-07-01T12:00:00')).toBe('+02:00');
  expect(offsetOfClock('Europe/Berlin', '2019-12-01T12:00:00')).toBe('+01:00');
  expect(offsetOfClock('Asia/Kathmandu', '2019-12-01T12:00:00')).toBe('+05:45');
  expect(offsetOfClock('America/St_Johns', '2019-07-01T12:00:00')).toBe('-02:30');
});

test('when clocks change: before, in the hour that is left out or read twice, and after', () => {
  expect(offsetOfClock('Europe/Berlin', '2019-03-31T01:59:59')).toBe('+01:00');
  expect(['+01:00', '+02:00']).toContain(offsetOfClock('Europe/Berlin', '2019-03-31T02:30:00'));
  expect(offsetOfClock('Europe/Berlin', '2019-03-31T03:00:00')).toBe('+02:00');
  expect(offsetOfClock('Europe/Berlin', '2019-10-27T01:59:59')).toBe('+02:00');
  expect(['+01:00', '+02:00']).toContain(offsetOfClock('Europe/Berlin', '2019-10-27T02:30:00'));
  expect(offsetOfClock('Europe/Berlin', '2019-10-27T03:00:00')).toBe('+01:00');
});

test('a moment told by its clock and that offset is the moment again, wherever and whenever', () => {
  const zones = fc.constantFrom(
    'Europe/Berlin',
    'America/New_York',
    'Australia/Lord_Howe',
    'Asia/Kathmandu',
    'Etc/UTC',
  );
  const moments = fc.integer({ min: Date.UTC(1975, 0), max: Date.UTC(2037, 0) }).map((ms) => ms - (ms % 1000));
  fc.assert(
    fc.property(zones, moments, (zone, moment) => {
      const clock = new Date(moment + offsetMinutes(zone, moment) * 60_000).toISOString().slice(0, 19);
      const told = Date.parse(clock + offsetOfClock(zone, clock));
      // Where a clock reads the same twice, either may be meant.
      const twice = offsetMinutes(zone, moment - 3_600_000) !== offsetMinutes(zone, moment + 3_600_000);
      if (!twice) expect(told).toBe(moment);
    }),
  );
});
