import { OwnPlaces, placingProblem, type OwnPlace, type PlaceKind } from './ownPlaces';

const place = (
  id: number,
  parentId: number | null,
  kind: PlaceKind,
  name: string,
  more: Partial<OwnPlace> = {},
): OwnPlace => ({
  ...{ id, parentId, kind, name, otherNames: [], countryCode: '', note: '', point: null, metres: null, corners: null },
  ...{ geonamesId: null, termId: null },
  ...more,
});
const corner = (latitude: number, longitude: number) => ({ latitude, longitude });
const places = new OwnPlaces([
  place(1, null, 'country', 'Norland', {
    countryCode: 'XN',
    corners: [corner(55, 3), corner(55, 4), corner(56, 4), corner(56, 3)],
  }),
  place(2, 1, 'region', 'Northshore'),
  place(3, 2, 'town', 'Saltmarsh', {
    point: corner(55.5, 3.5),
    otherNames: [{ name: 'Saltmersc', from: '', until: '1880' }],
  }),
  place(4, 3, 'spot', 'Old pier', { point: corner(55.501, 3.5) }),
  place(5, 4, 'spot', 'Pier head', { point: corner(55.502, 3.5), metres: 50 }),
  place(6, 1, 'town', 'Ebbwick', { point: corner(55.53, 3.5), metres: 3000 }),
]);

test('a point lies in the narrowest place that holds it, and nowhere where none does', () => {
  const at = (latitude: number, longitude: number) => places.at(corner(latitude, longitude))?.name;
  expect(at(55.5011, 3.5)).toBe('Old pier');
  expect(at(55.502, 3.5)).toBe('Pier head');
  expect(at(55.52, 3.5)).toBe('Ebbwick');
  expect(at(55.49, 3.5)).toBe('Saltmarsh');
  expect(at(55.9, 3.9)).toBe('Norland');
  expect(at(57, 3.9)).toBeUndefined();
});

test('a place says its name and those it lies in, in the fields of their kind', () => {
  expect(places.said(5)).toEqual({
    ...{ country: 'Norland', countryCode: 'XN', provinceState: 'Northshore', city: 'Saltmarsh' },
    sublocation: 'Pier head',
  });
  expect(places.said(6)).toEqual({ country: 'Norland', countryCode: 'XN', city: 'Ebbwick' });
});

test('places are found by any of their names', () => {
  const names = (typed: string) => places.find(typed, 9).map(({ name }) => name);
  expect(names('pier')).toEqual(['Pier head', 'Old pier']);
  expect(names('saltmer')).toEqual(['Saltmarsh']);
  expect(places.called('Saltmersc', 'town').map(({ id }) => id)).toEqual([3]);
  expect(places.called('Saltmersc', 'spot')).toEqual([]);
});

test('names mean the spot they name, else the town; wider names tell those apart that are called alike', () => {
  const two = new OwnPlaces([
    ...places.all,
    place(7, null, 'country', 'Kessel'),
    place(8, 7, 'town', 'Saltmarsh', { point: corner(10, 10) }),
    place(9, 8, 'spot', 'Old pier', { point: corner(10, 10) }),
  ]);
  const ids = (names: Parameters<typeof two.meant>[0]) => two.meant(names).map(({ id }) => id);
  expect(ids({ sublocation: 'old PIER', city: 'Saltmarsh', country: 'Norland' })).toEqual([4]);
  expect(ids({ city: 'Saltmarsh' })).toEqual([3, 8]);
  expect(ids({ city: 'Saltmersc', country: 'Norland' })).toEqual([3]);
  expect(ids({ city: 'Saltmarsh', country: 'Southland' })).toEqual([]);
  expect(ids({ sublocation: 'Nowhere', city: 'Ebbwick' })).toEqual([6]);
  // A country alone says too little.
  expect(ids({ country: 'Norland' })).toEqual([]);
  expect(ids({})).toEqual([]);
});

test('a path ends even where places lie in a circle', () => {
  const circle = new OwnPlaces([place(1, 2, 'spot', 'A'), place(2, 1, 'spot', 'B')]);
  expect(circle.path(1).map(({ name }) => name)).toEqual(['B', 'A']);
});

test.each<[PlaceKind, number | null, string | undefined]>([
  ['spot', 4, undefined],
  ['town', 1, undefined],
  ['country', null, undefined],
  ['town', 3, 'a town can’t lie in a town'],
  ['region', 4, 'a region can’t lie in a spot'],
])('a %s below %s: %s', (kind, parentId, problem) => {
  expect(placingProblem(kind, parentId === null ? null : (places.get(parentId) ?? null))).toBe(problem);
});
