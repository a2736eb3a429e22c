import type { ThingList, WorkList } from '@stellin/contract/workLists';
import type { Person } from '../catalogue/viewer';
import { openWorld, PASSWORDS, putFiles, realJpeg, type World } from '../testing/world';

let world: World;
let keeper: Person;
let viewer: Person;
let ids: Map<string, number>;
beforeAll(async () => {
  world = await openWorld();
  keeper = await world.services.rights.personOf(world.keeperId);
  viewer = await world.services.rights.personOf((await world.services.accounts.find('viewer'))?.id ?? 0);
  const drive = await world.addDrive('Vault');
  await putFiles(drive, {
    'a.jpg': await realJpeg({ description: 'Rokkaku', dateCreated: '2019-06-02T10:00:00' }, 20),
    'b.jpg': await realJpeg({ dateCreated: '2019-06-02T11:00:00', keywords: ['kites'] }, 60),
    'in/c.jpg': await realJpeg({ dateCreated: '2019-06-02T09:00:00' }, 100),
    'in/d.jpg': await realJpeg({}, 140),
  });
  await world.takeIn(drive);
  ids = await world.ids();
});
afterAll(() => world.close());

const id = (name: string) => ids.get(name) ?? 0;
const lists = () => world.services.workLists;
const listOf = async (which: string, scope = '', person = keeper): Promise<WorkList | undefined> =>
  (await lists().lists(person, scope)).find((each) => each.id === which);
const walked = async (list: string, person = keeper, query = '') => {
  const { photos, left, later } = await lists().walk(person, { list, query, limit: 300 });
  return { names: photos.map(({ name }) => name), left, later };
};
const settle = (list: string, name: string, outcome: 'done' | 'later' | 'open', person = keeper) =>
  lists().settle(person, { list, photoId: id(name), outcome });

test('a list has what its search finds, within what is looked at, and is walked in the order of time', async () => {
  expect(await listOf('caption')).toMatchObject({ photos: 3, done: 0, trend: null, label: 'Without a caption' });
  expect(await listOf('caption', 'within:Vault/in')).toMatchObject({ photos: 2 });
  expect(await walked('caption')).toEqual({ names: ['c.jpg', 'b.jpg', 'd.jpg'], left: 3, later: 0 });
  expect(await walked('caption', keeper, 'within:Vault/in')).toMatchObject({ names: ['c.jpg', 'd.jpg'], left: 2 });
  await expect(walked('nothing')).rejects.toThrow('work list');
});

test('what is done with leaves the list for everybody, is found as that, and comes back', async () => {
  await settle('people', 'a.jpg', 'done');
  await settle('people', 'a.jpg', 'done');
  expect(await listOf('people')).toMatchObject({ photos: 3, done: 1 });
  expect(await listOf('people', '', viewer)).toMatchObject({ photos: 3, done: 1 });
  expect((await walked('people')).names).toEqual(['c.jpg', 'b.jpg', 'd.jpg']);
  expect(await world.services.search.all.count('done:people')).toBe(1);
  expect(await world.services.search.all.count('has:done')).toBe(1);
  // On another list it is as it was.
  expect(await listOf('rating')).toMatchObject({ photos: 4 });
  await settle('people', 'a.jpg', 'open');
  expect(await listOf('people')).toMatchObject({ photos: 4, done: 0 });
});

test('what is put off is so for oneself only, and until tomorrow', async () => {
  await settle('caption', 'b.jpg', 'later');
  expect(await walked('caption')).toEqual({ names: ['c.jpg', 'd.jpg'], left: 2, later: 1 });
  expect(await walked('caption', viewer)).toMatchObject({ left: 3, later: 0 });
  await world.services.database.rows(`update work_later set until = now() - interval '1 second'`);
  expect(await walked('caption')).toMatchObject({ left: 3, later: 0 });
});

