/** @jest-environment ./web/testing/browser.cjs */
import { screen, waitFor } from '@testing-library/react';
import { useState } from 'react';
import type { StreetMapRow } from '@stellin/contract/streetMaps';
import { answering, show } from '../testing/render';
import { streetKind } from './map/streetKinds';
import { StreetMaps } from './StreetMaps';

const BOX = { south: 55, west: 3, north: 56, east: 4 };
const MAPS: StreetMapRow[] = [
  {
    ...{ name: 'Norland.pmtiles', bytes: 42_000, version: '1', problem: null },
    shown: { kind: 'vector', minZoom: 8, maxZoom: 14, box: BOX, attribution: 'Norland survey' },
  },
  { ...{ name: 'broken.pmtiles', bytes: 7, version: '1', shown: null }, problem: 'it is cut off' },
];

function Panel({ told }: { told: string[][] }) {
  const [hidden, setHidden] = useState<ReadonlySet<string>>(new Set());
  return (
    <StreetMaps
      hidden={hidden}
      onHidden={(next) => {
        setHidden(next);
        told.push([...next]);
      }}
    />
  );
}

test('street maps are shown until they are switched off; one that can’t be says why', async () => {
  answering({ listStreetMaps: { maps: MAPS } });
  const told: string[][] = [];
  const { user } = show(<Panel told={told} />);
  await user.click(await screen.findByRole('checkbox', { name: /Norland/ }));
  await user.click(screen.getByRole('checkbox', { name: /Norland/ }));
  expect(told).toEqual([['Norland.pmtiles'], []]);
  expect(screen.getByText('Can’t be shown: it is cut off')).toBeTruthy();
  expect(screen.getByRole('checkbox', { name: /broken/ }).hasAttribute('disabled')).toBe(true);
});

test('a file is uploaded as it is, and deleted once that was confirmed', async () => {
  const asked = answering({ listStreetMaps: { maps: MAPS }, removeStreetMap: { done: true } });
  const uploads: [string, RequestInit | undefined][] = [];
  const others = window.fetch;
  window.fetch = (path, init) => {
    if (init?.method !== 'PUT') return others(path, init);
    uploads.push([String(path), init]);
    return Promise.resolve(new Response('{"done":true}'));
  };
  const { user } = show(<Panel told={[]} />);
  const file = new File(['tiles'], 'Kessel & co.pmtiles');
  await screen.findByText('Norland');
  await user.upload(screen.getByLabelText('File of a street map'), file);
  await waitFor(() => expect(uploads).toHaveLength(1));
  expect(uploads[0]).toMatchObject(['/api/street-maps/Kessel%20%26%20co.pmtiles', { body: file }]);
  await user.click(screen.getByRole('button', { name: 'What to do with Norland.pmtiles' }));
  await user.click(await screen.findByRole('menuitem', { name: 'Delete …' }));
  expect(asked.some(({ name }) => name === 'removeStreetMap')).toBe(false);
  await user.click(screen.getByRole('button', { name: 'Delete it' }));
  await waitFor(() =>
    expect(asked.find(({ name }) => name === 'removeStreetMap')).toMatchObject({ params: { name: 'Norland.pmtiles' } }),
  );
});

test('what layers show is told by their names, whoever made them; what nobody knows is not drawn', () => {
  expect(streetKind('Water_polygons', 'MultiPolygon')).toBe('water');
  expect(streetKind('waterway', 'LineString')).toBe('stream');
  expect(streetKind('roads', 'MultiLineString')).toBe('road');
  expect(streetKind('place_labels', 'Point')).toBe('name');
  expect(streetKind('buildings', 'LineString')).toBeUndefined();
  expect(streetKind('weather', 'Polygon')).toBeUndefined();
});
