import { Gazetteer, type Town } from './gazetteer';

const town = (
  name: string,
  country: string,
  region: string,
  latitude: number,
  longitude: number,
  population = 0,
): Town => ({
  ...{ name, country, region, latitude, longitude, population },
});
const square = (west: number, south: number, size: number) => [
  [
    [west, south],
    [west + size, south],
    [west + size, south + size],
    [west, south + size],
    [west, south],
  ],
];
// Two countries side by side, with the border at longitude 10.
const gazetteer = Gazetteer.of(
  [
    town('Saltmarsh', 'NL', 'Northshore', 5.1, 9.9, 400),
    town('Kiteham', 'KE', 'Eastshore', 5.1, 10.1, 90_000),
    town('Kiteham', 'NL', 'Southshore', 1, 1, 100),
    town('Kitehaven', 'NL', 'Southshore', 1.5, 1, 2_000_000),
  ],
  [
    { code: 'NL', name: 'Norland', otherNames: ['Nordland', 'Norlande'] },
    { code: 'KE', name: 'Kessel', otherNames: [] },
  ],
  [square(0, 0, 10), square(10, 0, 10)],
);

test('what was worked out can be kept and taken up again', () => {
  const again = new Gazetteer(structuredClone(gazetteer.packed));
  expect(again.towns).toEqual(gazetteer.towns);
  expect(again.find('kite', 5)).toEqual(gazetteer.find('kite', 5));
  for (const longitude of [1, 9.99, 10.01, 19, 40])
    expect(again.whereabouts({ latitude: 5.1, longitude })).toEqual(
      gazetteer.whereabouts({ latitude: 5.1, longitude }),
    );
});

test('towns are found by how their name is met, by their people, and by what stands near the archive’s own', () => {
  const names = (typed: string, near = [{ latitude: 1.1, longitude: 1 }].slice(1)) =>
    gazetteer.find(typed, 5, near).map(({ name, country }) => `${name}, ${country}`);
  expect(names('kiteh')).toEqual(['Kitehaven, Norland', 'Kiteham, Kessel', 'Kiteham, Norland']);
  expect(names('kiteham')).toEqual(['Kiteham, Kessel', 'Kiteham, Norland']);
  expect(names('kiteham', [{ latitude: 1.1, longitude: 1 }])).toEqual(['Kiteham, Norland', 'Kiteham, Kessel']);
  expect(names('kiteham, south')).toEqual(['Kiteham, Norland']);
  expect(names('kiteham, ke')).toEqual(['Kiteham, Kessel']);
  expect(names('Kiteham, Nordl')).toEqual(['Kiteham, Norland']);
});

test('a country is found in any of its languages, and shown where most of its people are', () => {
  expect(gazetteer.find('norlande', 5)[0]).toMatchObject({ kind: 'country', name: 'Norland', latitude: 1.5 });
});

test('a name that several towns have is told with all of them', () => {
  expect(gazetteer.called('kiteham').map(({ country }) => country)).toEqual(['Kessel', 'Norland']);
  expect(gazetteer.called('kiteham', 'Norland')).toHaveLength(1);
});

test('a point is in the country whose outline it lies in, however near a town beyond the border is', () => {
  expect(gazetteer.whereabouts({ latitude: 5.1, longitude: 9.99 })).toEqual({
    ...{ town: 'Saltmarsh', region: 'Northshore', country: 'Norland', countryCode: 'NL' },
    metres: expect.any(Number) as number,
  });
  expect(gazetteer.whereabouts({ latitude: 5.1, longitude: 10.01 })).toMatchObject({
    town: 'Kiteham',
    country: 'Kessel',
  });
});

test('far from any town only the country is said, at sea nothing but a town in sight', () => {
  const nothing = { town: '', metres: -1, region: '' };
  expect(gazetteer.whereabouts({ latitude: 9, longitude: 5 })).toEqual({
    ...nothing,
    country: 'Norland',
    countryCode: 'NL',
  });
  expect(gazetteer.whereabouts({ latitude: 0.9, longitude: -0.1 })).toEqual({
    ...nothing,
    country: '',
    countryCode: '',
  });
  expect(gazetteer.whereabouts({ latitude: -40, longitude: 5 })).toEqual({ ...nothing, country: '', countryCode: '' });
});
