import fc from 'fast-check';
import { follow } from './following';
import { passingOf } from './passing';
import { TrackBuilder, type Track } from './track';

const NOON = Date.UTC(2031, 5, 1, 12);
const UTC = { zoneMinutes: 0 };

/** Ways of points that are `seconds` apart; between two of them the track is broken. */
function trackOf(ways: readonly (readonly [latitude: number, longitude: number])[][], seconds: number): Track {
  const builder = new TrackBuilder();
  let time = NOON;
  for (const way of ways) {
    for (const [latitude, longitude] of way) {
      builder.add({ time, latitude, longitude, altitude: undefined });
      time += seconds * 1000;
    }
    builder.break();
  }
  return builder.track();
}

const clockAt = (moment: number) => new Date(moment).toISOString().slice(0, 19);

test('a clock is put right by when the track passed the spot, between two of its points too', () => {
  const track = trackOf(
    [
      [
        [55, 3],
        [55, 3.001],
        [55, 3.002],
      ],
    ],
    60,
  );
  const spot = { latitude: 55.00005, longitude: 3.0015 };
  // Passed after a minute and a half, 6 m away; the clock says an hour before noon.
  expect(passingOf([track], spot, clockAt(NOON - 3_600_000), UTC)).toEqual({ aheadSeconds: 3690, metres: 6 });
  // The same clock in a zone two hours east of UTC stands two hours earlier.
  expect(passingOf([track], spot, clockAt(NOON), { zoneMinutes: 120 })?.aheadSeconds).toBe(7290);
});

test('of several times that it passed the one is meant that the clock is least wrong for', () => {
  const there = [
    [55, 3],
    [55, 3.01],
  ] as const;
  const track = trackOf([[...there, [55.0001, 3.01], [55.0001, 3]]], 600);
  const spot = { latitude: 55.00005, longitude: 3.005 };
  expect(passingOf([track], spot, clockAt(NOON), UTC)?.aheadSeconds).toBe(300);
  expect(passingOf([track], spot, clockAt(NOON + 1_600_000), UTC)?.aheadSeconds).toBe(-100);
});

test('nothing is said of a spot that no track passed, of a break in it, and of a clock that says nothing', () => {
  const track = trackOf([[[55, 3]], [[55, 3.2]]], 60);
  expect(passingOf([track], { latitude: 55, longitude: 3.1 }, clockAt(NOON), UTC)).toBeUndefined();
  expect(passingOf([track], { latitude: 55, longitude: 3 }, '2031', UTC)).toBeUndefined();
  expect(passingOf([], { latitude: 55, longitude: 3 }, clockAt(NOON), UTC)).toBeUndefined();
});

test('where a track stood still, any moment of it is as right', () => {
  const spot = { latitude: 55, longitude: 3 };
  const track = trackOf(
    [
      [
        [55, 3],
        [55, 3],
      ],
    ],
    600,
  );
  expect(passingOf([track], spot, clockAt(NOON + 200_000), UTC)?.aheadSeconds).toBe(0);
  expect(passingOf([track], spot, clockAt(NOON + 700_000), UTC)?.aheadSeconds).toBe(-100);
});

test('wherever a track was, the clock of a photo taken there is found to have been right, across the date line too', () => {
  const corner = fc.record({
    latitude: fc.double({ min: 0, max: 0.01, noNaN: true }),
    east: fc.double({ min: -0.01, max: 0.01, noNaN: true }),
  });
  fc.assert(
    fc.property(
      fc.array(corner, { minLength: 2, maxLength: 8 }),
      fc.constantFrom(3, 180, -180),
      fc.double({ min: 0, max: 1, noNaN: true }),
      (corners, middle, part) => {
        const turned = (longitude: number) =>
          longitude > 180 ? longitude - 360 : longitude < -180 ? longitude + 360 : longitude;
        const track = trackOf(
          [corners.map(({ latitude, east }) => [60 + latitude, turned(middle + east)] as const)],
          60,
        );
        const moment = NOON + Math.round(part * (corners.length - 1) * 60) * 1000;
        const at = follow(track, moment, { zoneMinutes: 0, aheadSeconds: 0, maxGapSeconds: 100, way: 'between' });
        if (!at.found) throw new Error('the track is there');
        expect(passingOf([track], at, clockAt(moment), UTC)).toEqual({ aheadSeconds: 0, metres: 0 });
      },
    ),
  );
});
