import { openWorld, putFiles, realJpeg, type World } from '../testing/world';
import { PROGRAM } from '../catalogue/viewer';

let world: World;
let ids: Map<string, number>;
const id = (name: string) => ids.get(name) ?? 0;

beforeAll(async () => {
  world = await openWorld();
  const drive = await world.addDrive('Vault');
  const names = ['a.jpg', 'b.jpg', 'c.jpg', 'd.jpg'];
  await putFiles(
    drive,
    Object.fromEntries(
      await Promise.all(names.map(async (name, i) => [name, await realJpeg({ rating: i }, 20 + i * 40)] as const)),
    ),
  );
  await world.takeIn(drive);
  ids = await world.ids();
});
afterAll(() => world.close());

async function make(name: string, more: { parentId?: number; selection?: { query: string } } = {}): Promise<number> {
  return (await world.apply({ kind: 'makeDossier', name, ...more })).objectId ?? 0;
}
const listed = async () => world.services.dossiers.list(await world.services.rights.personOf(world.keeperId));
const undo = () => world.services.ledger.undo(world.keeperId);
const inOrder = async (query: string) =>
  (await world.services.photos.list(PROGRAM, { query, sort: 'hand', offset: 0, limit: 100 }))
    .map(({ name }) => name)
    .join(' ');

test('a dossier is made of a selection, found by its name, and a photo is put in once', async () => {
  const day = await make('Open day', { selection: { query: 'rating:>=2' } });
  expect(await inOrder('dossier:"open day"')).toBe('c.jpg d.jpg');
  const entry = await world.apply({ kind: 'putInDossier', dossierId: day, selection: { query: 'rating:>=1' } });
  expect(entry).toMatchObject({ title: 'Put 1 photo into “Open day”', photos: 1 });
  expect(await inOrder('dossier:"Open day"')).toBe('c.jpg d.jpg b.jpg');
  expect((await world.services.photos.find(PROGRAM, id('b.jpg'))).dossiers).toEqual([
    { id: day, path: 'Open day', query: 'dossier:"Open day"' },
  ]);
  expect(await world.services.search.all.count('missing:dossier')).toBe(1);
});

test('photos are arranged by hand and stay so; taking it back puts them where they were', async () => {
  const day = (await listed())[0]?.id ?? 0;
  const arrange = (names: string[], before: string | null) =>
    world.apply({ kind: 'arrangeDossier', dossierId: day, photoIds: names.map(id), before: before && id(before) });
  await arrange(['d.jpg', 'b.jpg'], 'c.jpg');
  expect(await inOrder('dossier:"Open day"')).toBe('d.jpg b.jpg c.jpg');
  // Again and again into the same gap: the numbers run out and are made anew.
  for (let i = 0; i < 60; i++) await arrange([i % 2 ? 'b.jpg' : 'c.jpg'], i % 2 ? 'c.jpg' : 'b.jpg');
  expect(await inOrder('dossier:"Open day"')).toBe('d.jpg b.jpg c.jpg');
  await arrange(['d.jpg'], null);
  expect(await inOrder('dossier:"Open day"')).toBe('b.jpg c.jpg d.jpg');
  await undo();
  expect(await inOrder('dossier:"Open day"')).toBe('d.jpg b.jpg c.jpg');
});

test('dossiers nest: the upper one finds what is in the lower ones, and none can lie in itself', async () => {
  const day = (await listed())[0]?.id ?? 0;
  const poster = await make('Poster', { parentId: day, selection: { query: 'name:a.jpg' } });
  const drafts = await make('Drafts', { parentId: poster });
  expect((await listed()).map(({ path, photos }) => [path, photos])).toEqual([
    ['Open day', 4],
    ['Open day/Poster', 1],
    ['Open day/Poster/Drafts', 0],
  ]);
  await expect(world.apply({ kind: 'placeDossier', dossierId: day, parentId: drafts, before: null })).rejects.toThrow(
    'in itself',
  );
  await expect(make('Poster', { parentId: day })).rejects.toThrow('already');
  await world.apply({ kind: 'placeDossier', dossierId: poster, parentId: null, before: day });
  expect((await listed()).map(({ path }) => path)).toEqual(['Poster', 'Poster/Drafts', 'Open day']);
  await undo();
});

test('saved searches follow when a dossier is called otherwise', async () => {
  await world.apply({ kind: 'saveSearch', name: 'Day, rated', query: 'dossier:"Open day" rating:>=2', sort: 'taken' });
  const day = (await listed())[0]?.id ?? 0;
  await world.apply({ kind: 'changeDossier', dossierId: day, name: 'Open days', note: 'for the board' });
  expect((await world.services.search.all.list())[0]).toMatchObject({
    query: 'dossier:"Open days" rating:>=2',
    count: 2,
  });
  await undo();
  expect((await world.services.search.all.list())[0]).toMatchObject({
    query: 'dossier:"Open day" rating:>=2',
    count: 2,
  });
});

test('a copy holds the same photos in the same order; removing takes all below along, never a photo, and comes back', async () => {
  const [day] = await listed();
  const copy = (await world.apply({ kind: 'copyDossier', dossierId: day?.id ?? 0, name: 'Second day' })).objectId ?? 0;
  expect(await inOrder('dossier:"Second day"')).toBe('d.jpg b.jpg c.jpg');
  await world.apply({ kind: 'takeFromDossier', dossierId: copy, selection: { query: 'name:b.jpg' } });
  expect(await inOrder('dossier:"Second day"')).toBe('d.jpg c.jpg');
  const entry = await world.apply({ kind: 'removeDossier', dossierId: day?.id ?? 0 });
  expect(entry.title).toBe('Remove the dossier “Open day” with 2 dossiers in it');
  expect((await listed()).map(({ name }) => name)).toEqual(['Second day']);
  expect(await world.services.search.all.count('')).toBe(4);
  await undo();
  expect((await listed()).map(({ path, photos }) => [path, photos])).toEqual([
    ['Open day', 4],
    ['Open day/Poster', 1],
    ['Open day/Poster/Drafts', 0],
    ['Second day', 2],
  ]);
  expect(await inOrder('dossier:"Open day"')).toBe('d.jpg b.jpg c.jpg a.jpg');
});

test('one dossier is pinned for oneself; a cover is chosen or the first photo', async () => {
  const [day] = await listed();
  await world.services.dossiers.pin(world.keeperId, day?.id ?? 0);
  expect((await listed()).filter(({ pinned }) => pinned).map(({ name }) => name)).toEqual(['Open day']);
  expect(day?.cover?.photoId).toBe(id('d.jpg'));
  await world.apply({ kind: 'changeDossier', dossierId: day?.id ?? 0, coverPhoto: id('c.jpg') });
  expect((await listed())[0]?.cover?.photoId).toBe(id('c.jpg'));
  await world.services.dossiers.pin(world.keeperId, null);
  expect((await listed()).some(({ pinned }) => pinned)).toBe(false);
});
