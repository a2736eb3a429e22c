import type { ChangeInput } from '@stellin/contract/ledger';
import type { Matching } from '@stellin/contract/tracks';
import { PROGRAM } from '../catalogue/viewer';
import { openWorld, putFiles, realJpeg, type World } from '../testing/world';

let world: World;
const ALL = { query: '', minus: [], plus: [] };
const NAMES = ['a', 'b', 'c', 'd'];
/** Local times of the camera, whose clock stands at UTC plus two hours and is ten minutes behind. */
const CLOCKS = ['2030-06-01T13:51:00', '2030-06-01T13:53:00', '2030-06-01T19:00:00'];
const TRACK = `<gpx><trk><trkseg>
  <trkpt lat="55.5" lon="3.5"><ele>4</ele><time>2030-06-01T12:00:00Z</time></trkpt>
  <trkpt lat="55.6" lon="3.6"><ele>8</ele><time>2030-06-01T12:04:00Z</time></trkpt>
</trkseg></trk></gpx>`;
const matching = (trackId: number, more: Partial<Matching['following']> = {}): Matching => ({
  ...{ selection: ALL, trackIds: [trackId], onlyWithout: true },
  following: { zoneMinutes: 120, aheadSeconds: 600, maxGapSeconds: 300, way: 'between', ...more },
});
const FIRST = { state: null, offset: 0 };
const positionOf = async (name: string) => {
  const [row] = await world.services.database.rows<{ position: unknown }>(
    `select t.fields -> 'position' as position from photo_text t join photo p on p.id = t.photo_id where p.name = $1`,
    [`${name}.jpg`],
  );
  return row?.position ?? null;
};
const cityOf = async (name: string) => {
  const selection = { ...ALL, query: `name:${name}.jpg` };
  const { fields } = await world.services.describing.agreement(PROGRAM, selection);
  return fields.find(({ target }) => target === 'city')?.values[0]?.value;
};
let trackId: number;

beforeAll(async () => {
  world = await openWorld();
  const drive = await world.addDrive('Vault');
  await putFiles(
    drive,
    Object.fromEntries(
      await Promise.all(NAMES.map(async (name, i) => [`${name}.jpg`, await realJpeg({}, 20 + i * 40)] as const)),
    ),
  );
  await world.takeIn(drive);
  for (const [i, value] of CLOCKS.entries())
    await world.apply({
      kind: 'setFields',
      selection: { query: `name:${NAMES[i]}.jpg` },
      edits: [{ target: 'dateCreated', mode: 'replace', value }],
    });
  await world.apply({
    ...{ kind: 'saveOwnPlace', placeId: null, parentId: null, placeKind: 'town', name: 'Saltmarsh' },
    ...{ otherNames: [], countryCode: '', note: '', metres: 4000, corners: null },
    point: { latitude: 55.5, longitude: 3.5 },
  } as ChangeInput);
  trackId = await world.services.tracks.add({ name: 'walk.gpx', device: 'Wren', text: TRACK }, world.keeperId);
});
afterAll(() => world.close());

test('a track is kept with who and when, and once however often it is added', async () => {
  await world.services.tracks.add({ name: 'the same.gpx', device: '', text: TRACK }, world.keeperId);
  expect(await world.services.tracks.list()).toMatchObject([
    { id: trackId, name: 'the same.gpx', points: 2, begins: '2030-06-01T12:00:00.000Z', addedBy: 'The keeper' },
  ]);
  expect(await world.services.tracks.line(trackId)).toEqual([
    [
      { latitude: 55.5, longitude: 3.5 },
      { latitude: 55.6, longitude: 3.6 },
    ],
  ]);
});

test('what can’t be read is refused by name', async () => {
  const add = (text: string) => world.services.tracks.add({ name: 'lost.gpx', device: '', text }, world.keeperId);
  await expect(add('<gpx>')).rejects.toThrow('The track “lost.gpx” can’t be read: it is no well-formed XML');
  await expect(add('hello')).rejects.toThrow('it is neither GPX, KML, GeoJSON nor NMEA');
});

test('before it is done each photo is shown with where it comes to lie, or why it does not', async () => {
  const shown = await world.services.tracks.preview(PROGRAM, { ...matching(trackId, { aheadSeconds: 0 }), ...FIRST });
  expect(shown).toMatchObject({ looked: 4, proposedAheadSeconds: 900, zone: 'Europe/London', proposedZoneMinutes: 60 });
  const put = await world.services.tracks.preview(PROGRAM, { ...matching(trackId), ...FIRST });
  expect(put.counts).toMatchObject({ placed: 2, after: 1, timeless: 1, kept: 0 });
  expect(put.rows.map(({ name, state, after }) => [name, state, after?.latitude])).toEqual([
    ['a.jpg', 'placed', 55.525],
    ['b.jpg', 'placed', 55.575],
    ['c.jpg', 'after', undefined],
    ['d.jpg', 'timeless', undefined],
  ]);
  // Only those of one kind, and from one on.
  const listed = async (state: 'placed' | null, offset: number) =>
    (await world.services.tracks.preview(PROGRAM, { ...matching(trackId), state, offset })).rows.map(
      ({ name }) => name,
    );
  expect([await listed('placed', 1), await listed(null, 3)]).toEqual([['b.jpg'], ['d.jpg']]);
});

