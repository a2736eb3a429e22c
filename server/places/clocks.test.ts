import { openWorld, putFiles, realJpeg, type World } from '../testing/world';
import { PROGRAM } from '../catalogue/viewer';

let world: World;
const EVERYTHING = { query: '', minus: [], plus: [] };
beforeAll(async () => {
  world = await openWorld();
  const drive = await world.addDrive('Vault');
  await putFiles(drive, {
    'a.jpg': await realJpeg({}, 30),
    'b.jpg': await realJpeg({ dateCreated: '2019-06-04T09:00:00' }, 40),
    'c.jpg': await realJpeg({}, 50),
    'berlin.jpg': await realJpeg(
      { dateCreated: '2019-07-01T12:00:00', position: { latitude: 52.52, longitude: 13.4 } },
      60,
    ),
    'zoned.jpg': await realJpeg(
      { dateCreated: '2019-07-01T12:00:00+05:00', position: { latitude: 52.52, longitude: 13.4 } },
      70,
    ),
  });
  await world.takeIn(drive);
  const { database } = world.services;
  const ids = await world.ids();
  // What their cameras wrote.
  for (const [name, takenAt] of [
    ['a.jpg', '2019-06-03T10:00:00'],
    ['b.jpg', '2019-06-04T10:00:00'],
    ['c.jpg', '2019-06-10T10:00:00'],
  ])
    await database.rows(
      `update photo_text set facts = facts || jsonb_build_object('make', 'Corvina', 'model', 'M3', 'takenAt', $2::text),
         camera_folded = 'corvina m3' where photo_id = $1`,
      [ids.get(name ?? ''), takenAt],
    );
});
afterAll(() => world.close());

const clocks = () => world.services.clocks.list(PROGRAM);
const saidBy = async (name: string) => {
  const rows = await world.services.database.rows<{ said: string | null }>(
    `select t.fields ->> 'dateCreated' as said from photo p join photo_text t on t.photo_id = p.id where p.name = $1`,
    [name],
  );
  return rows[0]?.said ?? null;
};
const CLOCK = {
  ...{ kind: 'saveCameraClock' as const, clockId: null, camera: 'Corvina M3' },
  ...{ from: '2019-06-03', until: '2019-06-09', aheadSeconds: 3600 },
};

test('photos that still say what a wrong clock said are counted and put right; others are left', async () => {
  await world.apply(CLOCK);
  expect(await clocks()).toMatchObject([{ camera: 'Corvina M3', aheadSeconds: 3600, photos: 1 }]);
  await world.apply({ kind: 'putClocksRight', selection: EVERYTHING });
  expect([await saidBy('a.jpg'), await saidBy('b.jpg'), await saidBy('c.jpg')]).toEqual([
    '2019-06-03T09:00:00',
    '2019-06-04T09:00:00',
    null,
  ]);
  expect(await clocks()).toMatchObject([{ photos: 0 }]);
  // There is nothing left to put right.
  await expect(world.apply({ kind: 'putClocksRight', selection: EVERYTHING })).rejects.toThrow();
  await world.services.ledger.undo(world.keeperId);
  expect(await saidBy('a.jpg')).toBeNull();
});

test('a clock is changed and forgotten; one whose days are the wrong way round, or that is gone, is refused', async () => {
  const [clock] = await clocks();
  const clockId = clock?.id ?? 0;
  await world.apply({ ...CLOCK, clockId, until: '2019-06-10' });
  expect(await clocks()).toMatchObject([{ photos: 2 }]);
  await expect(world.apply({ ...CLOCK, from: '2019-06-10', until: '2019-06-09' })).rejects.toThrow('before the first');
  await world.apply({ kind: 'removeCameraClock', clockId });
  expect(await clocks()).toEqual([]);
  await expect(world.apply({ kind: 'removeCameraClock', clockId })).rejects.toThrow('no such clock');
  await world.services.ledger.undo(world.keeperId);
  expect(await clocks()).toMatchObject([{ until: '2019-06-10' }]);
});

test('the zone of a place is noted with times that say none, in summer the summer’s', async () => {
  await world.apply({ kind: 'noteZones', selection: EVERYTHING });
  expect(await saidBy('berlin.jpg')).toBe('2019-07-01T12:00:00+02:00');
  expect(await saidBy('zoned.jpg')).toBe('2019-07-01T12:00:00+05:00');
});

test('photos that somebody may not see are not counted for them', async () => {
  expect(await world.services.clocks.list({ ...PROGRAM, sight: [] })).toMatchObject([{ photos: 0 }]);
});

test('photos are spread along a line by when they were taken; those without a time stay where they are', async () => {
  await world.apply({
    ...{ kind: 'spreadPhotos', from: { latitude: 55, longitude: 3 }, to: { latitude: 55, longitude: 4 } },
    ...{ selection: { query: 'name:b.jpg or name:berlin.jpg or name:c.jpg', minus: [], plus: [] } },
    naming: { way: 'none', shown: false },
  });
  const rows = await world.services.database.rows<{ name: string; longitude: number | null }>(
    `select p.name, (t.fields -> 'position' ->> 'longitude')::float8 as longitude
     from photo p join photo_text t on t.photo_id = p.id order by p.name`,
  );
  const at = Object.fromEntries(rows.map(({ name, longitude }) => [name, longitude]));
  expect(at).toMatchObject({ 'b.jpg': 3, 'berlin.jpg': 4, 'c.jpg': null });
  await world.services.ledger.undo(world.keeperId);
  await expect(
    world.apply({
      ...{ kind: 'spreadPhotos', from: { latitude: 55, longitude: 3 }, to: { latitude: 55, longitude: 4 } },
      ...{ selection: { query: 'name:c.jpg', minus: [], plus: [] }, naming: { way: 'none', shown: false } },
    }),
  ).rejects.toThrow('known when it was taken');
});

test('photos are told by camera and time; those without a camera, and what somebody may not see, are left out', async () => {
  const all = await world.services.clocks.camerasByTime(PROGRAM, EVERYTHING);
  expect(all).toMatchObject({ looked: 3, isWhole: true });
  expect(all.cameras.map(({ camera, photos }) => [camera, photos.map(({ name, clock }) => [name, clock])])).toEqual([
    [
      'Corvina M3',
      [
        ['a.jpg', '2019-06-03T10:00:00'],
        ['b.jpg', '2019-06-04T10:00:00'],
        ['c.jpg', '2019-06-10T10:00:00'],
      ],
    ],
  ]);
  // What was put right since is when it was taken.
  expect(all.cameras[0]?.photos[1]?.time).toBe('2019-06-04T09:00:00');
  const ids = await world.ids();
  const selection = { ...EVERYTHING, query: null, plus: [ids.get('c.jpg') ?? 0] };
  expect((await world.services.clocks.camerasByTime(PROGRAM, selection)).looked).toBe(1);
});
