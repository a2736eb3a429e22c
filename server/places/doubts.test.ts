import { openWorld, putFiles, realJpeg, type World } from '../testing/world';
import { PROGRAM } from '../catalogue/viewer';

let world: World;
const PIER = { latitude: 55.9598, longitude: 3.3051 };
const FAR = { latitude: 57.5, longitude: 9.9 };
beforeAll(async () => {
  world = await openWorld();
  const drive = await world.addDrive('Vault');
  let shade = 0;
  const photo = (changes: Parameters<typeof realJpeg>[0]) => realJpeg(changes, (shade += 3));
  const camera = { city: 'Saltmarsh', country: 'Norland' };
  await putFiles(drive, {
    'right.jpg': await photo({ ...camera, position: PIER }),
    'wrong-1.jpg': await photo({ ...camera, position: FAR }),
    'wrong-2.jpg': await photo({ ...camera, position: FAR }),
    'abroad.jpg': await photo({ country: 'Denmark', position: { latitude: 48.2, longitude: 16.37 } }),
    'barn-1.jpg': await photo({ sublocation: 'Red barn', city: 'Nowherington' }),
    'barn-2.jpg': await photo({ sublocation: 'Red barn', city: 'Nowherington' }),
    'known.jpg': await photo({ city: 'Saltmarsh' }),
    'country.jpg': await photo({ country: 'Norland' }),
  });
  await world.takeIn(drive);
  await world.apply({
    ...{ kind: 'saveOwnPlace', placeId: null, parentId: null, placeKind: 'town', name: 'Saltmarsh' },
    ...{ point: PIER, metres: 3000 },
  });
});
afterAll(() => world.close());

const doubts = () => world.services.doubts.doubts(PROGRAM);
const count = (query: string) => world.services.search.all.count(query);

test('positions far from what the names mean, or in another country, are listed with what finds them', async () => {
  const { contradictions } = await doubts();
  expect(contradictions.found).toBe(2);
  expect(contradictions.rows).toMatchObject([
    { says: 'Saltmarsh, Norland', photos: 2 },
    { says: 'Denmark', photos: 1, metres: null },
  ]);
  expect(contradictions.rows[0]?.metres).toBeGreaterThan(400_000);
  for (const { query, photos } of contradictions.rows) expect(await count(query)).toBe(photos);
});

test('names that no place knows are listed until a place is called so, or they are left', async () => {
  const { unknownNames } = await doubts();
  expect(unknownNames.rows).toMatchObject([{ says: 'Red barn, Nowherington', photos: 2 }]);
  const { names = { sublocation: '', city: '', provinceState: '', country: '', countryCode: '' } } =
    unknownNames.rows[0] ?? {};
  await world.apply({ kind: 'leavePlaceNames', names });
  expect((await doubts()).unknownNames).toEqual({ found: 0, rows: [] });
  await expect(world.apply({ kind: 'leavePlaceNames', names })).rejects.toThrow('already');
  await world.services.ledger.undo(world.keeperId);
  expect((await doubts()).unknownNames.found).toBe(1);
  await world.apply({
    ...{ kind: 'saveOwnPlace', placeId: null, parentId: null, placeKind: 'spot', name: 'Barn of the Hansens' },
    ...{ otherNames: [{ name: 'Red barn' }] },
  });
  expect((await doubts()).unknownNames.found).toBe(0);
});

test('photos of one camera that are too far apart for the time between them are listed', async () => {
  const { database } = world.services;
  const ids = await world.ids();
  const taken = async (name: string, time: string) => {
    await database.rows('update photo set taken_at = $2, taken_until = null where id = $1', [ids.get(name), time]);
    await database.rows(
      `update photo_text set facts = facts || '{"make":"Corvina","model":"M3"}', camera_folded = 'corvina m3' where photo_id = $1`,
      [ids.get(name)],
    );
  };
  await taken('right.jpg', '2019-06-11T14:00:00Z');
  await taken('wrong-1.jpg', '2019-06-11T14:08:20Z');
  // By the next day anybody can be there.
  await taken('wrong-2.jpg', '2019-06-11T14:08:30Z');
  await taken('abroad.jpg', '2019-06-13T14:08:30Z');
  const { jumps } = await doubts();
  expect(jumps.rows).toMatchObject([{ camera: 'Corvina M3', seconds: 500, photos: 2, photoId: ids.get('right.jpg') }]);
  expect(jumps.rows[0]?.metres).toBeGreaterThan(400_000);
});

test('what a person may not see raises no doubt for them', async () => {
  const nobody = { ...PROGRAM, sight: [] };
  expect(await world.services.doubts.doubts(nobody)).toEqual({
    contradictions: { found: 0, rows: [] },
    jumps: { found: 0, rows: [] },
    unknownNames: { found: 0, rows: [] },
  });
});
