import type { Person } from '../catalogue/viewer';
import { openWorld, putFiles, realJpeg, type World } from '../testing/world';

let world: World;
let keeper: Person;
let viewer: Person;
beforeAll(async () => {
  world = await openWorld();
  const { rights, accounts } = world.services;
  keeper = await rights.personOf(world.keeperId);
  viewer = await rights.personOf((await accounts.find('viewer'))?.id ?? 0);
  const drive = await world.addDrive('Vault');
  for (const [i, name] of ['a', 'b', 'c'].entries())
    await putFiles(drive, { [`${name}.jpg`]: await realJpeg({}, 20 + i * 60) });
  await world.takeIn(drive);
});
afterAll(() => world.close());

const put = (query: string, way: 'in' | 'out', person = keeper) =>
  world.services.pocket.change(person, { query, minus: [], plus: [] }, way);
const names = async (person = keeper) => {
  const { ids, query } = await world.services.pocket.show(person);
  const byId = new Map([...(await world.ids())].map(([name, id]) => [id, name]));
  expect(query === '' ? 0 : await world.services.search.seenBy(person).count(query)).toBe(ids.length);
  return ids.map((id) => byId.get(id));
};

test('photos are put aside in the order they come, across searches, each for oneself', async () => {
  expect(await names()).toEqual([]);
  await put('name:c.jpg', 'in');
  await put('name:a.jpg or name:c.jpg', 'in');
  await put('name:b.jpg', 'in', viewer);
  expect([await names(), await names(viewer)]).toEqual([['c.jpg', 'a.jpg'], ['b.jpg']]);
  await put('name:c.jpg', 'out');
  expect(await names()).toEqual(['a.jpg']);
  await world.services.pocket.empty(keeper);
  expect([await names(), await names(viewer)]).toEqual([[], ['b.jpg']]);
});

test('what no longer exists for somebody is no longer in their pocket', async () => {
  await world.apply({ kind: 'setPrivate', selection: { query: 'name:b.jpg' }, private: true });
  expect(await names(viewer)).toEqual([]);
  await put('name:b.jpg', 'in', viewer);
  expect(await names(viewer)).toEqual([]);
});
