import { rm } from 'node:fs/promises';
import sharp, { type Sharp } from 'sharp';
import { selection } from '@stellin/contract/photos';
import { openWorld, putFiles, type World } from '../testing/world';
import { PROGRAM } from '../catalogue/viewer';

let world: World;
let drive: string;
beforeEach(async () => {
  world = await openWorld({ connections: 3 });
  drive = await world.addDrive('Vault');
});
afterEach(() => world.close());

const SKY = { r: 70, g: 130, b: 220 };
const MEADOW = { r: 80, g: 140, b: 60 };
const RED = { r: 210, g: 40, b: 30 };

/** A kite in the sky over a meadow. */
const kite = (left: number, { background = SKY, ground = MEADOW, soft = 0 } = {}) => {
  const picture = sharp({ create: { width: 600, height: 400, channels: 3, background } }).composite([
    { input: { create: { width: 600, height: 120, channels: 3, background: ground } }, left: 0, top: 280 },
    { input: { create: { width: 120, height: 120, channels: 3, background: RED } }, left, top: 80 },
  ]);
  return picture
    .png()
    .toBuffer()
    .then((png) => (soft ? sharp(png).blur(soft) : sharp(png)));
};
const file = async (picture: Promise<Sharp>, taken?: string) =>
  (await picture)
    .jpeg({ quality: 92 })
    .withExif(taken ? { IFD0: { Model: 'Corvina 7' }, IFD2: { DateTimeOriginal: taken } } : {})
    .toBuffer();

async function found(query: string, sort: 'name' | 'likeness' = 'name', who = PROGRAM): Promise<string[]> {
  const names = new Map([...(await world.ids())].map(([name, id]) => [id, name]));
  const ids = await world.services.search.seenBy(who).page(query, sort, 0, 100);
  return ids.map((id) => names.get(id) ?? '?');
}

async function takeKitesIn() {
  const original = await kite(200);
  await putFiles(drive, {
    'a.jpg': await file(kite(200)),
    'brighter.jpg': await file(
      kite(200).then(async (picture) => sharp(await picture.modulate({ brightness: 1.1 }).png().toBuffer())),
    ),
    'moved.jpg': await file(kite(250)),
    'cut.jpg': await file(
      original
        .clone()
        .extract({ left: 60, top: 40, width: 480, height: 320 })
        .png()
        .toBuffer()
        .then((png) => sharp(png)),
    ),
    'other.jpg': await file(kite(430, { background: MEADOW, ground: SKY })),
  });
  await world.takeIn(drive);
  return (await world.ids()).get('a.jpg') ?? 0;
}

test('what looks like a photo is found by the query language, the likest first, and narrowed, saved and changed like any result', async () => {
  const id = await takeKitesIn();
  expect(await found(`like:"${id} strict"`)).toEqual(['a.jpg', 'brighter.jpg', 'cut.jpg']);
  expect(await found(`like:"${id} loose"`, 'likeness')).toEqual(['a.jpg', 'brighter.jpg', 'cut.jpg', 'moved.jpg']);
  expect(await found(`like:${id} name:cut*`)).toEqual(['cut.jpg']);
  expect(await found(`not like:"${id} loose"`)).toEqual(['other.jpg']);
  // SQL must see what the index sees.
  await world.apply({ kind: 'setRating', selection: { query: `like:"${id} strict"` }, rating: 4 });
  expect(await found('rating:4')).toEqual(['a.jpg', 'brighter.jpg', 'cut.jpg']);
  await world.apply({ kind: 'saveSearch', name: 'Kites', query: `like:"${id} strict"`, sort: 'likeness' });
  expect(await found('search:Kites rating:4')).toHaveLength(3);
  const [saved] = await world.services.search.all.list();
  expect(saved).toMatchObject({ count: 3, problems: [] });
  const why = await world.services.search.all.why(`like:"${id} strict"`, 'moved.jpg');
  expect(why.why).toMatchObject({ shown: false, explanation: { met: false } });
});

test('a photo that does not exist, or not for who asks, is looked like by none', async () => {
  const id = await takeKitesIn();
  expect(await world.services.search.all.counted('like:99999')).toMatchObject({
    count: 0,
    errors: [{ message: 'there is no photo “99999”' }],
  });
  const nobody = { ...PROGRAM, sight: [], knowsPrivate: false };
  expect(await world.services.search.seenBy(nobody).counted(`like:${id}`)).toMatchObject({ count: 0, errors: [{}] });
  await expect(world.services.search.seenBy(nobody).settled(selection.parse({ query: `like:${id}` }))).rejects.toThrow(
    'there is no photo',
  );
  expect((await world.services.search.all.counted('like:kite')).errors[0]?.message).toContain(
    'takes the number of a photo',
  );
});

