import sharp from 'sharp';
import { openWorld, PASSWORDS, type World } from '../testing/world';

let world: World;
beforeAll(async () => void (world = await openWorld({ working: false })));
afterAll(() => world.close());

const chart = (width: number, height: number) =>
  sharp({ create: { width, height, channels: 3, background: '#e9dcbc' } })
    .png()
    .toBuffer();
const PIN = { x: 10, y: 20, latitude: 55.9, longitude: 3.3 };

async function cookieOf(name: keyof typeof PASSWORDS): Promise<string> {
  const payload = { name, password: PASSWORDS[name] };
  const { headers } = await world.app.inject({ method: 'POST', url: '/api/session', payload });
  return String(headers['set-cookie']).split(';')[0] ?? '';
}

test('a picture is kept, pinned, shown and removed; a very large one is kept smaller', async () => {
  const { oldMaps } = world.services;
  const id = await oldMaps.add('Harbour', await chart(6000, 300), world.keeperId);
  expect(await oldMaps.list()).toMatchObject([{ id, name: 'Harbour', width: 5000, height: 250, pins: [] }]);
  await oldMaps.change(id, { name: 'Old harbour', note: 'From a folder', pins: [PIN] });
  expect(await oldMaps.list()).toMatchObject([{ name: 'Old harbour', note: 'From a folder', pins: [PIN] }]);
  const { format, width } = await sharp(await oldMaps.picture(id)).metadata();
  expect({ format, width }).toEqual({ format: 'webp', width: 5000 });
  await oldMaps.remove(id);
  expect(await oldMaps.list()).toEqual([]);
  for (const asked of [
    () => oldMaps.picture(id),
    () => oldMaps.remove(id),
    () => oldMaps.change(id, { name: 'x', note: '', pins: [] }),
  ])
    await expect(asked()).rejects.toThrow('old map');
});

test('what is no picture is refused by its name, and nothing is kept', async () => {
  const { oldMaps } = world.services;
  for (const bytes of [Buffer.from('no picture'), Buffer.alloc(0), (await chart(40, 40)).subarray(0, 60)])
    await expect(oldMaps.add('notes.txt', bytes, world.keeperId)).rejects.toThrow('“notes.txt” is no picture');
  expect(await oldMaps.list()).toEqual([]);
});

test('over HTTP: a keeper adds one, everybody who may see sees it, a viewer adds none', async () => {
  const payload = { name: 'Harbour', picture: (await chart(30, 20)).toString('base64') };
  const add = async (name: keyof typeof PASSWORDS) =>
    world.app.inject({ method: 'POST', url: '/api/old-maps', payload, headers: { cookie: await cookieOf(name) } });
  expect((await add('viewer')).statusCode).toBe(403);
  const { id } = (await add('keeper')).json<{ id: number }>();
  const cookie = await cookieOf('viewer');
  const shown = await world.app.inject({ url: `/api/old-maps/${id}/picture`, headers: { cookie } });
  expect([shown.statusCode, shown.headers['content-type']]).toEqual([200, 'image/webp']);
  expect((await world.app.inject({ url: `/api/old-maps/${id}/picture` })).statusCode).toBe(401);
  const wrong = { name: 'Harbour', pins: [{ ...PIN, latitude: 91 }] };
  const refused = await world.app.inject({
    ...{ method: 'POST', url: `/api/old-maps/${id}`, payload: wrong },
    headers: { cookie: await cookieOf('keeper') },
  });
  expect(refused.statusCode).toBe(400);
});
