/** @jest-environment ./web/testing/browser.cjs */
import { screen, waitFor } from '@testing-library/react';
import { answering, changesIn, show } from '../testing/render';
import { detailsOf, DONE } from '../testing/fixtures';
import { PlaceTimeTab } from './PlaceTimeTab';

jest.mock('./map/WorldMap', () => ({ WorldMap: () => <p>the map</p> }));

const SELECTION = { query: null, minus: [], plus: [4, 5] };
const PIER = {
  names: { sublocation: 'Old pier', city: 'Saltmarsh', provinceState: '', country: 'Norland', countryCode: 'XN' },
  ...{ ownId: null, town: 'Saltmarsh', metres: 4130 },
};
const server = (fields: Record<string, unknown>, facts: Record<string, string> = {}) =>
  answering({
    showPhoto: { ...detailsOf(4), fields, facts },
    whereabouts: { places: [PIER] },
    listOwnPlaces: { places: [] },
    showOnMap: { photos: 0, extent: null, cells: [] },
    findPlaces: {
      places: [
        {
          kind: 'spot',
          ownId: 3,
          name: 'Old pier',
          detail: '',
          population: 0,
          geonamesId: null,
          latitude: 55.9598,
          longitude: 3.3051,
        },
      ],
    },
    apply: DONE,
  });
const tab = (role: 'keeper' | 'viewer' = 'keeper') =>
  show(<PlaceTimeTab selection={SELECTION} count={2} photoId={4} />, { role });

test('tells where a photo was taken, how it looks, and when, with its zone', async () => {
  server(
    {
      position: { latitude: 55.9598, longitude: 3.3051, altitude: 4, direction: 270 },
      ...{ city: 'Saltmarsh', country: 'Norland', dateCreated: '2019-06-11T14:30:00+02:00' },
    },
    { takenAt: '2019-06-11T13:30:00' },
  );
  tab();
  expect(await screen.findByText('Saltmarsh, Norland')).toBeTruthy();
  expect(screen.getByText('55.9598° N, 3.3051° E')).toBeTruthy();
  expect(screen.getByText('270° from true north')).toBeTruthy();
  expect(await screen.findByText('4.1 km from the middle of Saltmarsh')).toBeTruthy();
  expect(screen.getByText('2019-06-11 14:30:00+02:00')).toBeTruthy();
  expect(screen.getByText('+02:00')).toBeTruthy();
  expect(screen.getByText('2019-06-11 13:30:00')).toBeTruthy();
  expect(screen.getByRole('link', { name: 'What was taken around it' }).getAttribute('href')).toBe(
    `/places?q=${encodeURIComponent('near:55.9598,3.3051,1km')}`,
  );
});

test('all chosen photos are placed where a place is, and names are filled in', async () => {
  const asked = server({});
  const { user } = tab();
  expect(await screen.findByText('Nobody has said where it was taken.')).toBeTruthy();
  expect(screen.getByText('None of them has a position.')).toBeTruthy();
  await user.type(screen.getByLabelText('Place 2 photos at'), 'old');
  await user.click(await screen.findByRole('option', { name: /Old pier/ }));
  await waitFor(() => expect(changesIn(asked)).toHaveLength(1));
  expect(changesIn(asked)).toMatchObject([
    {
      ...{ kind: 'setFields', selection: SELECTION },
      edits: [{ target: 'position' }, { target: 'sublocation', mode: 'fill' }, { target: 'city' }, {}, {}],
    },
  ]);
});

test('a date is said in words; what is none is not sent', async () => {
  const asked = server({ dateUncertain: '1932~', dateCreated: '1932' });
  const { user } = tab();
  expect(await screen.findByText('about 1932 (1932~)')).toBeTruthy();
  const field = screen.getByLabelText('2 photos taken');
  await user.type(field, 'once upon a time{Enter}');
  expect(screen.getByText('That is no date.')).toBeTruthy();
  await user.clear(field);
  await user.type(field, 'summer 1951{Enter}');
  await waitFor(() => expect(changesIn(asked)).toHaveLength(1));
  expect(changesIn(asked)).toEqual([
    { kind: 'changeTime', selection: SELECTION, change: { how: 'date', date: '1951-22' } },
  ]);
  await user.click(screen.getByRole('button', { name: 'Time zone from the position' }));
  await waitFor(() => expect(changesIn(asked).at(-1)).toEqual({ kind: 'noteZones', selection: SELECTION }));
});

test('a viewer reads, and is offered nothing; without a choice it is said what to do', async () => {
  server({ city: 'Saltmarsh' });
  tab('viewer');
  expect(await screen.findByText('Saltmarsh')).toBeTruthy();
  expect(screen.queryByRole('button')).toBeNull();
  expect(screen.queryByRole('combobox')).toBeNull();
});