test('rules of the team and searches kept on Holdings are lists as well', async () => {
  await world.apply({ kind: 'saveQualityRule', ruleId: null, name: 'Ready', query: '', requires: ['caption'] });
  await world.apply({ kind: 'saveSearch', name: 'Morning', query: 'taken:2019-06-02', sort: 'taken', pinned: true });
  const all = await lists().lists(keeper, '');
  const ruled = all.find(({ label }) => label === 'Ready: without caption');
  expect(ruled).toMatchObject({ group: 'To describe', photos: 3 });
  const kept = all.find(({ group }) => group === 'Kept searches');
  expect(kept).toMatchObject({ label: 'Morning', photos: 3 });
  await settle(kept?.id ?? '', 'c.jpg', 'done');
  expect((await walked(kept?.id ?? '')).names).toEqual(['a.jpg', 'b.jpg']);
});

test('other things are counted for those who settle them', async () => {
  const things = async (person: Person) =>
    Object.fromEntries((await lists().things(person)).map(({ id: which, things: count }: ThingList) => [which, count]));
  expect(await things(keeper)).toMatchObject({ keywords: 1, names: 0, proposals: 0, doubles: 0, backups: 1 });
  expect(Object.keys(await things(viewer)).sort()).toEqual(['doubles', 'doubts']);
});

test('how long lists were is kept by the day, and told to those for whom everything exists', async () => {
  await lists().keepCounts();
  await lists().keepCounts();
  expect(await listOf('caption')).toMatchObject({ trend: null });
  const ago = new Date();
  ago.setDate(ago.getDate() - 3);
  const day = `${ago.getFullYear()}-${String(ago.getMonth() + 1).padStart(2, '0')}-${String(ago.getDate()).padStart(2, '0')}`;
  await world.services.database.rows('update work_count set day = $1, photos = photos + 5', [day]);
  expect(await listOf('caption')).toMatchObject({ photos: 3, trend: -5 });
  expect(await listOf('caption', 'within:Vault/in')).toMatchObject({ trend: null });
  expect(await listOf('caption', '', viewer)).toMatchObject({ trend: null });
});

test('a list is given, is shown to both, and is done', async () => {
  const to = viewer.accountId;
  await lists().give(keeper, {
    list: 'caption',
    query: 'within:Vault/in',
    accountId: to,
    note: 'Please',
    due: '2020-01-01',
  });
  const [mine] = (await lists().given(viewer)).given;
  expect(mine).toMatchObject({
    ...{ label: 'Without a caption', mine: true, by: 'The keeper', note: 'Please', late: true, before: 2, left: 2 },
  });
  expect((await lists().given(keeper)).given).toMatchObject([{ mine: false, to: 'The viewer', left: 2 }]);
  await lists().end(viewer, mine?.id ?? 0, 'done');
  expect(await lists().given(viewer)).toMatchObject({ given: [{ left: null, late: false }], doneInAll: 1 });
  await lists().end(keeper, mine?.id ?? 0, 'open');
  expect((await lists().given(viewer)).doneInAll).toBe(0);
  const other = await world.services.rights.personOf((await world.services.accounts.find('cataloguer'))?.id ?? 0);
  await expect(lists().end(other, mine?.id ?? 0, 'gone')).rejects.toThrow('list of yours');
  await lists().end(keeper, mine?.id ?? 0, 'gone');
  expect((await lists().given(viewer)).given).toEqual([]);
  await expect(
    lists().give(keeper, { list: 'caption', query: '', accountId: 999_999, note: '', due: '' }),
  ).rejects.toThrow('account');
});

test('who sees only a part settles nothing outside of it, and viewers settle nothing', async () => {
  const cookies = await world.app.inject({
    method: 'POST',
    url: '/api/session',
    payload: { name: 'viewer', password: PASSWORDS.viewer },
  });
  const answer = await world.app.inject({
    method: 'POST',
    url: '/api/work-lists/photos',
    headers: { cookie: String(cookies.headers['set-cookie']) },
    payload: { list: 'people', photoId: id('a.jpg'), outcome: 'done' },
  });
  expect(answer.statusCode).toBe(403);
  await expect(settle('people', 'a.jpg', 'done', { ...keeper, held: [], sight: [] } as Person)).rejects.toThrow(
    'such photo',
  );
});
