// The museum's own places: an island that no atlas has, its towns, and spots that only the museum knows.

import { Readable } from 'node:stream';
import type { ChangeInput } from '@stellin/contract/ledger';
import { COAST, NORLAND_SHORE } from '../archive/coast';
import { OLD_MAP_PINS, paintOldMap } from '../archive/oldMap';
import { paintStreets } from '../archive/streets';
import { ARCHIVIST, accountId, apply, type Preparing } from './applying';

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
  await keepWalk(services);
  await layOldMap(services);
  await layStreets(services);
  await leaveContradictions(services);
}

async function layStreets({ streetMaps }: Preparing['services']): Promise<void> {
  const name = 'Streets of Norland.pmtiles';
  if ((await streetMaps.list()).some((map) => map.name === name)) return;
  const file = paintStreets();
  await streetMaps.add(name, Readable.from([Buffer.from(file)]), file.length);
}

async function layOldMap(services: Preparing['services']): Promise<void> {
  const { oldMaps } = services;
  const name = 'Chart of Norland, 1874';
  if ((await oldMaps.list()).some((map) => map.name === name)) return;
  const id = await oldMaps.add(name, await paintOldMap(), await accountId(services, ARCHIVIST));
  await oldMaps.change(id, { name, note: 'From the museum’s own collection', pins: OLD_MAP_PINS });
}

/** Where no photo of the museum was taken: the open sea, far from the island. */
const ASTRAY = { latitude: 57.62, longitude: 5.87 };

/** Positions that can't be right, and a name that no place knows: something is to be settled. */
async function leaveContradictions(services: Preparing['services']): Promise<void> {
  const [first, second, ...others] = await services.search.all.page('place:Saltmarsh has:position', 'taken', 0, 5);
  const strayed = [first, second].filter((id) => id !== undefined);
  if (strayed.length > 0)
    await apply(services, ARCHIVIST, {
      ...{ kind: 'setFields', selection: { query: null, minus: [], plus: strayed } },
      edits: [{ target: 'position', mode: 'replace', value: ASTRAY }],
    });
  if (others.length > 0)
    await apply(services, ARCHIVIST, {
      ...{ kind: 'setFields', selection: { query: null, minus: [], plus: others } },
      edits: [
        { target: 'sublocation', mode: 'replace', value: 'Tarred shed' },
        { target: 'city', mode: 'replace', value: 'Salt Marsh' },
      ],
    });
}

/** The way that somebody walked with a receiver on the day with most photos without a position. */
const WALK = [COAST.Saltmarsh, COAST['Great Marsh'], COAST['Hask Hill'], COAST['Kolmer Point'], COAST.Saltmarsh];
const FIRST_HOUR = 6;
const LAST_HOUR = 21;
const MINUTES_BETWEEN = 2;
/** The island has the time of UTC, and the cameras' clocks were an hour behind that day. */
const HOURS_BEHIND = 1;

async function keepWalk(services: Preparing['services']): Promise<void> {
  const days = await services.search.all.groups('missing:position taken:>=2000', 'taken');
  const [busiest] = days.filter(({ key }) => key !== null).sort((a, b) => b.count - a.count);
  if (!busiest?.key) return;
  const moments = ((LAST_HOUR - FIRST_HOUR) * 60) / MINUTES_BETWEEN;
  const points = Array.from({ length: moments + 1 }, (_, i) => {
    const at = (i / moments) * (WALK.length - 1);
    const [from, to] = [WALK[Math.floor(at)], WALK[Math.ceil(at)]];
    const part = at - Math.floor(at);
    const between = (a = 0, b = 0) => (a + (b - a) * part).toFixed(6);
    const time =
      Date.parse(`${busiest.key}T00:00:00Z`) + (FIRST_HOUR + HOURS_BEHIND) * 3_600_000 + i * MINUTES_BETWEEN * 60_000;
    return `<trkpt lat="${between(from?.latitude, to?.latitude)}" lon="${between(from?.longitude, to?.longitude)}"><ele>${4 + (i % 9)}</ele><time>${new Date(time).toISOString()}</time></trkpt>`;
  });
  const text = `<?xml version="1.0"?>\n<gpx version="1.1" creator="Wren" xmlns="http://www.topografix.com/GPX/1/1"><trk><name>Round the island</name><trkseg>\n${points.join('\n')}\n</trkseg></trk></gpx>\n`;
  await services.tracks.add(
    { name: 'Round the island.gpx', device: 'Wren logger', text },
    await accountId(services, ARCHIVIST),
  );
}