test('a picture that becomes another one is looked at anew; one that was turned looks turned', async () => {
  const id = await takeKitesIn();
  await putFiles(drive, { 'other.jpg': await file(kite(205)) });
  await world.takeIn(drive);
  expect(await found(`like:"${id} strict"`)).toContain('other.jpg');
  await world.apply({ kind: 'turnPhotos', selection: { query: 'name:other.jpg' }, way: 'right' });
  await world.services.turner.run();
  expect(await found(`like:"${id} strict"`)).not.toContain('other.jpg');
});

test('bursts are told by camera, time and look, the sharpest first, of the photos that one sees', async () => {
  await putFiles(drive, {
    '1.jpg': await file(kite(200, { soft: 4 }), '2024:06:14 10:00:00'),
    '2.jpg': await file(kite(204), '2024:06:14 10:00:01'),
    '3.jpg': await file(kite(208, { soft: 2 }), '2024:06:14 10:00:03'),
    '4.jpg': await file(kite(208), '2024:06:14 10:09:00'),
    '5.jpg': await file(kite(430, { background: MEADOW, ground: SKY }), '2024:06:14 10:00:03'),
  });
  await world.takeIn(drive);
  const ids = await world.ids();
  const all = [...ids.values()];
  const { bursts, waiting } = await world.services.lookalikes.bursts(all, PROGRAM);
  expect(waiting).toBe(0);
  const names = new Map([...ids].map(([name, id]) => [id, name]));
  const named = (bursts: readonly number[][]) => bursts.map((burst) => burst.map((id) => names.get(id)));
  expect(named(bursts)).toEqual([['2.jpg', '3.jpg', '1.jpg']]);
  const nobody = { ...PROGRAM, sight: [], knowsPrivate: false };
  expect(await world.services.lookalikes.bursts(all, nobody)).toEqual({ bursts: [], waiting: 0 });
  await world.services.database.rows('delete from photo_look where photo_id = $1', [ids.get('2.jpg')]);
  expect(await world.services.lookalikes.bursts(all, PROGRAM)).toMatchObject({ waiting: 1 });
});

test('a saved search that asks for look-alikes is opened within another', async () => {
  const id = await takeKitesIn();
  await world.apply({ kind: 'saveSearch', name: 'Alike', query: `like:"${id} strict"`, sort: 'name' });
  await world.apply({ kind: 'saveSearch', name: 'Within', query: 'search:Alike name:cut*', sort: 'name' });
  expect(await found('search:Within')).toEqual(['cut.jpg']);
});

test('of the likest those count that exist for who asks, and none that is out of the catalogue for good', async () => {
  const id = await takeKitesIn();
  const ids = await world.ids();
  await world.services.database.rows('delete from photo where id = $1', [ids.get('cut.jpg')]);
  const like = await world.services.lookalikes.like({ photoId: id, strictness: 'strict' }, PROGRAM);
  expect(like).toEqual([id, ids.get('brighter.jpg')]);
});

test('a preview that is gone is made again when somebody looks, and no job waits for it for ever', async () => {
  const id = await takeKitesIn();
  await world.services.database.rows('delete from photo_look where photo_id = $1', [id]);
  const kept = await world.services.previews.fileOf(id);
  if (kept === null) throw new Error('no preview');
  await rm(kept);
  expect(await world.services.lookalikes.count()).toBe(1);
  await world.services.lookalikes.measureSome(0, 50);
  expect(await world.services.lookalikes.count()).toBe(0);
  expect(await world.services.previews.fileOf(id)).not.toBeNull();
  expect(await world.services.lookalikes.like({ photoId: id, strictness: 'strict' }, PROGRAM)).toHaveLength(3);
});

test('previews from before they were measured are measured by a job, each once', async () => {
  const id = await takeKitesIn();
  await world.services.database.rows('delete from photo_look');
  expect(await found(`like:${id}`)).toEqual(['a.jpg', 'brighter.jpg', 'cut.jpg', 'moved.jpg', 'other.jpg'].slice(0, 1));
  await world.services.lookalikes.follow(world.services.jobs, world.keeperId);
  const [job] = await world.services.jobs.list();
  const done = await world.until(job?.id ?? '', ['done']);
  expect(done.result).toEqual({ measured: 5 });
  expect(await found(`like:"${id} strict"`)).toEqual(['a.jpg', 'brighter.jpg', 'cut.jpg']);
  expect(await world.services.lookalikes.count()).toBe(0);
});
