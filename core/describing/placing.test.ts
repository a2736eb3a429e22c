import { edited } from './editing';
import { nameEdits, positionEdit } from './placing';

const NAMES = { sublocation: '', city: 'Saltmarsh', provinceState: 'Westshore', country: 'Norland', countryCode: 'XN' };
const placed = (before: object, way: 'fill' | 'replace' | 'none', shown = false) =>
  [positionEdit({ latitude: 55.9, longitude: 3.3 }), ...nameEdits(NAMES, { way, shown })].reduce(edited, before);

test('names fill what is empty, or replace what is there; what is not known takes nothing out', () => {
  const before = { city: 'Saltmersc', sublocation: 'Pier' };
  const position = { latitude: 55.9, longitude: 3.3 };
  expect(placed(before, 'fill')).toEqual({ ...NAMES, ...before, position });
  expect(placed(before, 'replace')).toEqual({ ...NAMES, sublocation: 'Pier', position });
  expect(placed(before, 'none')).toEqual({ ...before, position });
});

test('as a location shown the place is added to those that are told', () => {
  const kiteham = { City: 'Kiteham' };
  expect(placed({ locationShown: [kiteham] }, 'none', true)).toMatchObject({
    locationShown: [
      kiteham,
      { City: 'Saltmarsh', ProvinceState: 'Westshore', CountryName: 'Norland', CountryCode: 'XN' },
    ],
  });
});

test('a position takes its altitude along', () => {
  expect(positionEdit({ latitude: 1, longitude: 2, altitude: 3 }).value).toEqual({
    latitude: 1,
    longitude: 2,
    altitude: 3,
  });
});
