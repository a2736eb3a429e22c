import { aheadText, distanceText, parseAhead, parsePoint, pointText, zoneText } from './placeText';

test.each([
  ['54.12, 8.5', { latitude: 54.12, longitude: 8.5 }],
  ['-33.9 18.4', { latitude: -33.9, longitude: 18.4 }],
  ['55.9598° N, 3.3051° W', { latitude: 55.9598, longitude: -3.3051 }],
  ['91, 8', undefined],
  ['54', undefined],
  ['here', undefined],
])('%s is %j', (text, point) => expect(parsePoint(text)).toEqual(point));

test('points and distances as people read them', () => {
  expect(pointText({ latitude: -33.9, longitude: -18.4 })).toBe('33.9000° S, 18.4000° W');
  expect([44, 320, 4130, 38_400].map(distanceText)).toEqual(['40 m', '320 m', '4.1 km', '38 km']);
  expect([0, 120, -210].map(zoneText)).toEqual(['UTC+0:00', 'UTC+2:00', 'UTC−3:30']);
});

test.each([0, 3600, -150, 45_296, -900])(
  'that a clock is %d seconds behind is written so that it reads back',
  (seconds) => {
    expect(parseAhead(aheadText(seconds))).toBe(seconds);
  },
);

test('what is no clock is told', () => {
  expect(['', '1', '1:60', 'soon'].map(parseAhead)).toEqual([undefined, undefined, undefined, undefined]);
});
