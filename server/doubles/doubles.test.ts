import sharp from 'sharp';
import { openWorld, putFiles, type World } from '../testing/world';
import { PROGRAM } from '../catalogue/viewer';

let world: World;
beforeAll(async () => {
  world = await openWorld();
  const [vault, other] = [await world.addDrive('Vault'), await world.addDrive('Other')];
  const kite = await picture(1);
  const lighter = await sharp(kite).modulate({ brightness: 1.08 }).jpeg({ quality: 60 }).toBuffer();
  await putFiles(vault, { 'kite.jpg': kite, 'dunes.jpg': await picture(2), 'grey.jpg': await plain(90) });
  await putFiles(other, { 'again/kite copy.jpg': kite, 'kite web.jpg': lighter, 'white.jpg': await plain(240) });
  await world.takeIn(vault);
  await world.takeIn(other);
});
afterAll(() => world.close());

/** Patches of grey that are another picture with every seed. */
function picture(seed: number): Promise<Buffer> {
  const grey = Uint8Array.from({ length: 72 }, (_, i) => ((i + 1) * (seed * 37 + 11) * 97) % 251);
  return sharp(grey, { raw: { width: 9, height: 8, channels: 1 } })
    .resize(360, 320, { kernel: 'nearest' })
    .jpeg({ quality: 95 })
    .toBuffer();
}
const plain = (grey: number) =>
  sharp({ create: { width: 90, height: 80, channels: 3, background: { r: grey, g: grey, b: grey } } })
    .jpeg()
    .toBuffer();
const names = async (kind: 'same' | 'alike', limit = 20, after?: number) => {
  const { groups, next } = await world.services.doubles.list(PROGRAM, { kind, limit, after });
  return { groups: groups.map((group) => group.map(({ name }) => name)), next };
};

test('the same picture on two drives is a group, with where each is', async () => {
  expect(await names('same')).toEqual({ groups: [['kite.jpg', 'kite copy.jpg']], next: null });
  expect(await world.services.doubles.count(PROGRAM)).toMatchObject({ groups: 1, surplus: 1 });
  const { groups } = await world.services.doubles.list(PROGRAM, { kind: 'same', limit: 20 });
  expect(groups[0]?.[1]).toMatchObject({ driveLabel: 'Other', folderPath: 'again', terms: 0 });
  const id = (await world.ids()).get('kite.jpg') ?? 0;
  expect((await world.services.photos.find(PROGRAM, id)).doubles).toEqual([
    { photoId: (await world.ids()).get('kite copy.jpg'), path: 'Other/again/kite copy.jpg' },
  ]);
});

test('a lighter, smaller version looks alike; other pictures and plain ones do not', async () => {
  const { groups, next } = await names('alike');
  expect(groups.map((group) => group.sort())).toEqual([['kite copy.jpg', 'kite web.jpg', 'kite.jpg']]);
  expect(next).toBeNull();
});

test('photos that are told apart are not offered again, until that is undone', async () => {
  const { groups } = await world.services.doubles.list(PROGRAM, { kind: 'alike', limit: 20 });
  const photoIds = groups[0]?.map(({ id }) => id) ?? [];
  await world.apply({ kind: 'tellApart', photoIds });
  expect(await names('alike')).toEqual({ groups: [], next: null });
  expect((await names('same')).groups).toHaveLength(1);
  await expect(world.apply({ kind: 'tellApart', photoIds })).rejects.toThrow();
  await world.services.ledger.undo(world.keeperId);
  expect((await names('alike')).groups).toHaveLength(1);
});

test('pages go on where the one before ended', async () => {
  const first = await names('same', 1);
  expect(first.groups).toHaveLength(1);
  expect(await names('same', 1, first.next ?? undefined)).toEqual({ groups: [], next: null });
});

test('a double that is trashed is none any more', async () => {
  await world.apply({ kind: 'removePhotos', selection: { query: 'name:"kite copy.jpg"' } });
  expect(await names('same')).toEqual({ groups: [], next: null });
  expect(await world.services.search.all.count('is:double')).toBe(0);
});
