import type { ChangeInput } from '@stellin/contract/ledger';
import { openWorld, putFiles, realJpeg, type World } from '../testing/world';

let world: World;
beforeAll(async () => {
  world = await openWorld();
  const drive = await world.addDrive('Vault');
  await putFiles(drive, {
    'a.jpg': await realJpeg({ sublocation: 'Old pier', city: 'Saltmarsh', country: 'Norland' }, 30),
    'b.jpg': await realJpeg({ sublocation: 'old PIER' }, 40),
    // Another pier of that name, in another town.
    'c.jpg': await realJpeg({ sublocation: 'Old pier', city: 'Kessel' }, 50),
    'd.jpg': await realJpeg({ city: 'Saltmarsh' }, 60),
  });
  await world.takeIn(drive);
  const place = (name: string, placeKind: 'country' | 'town' | 'spot', within: string | null): Promise<unknown> =>
    own().then((places) =>
      world.apply({
        ...{ kind: 'saveOwnPlace', placeId: null, placeKind, name },
        parentId: places.get(within ?? '') ?? null,
      }),
    );
  await place('Norland', 'country', null);
  await place('Saltmarsh', 'town', 'Norland');
  await place('Harbour', 'spot', 'Saltmarsh');
  await place('Old pier', 'spot', 'Saltmarsh');
});
afterAll(() => world.close());

const own = async () => new Map((await world.services.places.listOwn()).map(({ name, id }) => [name, id]));
const said = async (field: string) => {
  const rows = await world.services.database.rows<{ name: string; said: string | null }>(
    'select p.name, t.fields ->> $1 as said from photo p join photo_text t on t.photo_id = p.id order by p.name',
    [field],
  );
  return rows.map((row) => row.said);
};
const rename = async (from: string, name: string, placeKind: 'town' | 'spot', within: string): Promise<ChangeInput> => {
  const places = await own();
  return {
    ...{ kind: 'saveOwnPlace', placeId: places.get(from) ?? 0, placeKind, name, rewrite: true },
    parentId: places.get(within) ?? null,
  };
};

test('photos that say a place follow its new name, others of that name do not, and one undo brings all back', async () => {
  await world.apply(await rename('Old pier', 'Long pier', 'spot', 'Saltmarsh'));
  expect(await said('sublocation')).toEqual(['Long pier', 'Long pier', 'Old pier', null]);
  await world.services.ledger.undo(world.keeperId);
  expect(await said('sublocation')).toEqual(['Old pier', 'old PIER', 'Old pier', null]);
  expect([...(await own()).keys()]).toContain('Old pier');
});

test('a town that is called otherwise is so in photos of what lies in it, too', async () => {
  await world.apply(await rename('Saltmarsh', 'Saltmarsh-on-Sea', 'town', 'Norland'));
  expect(await said('city')).toEqual(['Saltmarsh-on-Sea', null, 'Kessel', 'Saltmarsh-on-Sea']);
  await world.services.ledger.undo(world.keeperId);
});

test('photos of a place that is merged say the other one', async () => {
  const places = await own();
  const [placeId, intoId] = [places.get('Old pier') ?? 0, places.get('Harbour') ?? 0];
  await world.apply({ kind: 'mergeOwnPlaces', placeId, intoId, rewrite: true });
  expect(await said('sublocation')).toEqual(['Harbour', 'Harbour', 'Old pier', null]);
  await world.services.ledger.undo(world.keeperId);
});

test('without that wish photos keep what they say', async () => {
  await world.apply({ ...(await rename('Old pier', 'Long pier', 'spot', 'Saltmarsh')), rewrite: false } as ChangeInput);
  expect(await said('sublocation')).toEqual(['Old pier', 'old PIER', 'Old pier', null]);
});