test('photos are placed in one step, with the names of where they lie, and back again', async () => {
  const follow: ChangeInput = { kind: 'followTracks', ...matching(trackId), naming: { way: 'fill', shown: false } };
  await world.apply(follow);
  expect(await positionOf('a')).toEqual({ latitude: 55.525, longitude: 3.525, altitude: 5 });
  expect(await positionOf('c')).toBeNull();
  expect([await cityOf('a'), await cityOf('b')]).toEqual(['Saltmarsh', undefined]);
  expect(await world.services.search.all.count('near:55.525,3.525,1km')).toBe(1);
  // Those that have a position keep it.
  await expect(
    world.apply({ ...follow, following: matching(trackId, { aheadSeconds: 660 }).following }),
  ).rejects.toThrow('Nothing would change');
  await world.services.ledger.undo(world.keeperId);
  expect(await positionOf('a')).toBeNull();
  expect(await cityOf('a')).toBeUndefined();
});

test('names are filled in from positions, for many photos at once', async () => {
  await world.apply({
    kind: 'setFields',
    selection: { query: '(name:a.jpg or name:b.jpg)' },
    edits: [{ target: 'position', mode: 'replace', value: { latitude: 55.51, longitude: 3.5 } }],
  });
  await world.apply({
    kind: 'setFields',
    selection: { query: 'name:b.jpg' },
    edits: [{ target: 'city', mode: 'replace', value: 'Saltmersc' }],
  });
  const name = (way: 'fill' | 'replace'): ChangeInput => ({
    kind: 'namePlaces',
    selection: { query: '' },
    naming: { way, shown: false },
  });
  const shown = await world.services.places.previewNames(PROGRAM, ALL);
  expect(shown).toMatchObject({ photos: 2, rows: [{ name: 'a.jpg', place: { names: { city: 'Saltmarsh' } } }, {}] });
  await world.apply(name('fill'));
  expect([await cityOf('a'), await cityOf('b'), await cityOf('c')]).toEqual(['Saltmarsh', 'Saltmersc', undefined]);
  await world.apply(name('replace'));
  expect(await cityOf('b')).toBe('Saltmarsh');
});

test('photos are placed by their names where just one place is called so; nothing is guessed', async () => {
  const say = (name: string, city: string) =>
    world.apply({
      kind: 'setFields',
      selection: { query: `name:${name}.jpg` },
      edits: [
        { target: 'position', mode: 'replace', value: null },
        { target: 'city', mode: 'replace', value: city },
      ],
    });
  await say('a', 'Saltmarsh');
  await say('b', 'Springfield');
  await say('c', 'Amsterdam Noord nowhere');
  const { photos, rows } = await world.services.places.previewPositions(PROGRAM, ALL);
  expect(photos).toBe(3);
  const row = (name: string) => rows.find((each) => each.name === `${name}.jpg`);
  expect(row('a')).toMatchObject({ place: 'Saltmarsh', point: { latitude: 55.5, longitude: 3.5 }, several: 0 });
  expect(row('b')?.several).toBeGreaterThan(1);
  expect(row('c')).toMatchObject({ point: null, several: 0 });
  await world.apply({ kind: 'placeByNames', selection: { query: '' } });
  expect([await positionOf('a'), await positionOf('b')]).toEqual([{ latitude: 55.5, longitude: 3.5 }, null]);
});

test('a track that is kept no longer places nothing', async () => {
  await world.services.tracks.remove(trackId);
  await expect(world.services.tracks.preview(PROGRAM, { ...matching(trackId), ...FIRST })).rejects.toThrow(
    'There is no such track',
  );
  await expect(world.services.tracks.remove(trackId)).rejects.toThrow('There is no such track');
});

test('a clock is told by a photo of a spot that the track passed; a spot off the track and a track that is gone are said', async () => {
  const id = await world.services.tracks.add({ name: 'walk.gpx', device: '', text: TRACK }, world.keeperId);
  const asked = { trackIds: [id], zoneMinutes: 120, clock: '2030-06-01T13:52:00' };
  const { passing } = world.services.tracks;
  expect(await passing({ ...asked, spot: { latitude: 55.55, longitude: 3.55 } })).toEqual({
    ...{ aheadSeconds: 600, metres: expect.any(Number) as number },
  });
  expect(await passing({ ...asked, spot: { latitude: 54, longitude: 3.5 } })).toBeNull();
  await expect(passing({ ...asked, trackIds: [9999], spot: { latitude: 55, longitude: 3 } })).rejects.toThrow(
    'such track',
  );
});
