// The museum's own places: an island that no atlas has, its towns, and spots that only the museum knows.

import type { ChangeInput } from '@stellin/contract/ledger';
import { COAST, NORLAND_SHORE } from '../archive/coast';
import { ARCHIVIST, apply, type Preparing } from './applying';

type Form = Omit<
  Extract<ChangeInput, { kind: 'saveOwnPlace' }>,
  'kind' | 'placeId' | 'parentId' | 'name' | 'placeKind'
>;
type Kind = Extract<ChangeInput, { kind: 'saveOwnPlace' }>['placeKind'];

/** Each with the name of what it lies in, which stands before it. */
const PLACES: readonly (readonly [name: string, within: string | null, kind: Kind, form: Form])[] = [
  [
    'Norland',
    null,
    'country',
    { countryCode: 'XN', point: { latitude: 55.95, longitude: 3.53 }, corners: [...NORLAND_SHORE] },
  ],
  ['Westshore', 'Norland', 'region', { point: { latitude: 55.99, longitude: 3.36 } }],
  ['Kesselland', 'Norland', 'region', { point: { latitude: 55.88, longitude: 3.66 } }],
  [
    'Saltmarsh',
    'Westshore',
    'town',
    { point: COAST.Saltmarsh, metres: 3000, otherNames: [{ name: 'Saltmersc', from: '1204', until: '1641' }] },
  ],
  ['Kessel', 'Kesselland', 'town', { point: COAST.Kessel, metres: 2500 }],
  ['Kolmer Point', 'Westshore', 'spot', { point: COAST['Kolmer Point'], metres: 1500 }],
  ['Great Marsh', 'Westshore', 'spot', { point: COAST['Great Marsh'], metres: 2000 }],
  ['Hask Hill', 'Norland', 'spot', { point: COAST['Hask Hill'], metres: 1500 }],
  [
    'Old pier',
    'Saltmarsh',
    'spot',
    { point: { latitude: 55.9598, longitude: 3.3051 }, metres: 200, note: 'Gone since the storm of 1953' },
  ],
  ['Kite meadow', 'Saltmarsh', 'spot', { point: { latitude: 55.9644, longitude: 3.3172 }, metres: 350 }],
];

export async function setUpPlaces({ services }: Preparing): Promise<void> {
  for (const [name, within, placeKind, form] of PLACES) {
    const own = await services.places.listOwn();
    if (own.some((place) => place.name === name)) continue;
    const parentId = own.find((place) => place.name === within)?.id ?? null;
    await apply(services, ARCHIVIST, { kind: 'saveOwnPlace', placeId: null, parentId, name, placeKind, ...form });
  }
}
