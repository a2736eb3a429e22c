import type { Person } from '../catalogue/viewer';
import type { Direction, StepKind } from '@stellin/core/stepping/stepping';
import { openWorld, putFiles, realJpeg, type World } from '../testing/world';

let world: World;
let keeper: Person;
let ids: Map<string, number>;
beforeAll(async () => {
  world = await openWorld();
  keeper = await world.services.rights.personOf(world.keeperId);
  const [vault, field] = [await world.addDrive('Vault'), await world.addDrive('Field')];
  const made: Record<string, Parameters<typeof realJpeg>[0]> = {
    '2019/June/a.jpg': { dateCreated: '2019-06-02T10:00:00', event: 'Festival' },
    '2019/June/b.jpg': { dateCreated: '2019-06-04T10:00:00', event: 'Festival' },
    '2019/July/c.jpg': { dateCreated: '2019-07-01T09:00:00', event: 'Workshop' },
    '2019/May 10/d.jpg': { dateCreated: '2019-05-10T09:00:00' },
    '2019/May 9/e.jpg': { dateCreated: '2019-05-09T09:00:00', event: 'Opening' },
    'old/f.jpg': { dateCreated: '1934' },
    'old/g.jpg': {},
  };
  let shade = 10;
  for (const [name, said] of Object.entries(made))
    await putFiles(name.startsWith('old') ? field : vault, { [name]: await realJpeg(said, (shade += 20)) });
  await world.takeIn(vault);
  await world.takeIn(field);
  ids = await world.ids();
});
afterAll(() => world.close());

const step = (kind: StepKind, direction: Direction, { photo = '', query = '' } = {}) =>
  world.services.stepping.step(keeper, { kind, direction, query, ...(photo && { photo: ids.get(photo) ?? 0 }) });
const labels = async (kind: StepKind, photo: string) => {
  const [next, before] = [await step(kind, 'next', { photo }), await step(kind, 'before', { photo })];
  return [before?.label ?? null, next?.label ?? null];
};

test.each<[StepKind, string, (string | null)[]]>([
  ['folder', 'a.jpg', ['Vault/2019/July', 'Vault/2019/May 9']],
  // Numbers count as numbers.
  ['folder', 'e.jpg', ['Vault/2019/June', 'Vault/2019/May 10']],
  ['folder', 'd.jpg', ['Vault/2019/May 9', null]],
  ['day', 'a.jpg', ['2019-05-10', '2019-06-04']],
  ['day', 'c.jpg', ['2019-06-04', null]],
  ['month', 'a.jpg', ['2019-05', '2019-07']],
  ['event', 'a.jpg', ['Opening', 'Workshop']],
  ['event', 'd.jpg', ['Opening', 'Festival']],
  ['event', 'c.jpg', ['Festival', null]],
  ['day', 'g.jpg', [null, null]],
])('the %s before and after %s', async (kind, photo, expected) => {
  expect(await labels(kind, photo)).toEqual(expected);
});

test('what a query asks besides stays; without a photo one steps from the first that it finds', async () => {
  expect(await step('day', 'next', { query: 'within:Vault taken:2019-06-02' })).toEqual({
    query: 'taken:2019-06-04 within:Vault',
    label: '2019-06-04',
  });
  expect(await step('folder', 'next', { query: 'within:"Vault/2019/June" rating:0' })).toEqual({
    query: 'within:"Vault/2019/May 9" rating:0',
    label: 'Vault/2019/May 9',
  });
  expect(await step('folder', 'before', { query: 'within:Vault' })).toMatchObject({ label: 'Field' });
  expect(await step('event', 'next', { query: 'event:Festival has:event' })).toMatchObject({ label: 'Workshop' });
  expect(await step('day', 'next', { query: 'name:nothing' })).toBeNull();
});

test('who sees a part steps within it', async () => {
  const { id = 0 } = (await world.services.drives.listFolders(keeper)).find(({ path }) => path === '2019/June') ?? {};
  const scope = { kind: 'folder' as const, folderId: id };
  const part = { ...keeper, seesAll: false, sight: [{ scope, permissions: ['see'] }] } as unknown as Person;
  const asked = { kind: 'folder' as const, direction: 'next' as const, query: '', photo: ids.get('a.jpg') ?? 0 };
  expect(await world.services.stepping.step(part, asked)).toBeNull();
  expect(await world.services.stepping.step(part, { ...asked, photo: ids.get('c.jpg') ?? 0 })).toBeNull();
});

test('what is pinned is one’s own, in its order', async () => {
  const { stepping, accounts } = world.services;
  const other = (await accounts.find('viewer'))?.id ?? 0;
  await stepping.setPinned(keeper.accountId, [
    { kind: 'folder', id: 3 },
    { kind: 'search', id: 1 },
  ]);
  await stepping.setPinned(other, [{ kind: 'dossier', id: 2 }]);
  await stepping.setPinned(keeper.accountId, [
    { kind: 'search', id: 1 },
    { kind: 'folder', id: 3 },
  ]);
  expect(await stepping.pinned(keeper.accountId)).toEqual([
    { kind: 'search', id: 1 },
    { kind: 'folder', id: 3 },
  ]);
  expect(await stepping.pinned(other)).toEqual([{ kind: 'dossier', id: 2 }]);
});
