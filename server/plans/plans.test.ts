import sharp from 'sharp';
import type { PinForm } from '@stellin/contract/plans';
import type { Person } from '../catalogue/viewer';
import { PROGRAM } from '../catalogue/viewer';
import { openWorld, PASSWORDS, putFiles, realJpeg, type World } from '../testing/world';

let world: World;
let keeper: Person;
let ids: Map<string, number>;
const id = (name: string) => ids.get(name) ?? 0;
const drawing = (width: number, height: number) =>
  sharp({ create: { width, height, channels: 3, background: '#e9dcbc' } })
    .png()
    .toBuffer();
const PIN: PinForm = {
  ...{ kind: 'point', number: 1, x: 0.25, y: 0.5, corners: null, direction: null, label: '', note: '' },
  ...{ colour: 'teal', shape: 'disc', layer: '', termId: null, placeId: null },
};
const count = (query: string) => world.services.search.all.count(query);
const plans = () => world.services.plans;
const undo = () => world.services.ledger.undo(world.keeperId);

beforeAll(async () => {
  world = await openWorld();
  keeper = await world.services.rights.personOf(world.keeperId);
  const drive = await world.addDrive('Vault');
  const names = ['a.jpg', 'b.jpg', 'c.jpg', 'd.jpg', 'private.jpg', 'plan.jpg'];
  await putFiles(
    drive,
    Object.fromEntries(
      await Promise.all(names.map(async (name, i) => [name, await realJpeg({ rating: i % 5 }, 20 + i * 30)] as const)),
    ),
  );
  await world.takeIn(drive);
  ids = await world.ids();
});
afterAll(() => world.close());

async function makePlan(name: string, [width, height] = [1200, 700]): Promise<number> {
  const { pictureId } = await plans().addFile(`${name}.png`, await drawing(width ?? 0, height ?? 0), world.keeperId);
  return (await world.apply({ kind: 'makePlan', name, pictureId })).objectId ?? 0;
}

async function put(planId: number, pin: Partial<PinForm>, pinId: number | null = null): Promise<number> {
  return (await world.apply({ kind: 'savePins', planId, pins: [{ pinId, pin: { ...PIN, ...pin } }] })).objectId ?? 0;
}

const select = (...names: string[]) => ({ query: null, minus: [], plus: names.map(id) });
const shown = async (planId: number) => plans().show(keeper, planId);

test('photos are put at pins, found by plan and pin in any way of searching, and undone', async () => {
  const hall = await makePlan('Hall');
  const wall = await put(hall, { label: 'North wall' });
  const other = await put(hall, { number: 2, x: 0.75 });
  await world.apply({ kind: 'pinPhotos', pinId: wall, selection: select('a.jpg', 'b.jpg') });
  const entry = await world.apply({ kind: 'pinPhotos', pinId: other, selection: select('b.jpg') });
  expect(entry).toMatchObject({ title: 'Pin 1 photo at “Hall/2”', photos: 1 });
  expect(await count('plan:"Hall/North wall"')).toBe(2);
  expect(await count('plan:hall/2')).toBe(1);
  expect(await count('plan:Hall')).toBe(2);
  expect(await count('missing:plan')).toBe(4);
  // Changes look at the catalogue itself: the same query means the same there.
  await world.apply({ kind: 'setRating', selection: { query: 'plan:"hall/north*" has:plan' }, rating: 4 });
  expect(await count('rating:4 name:a.jpg or rating:4 name:b.jpg')).toBe(2);
  expect((await plans().ofPhoto(keeper, id('b.jpg'))).map(({ plan, pin }) => `${plan}/${pin}`)).toEqual([
    'Hall/North wall',
    'Hall/2',
  ]);
  expect((await shown(hall)).pinned.map(({ name, photos, cover }) => [name, photos, cover?.photoId])).toEqual([
    ['North wall', 2, id('a.jpg')],
    ['2', 1, id('b.jpg')],
  ]);
  await undo();
  await undo();
  expect(await count('plan:hall/2')).toBe(0);
  await world.apply({ kind: 'unpinPhotos', planId: hall, selection: select('b.jpg') });
  expect(await count('plan:Hall')).toBe(1);
  await undo();
  expect(await count('plan:"Hall/North wall"')).toBe(2);
});

test('searches follow when a plan or pin is called otherwise; photos are found by the new name at once', async () => {
  const [hall] = await plans().list(keeper);
  const planId = hall?.id ?? 0;
  const [wall] = (await shown(planId)).pinned;
  await world.apply({
    kind: 'saveSearch',
    name: 'At the wall',
    query: 'plan:"Hall/North wall" rating:>=1',
    sort: 'taken',
  });
  await put(planId, { ...PIN, label: 'East wall' }, wall?.id);
  await world.apply({ kind: 'changePlan', planId, name: 'Great hall' });
  expect((await world.services.search.definitions(keeper)).map(({ query }) => query)).toEqual([
    'plan:"Great hall/East wall" rating:>=1',
  ]);
  expect(await count('plan:"Great hall/East wall"')).toBe(2);
  expect(await count('plan:Hall')).toBe(0);
  await undo();
  await undo();
  expect(await count('plan:"Hall/North wall"')).toBe(2);
});

test('pins are merged, numbered anew and removed, and all of that is taken back', async () => {
  const planId = (await plans().list(keeper))[0]?.id ?? 0;
  const [wall, other] = (await shown(planId)).pinned;
  await world.apply({ kind: 'pinPhotos', pinId: other?.id ?? 0, selection: select('b.jpg', 'c.jpg') });
  await world.apply({ kind: 'mergePins', pinId: other?.id ?? 0, intoId: wall?.id ?? 0 });
  expect((await shown(planId)).pinned.map(({ name, photos }) => [name, photos])).toEqual([['North wall', 3]]);
  await undo();
  expect((await shown(planId)).pinned.map(({ name, photos }) => [name, photos])).toEqual([
    ['North wall', 2],
    ['2', 2],
  ]);
  const third = await put(planId, { number: 9, x: 0.1, y: 0.1, label: 'Door' });
  await world.apply({ kind: 'numberPins', planId, numbering: 'reading' });
  expect((await shown(planId)).pinned.map(({ number, label }) => `${number} ${label}`)).toEqual([
    '1 Door',
    '2 North wall',
    '3 ',
  ]);
  expect(await count('plan:Hall/3')).toBe(2);
  await expect(world.apply({ kind: 'numberPins', planId, numbering: 'reading' })).rejects.toThrow(
    'numbered so already',
  );
  await undo();
  await world.apply({ kind: 'removePlan', planId });
  expect([await plans().list(keeper), await count('has:plan')]).toEqual([[], 0]);
  await undo();
  expect([(await shown(planId)).pinned.length, await count('plan:Hall')]).toEqual([3, 3]);
  await world.apply({ kind: 'removePins', planId, pinIds: [third] });
  expect((await shown(planId)).pinned).toHaveLength(2);
});

test('what can’t be so is refused by its reason, and changes nothing', async () => {
  const planId = (await plans().list(keeper))[0]?.id ?? 0;
  const before = (await shown(planId)).pinned;
  await expect(put(planId, { number: 1 })).rejects.toThrow('two pins with the number 1');
  await expect(put(planId, { number: 7, label: 'north WALL' })).rejects.toThrow('two pins called “north WALL”');
  await expect(put(planId, { number: 7, kind: 'area' })).rejects.toThrow('outline');
  await expect(put(planId, { number: 7, kind: 'view' })).rejects.toThrow('looks somewhere');
  await expect(put(planId, { number: 7, x: 1.2 })).rejects.toThrow();
  await expect(put(planId, { number: 7, label: 'a/b' })).rejects.toThrow('A label has no “/”');
  await expect(put(planId, {}, 999)).rejects.toThrow('such pin');
  await expect(makePlan('hall')).rejects.toThrow('of this name already');
  await expect(world.apply({ kind: 'makePlan', name: 'New', pictureId: 9999 })).rejects.toThrow('such picture');
  await expect(world.apply({ kind: 'placeByPlan', planId })).rejects.toThrow('not tied to the map');
  await expect(world.apply({ kind: 'writePinRegions', planId })).rejects.toThrow('no photo of the catalogue');
  for (const bytes of [
    Buffer.from('no picture'),
    Buffer.alloc(0),
    Buffer.from('<svg xmlns="http://www.w3.org/2000/svg"/>'),
  ])
    await expect(plans().addFile('notes.svg', bytes, world.keeperId)).rejects.toThrow('“notes.svg” is no picture');
  // Somebody else's picture may show what one can't see.
  const { pictureId } = await plans().addFile('theirs.png', await drawing(20, 20), keeper.accountId + 1);
  await expect(world.apply({ kind: 'makePlan', name: 'New', pictureId })).rejects.toThrow('such picture');
  expect((await shown(planId)).pinned).toEqual(before);
});

test('a tied plan gives its photos positions, and photos with a position propose their pin', async () => {
  const planId = await makePlan('Field', [1000, 1000]);
  const ties = [
    { x: 0, y: 0, latitude: 55.51, longitude: 3.5 },
    { x: 1, y: 1, latitude: 55.5, longitude: 3.52 },
    { x: 1, y: 0, latitude: 55.51, longitude: 3.52 },
  ];
  await world.apply({ kind: 'changePlan', planId, ties });
  const pond = await put(planId, { label: 'Pond', x: 0.5, y: 0.5 });
  const square = [
    { x: 0.8, y: 0.8 },
    { x: 1, y: 0.8 },
    { x: 1, y: 1 },
    { x: 0.8, y: 1 },
  ];
  const barn = await put(planId, { number: 2, label: 'Barn', kind: 'area', x: 0.9, y: 0.9, corners: square });
  await world.apply({ kind: 'pinPhotos', pinId: pond, selection: select('a.jpg') });
  const entry = await world.apply({ kind: 'placeByPlan', planId });
  expect(entry).toMatchObject({ title: 'Place 1 photo where the site plan “Field” has them', photos: 1 });
  expect(await count('near:55.505,3.51,5m')).toBe(1);
  const at = (name: string, latitude: number, longitude: number) =>
    world.apply({
      kind: 'setFields',
      selection: select(name),
      edits: [{ target: 'position', mode: 'replace', value: { latitude, longitude } }],
    });
  await at('b.jpg', 55.5051, 3.5101);
  await at('c.jpg', 55.501, 3.518);
  await at('d.jpg', 55.5075, 3.5);
  const { pins, without, looked } = await plans().propose(keeper, planId, '');
  expect(pins.map(({ pinId, photos }) => [pinId, photos.map(({ name }) => name)])).toEqual([
    [pond, ['b.jpg']],
    [barn, ['c.jpg']],
  ]);
  expect([without, looked]).toEqual([1, 3]);
  expect((await plans().propose(keeper, planId, 'name:c.jpg')).pins).toHaveLength(1);
});

test('pins are taken along as GeoJSON and as image regions, and read again elsewhere', async () => {
  const field = (await plans().list(keeper)).find(({ name }) => name === 'Field');
  const view = await put(field?.id ?? 0, {
    number: 3,
    kind: 'view',
    direction: 135,
    x: 0.2,
    y: 0.3,
    note: 'From the dike',
  });
  expect(view).toBeGreaterThan(0);
  const geojson = await plans().write(keeper, field?.id ?? 0, 'geojson');
  const xmp = await plans().write(keeper, field?.id ?? 0, 'xmp');
  expect(JSON.parse(geojson.text)).toMatchObject({
    type: 'FeatureCollection',
    features: [
      { geometry: { type: 'Point', coordinates: [3.51, expect.closeTo(55.505, 5)] } },
      { geometry: { type: 'Polygon' } },
      { properties: { kind: 'view', direction: 135 } },
    ],
  });
  const elsewhere = await makePlan('Elsewhere', [1000, 1000]);
  const near = (part: number) => Number(part.toFixed(6));
  const said = ({ label, kind, x, y, direction, corners }: PinForm) => ({
    ...{ label, kind, direction, corners },
    ...{ x: near(x), y: near(y) },
  });
  const there = (await shown(field?.id ?? 0)).pinned.map(said);
  for (const { text } of [geojson, xmp]) {
    const read = await plans().read(keeper, elsewhere, text);
    expect(read.leftOut).toBe(0);
    expect(read.pins.map(said)).toEqual(there);
  }
  const { pins } = await plans().read(keeper, elsewhere, geojson.text);
  const entry = await world.apply({
    kind: 'savePins',
    planId: elsewhere,
    pins: pins.map((pin) => ({ pinId: null, pin })),
  });
  expect(entry.title).toBe('Put 3 pins on “Elsewhere”');
  // Once more: what is taken already gets other numbers.
  expect((await plans().read(keeper, elsewhere, xmp.text)).pins.map(({ number }) => number)).toEqual([4, 5, 6]);
  for (const text of ['', 'no pins', '{"type":"Feature"}', '[]', '<html>', '<a'])
    await expect(plans().read(keeper, elsewhere, text)).rejects.toThrow('No pins can be read');
});

test('a plan of a photo is kept, pinned into its picture as regions, and exists where the photo does', async () => {
  const { pictureId, width, height } = await plans().addPhoto(id('plan.jpg'), 1, world.keeperId);
  expect([width, height]).toEqual([320, 200]);
  const planId = (await world.apply({ kind: 'makePlan', name: 'Yard', pictureId })).objectId ?? 0;
  await put(planId, { label: 'Well' });
  await world.apply({ kind: 'writePinRegions', planId });
  expect((await plans().readRegions(keeper, planId)).pins).toMatchObject([{ label: 'Well', x: 0.25, y: 0.5 }]);
  const viewer = await world.services.rights.personOf((await world.services.accounts.find('viewer'))?.id ?? 0);
  const names = async (person: Person) => (await plans().list(person)).map(({ name }) => name);
  expect(await names(viewer)).toContain('Yard');
  await world.apply({ kind: 'setPrivate', selection: select('plan.jpg'), private: true });
  expect(await names(viewer)).not.toContain('Yard');
  expect(await names(keeper)).toContain('Yard');
  for (const asked of [
    () => plans().show(viewer, planId),
    () => plans().tile(viewer, planId, { z: 0, x: 0, y: 0 }),
    () => plans().write(viewer, planId, 'geojson'),
    () => plans().print(viewer, planId, { withPictures: true, layers: undefined }),
    () => plans().readRegions(viewer, planId),
  ])
    await expect(asked()).rejects.toThrow('such plan');
});

test('a private photo at a pin is neither counted nor shown nor printed to whom it does not exist', async () => {
  const planId = (await plans().list(keeper)).find(({ name }) => name === 'Field')?.id ?? 0;
  const pond = (await shown(planId)).pinned[0];
  await world.apply({ kind: 'setPrivate', selection: select('private.jpg'), private: true });
  await world.apply({ kind: 'unpinPhotos', planId, selection: select('a.jpg') });
  await world.apply({ kind: 'pinPhotos', pinId: pond?.id ?? 0, selection: select('private.jpg') });
  const viewer = await world.services.rights.personOf((await world.services.accounts.find('viewer'))?.id ?? 0);
  const seen = (await plans().show(viewer, planId)).pinned[0];
  expect([seen?.photos, seen?.cover]).toEqual([0, null]);
  expect((await shown(planId)).pinned[0]).toMatchObject({ photos: 1, cover: { photoId: id('private.jpg') } });
});

test('over HTTP: tiles, files and paper for who may see; pins for who may describe', async () => {
  const planId = await makePlan('Large', [3000, 1700]);
  await put(planId, { label: 'Überlauf', note: 'Long '.repeat(60), kind: 'view', direction: 45 });
  const cookieOf = async (name: keyof typeof PASSWORDS) => {
    const payload = { name, password: PASSWORDS[name] };
    const { headers } = await world.app.inject({ method: 'POST', url: '/api/session', payload });
    return String(headers['set-cookie']).split(';')[0] ?? '';
  };
  const cookie = await cookieOf('viewer');
  const get = (url: string, headers = { cookie }) => world.app.inject({ url, headers });
  const sizes = await Promise.all(
    ['0/0/0', '3/3/5', '3/0/0'].map(async (tile) => {
      const { statusCode, headers, rawPayload } = await get(`/api/plans/${planId}/tiles/${tile}`);
      expect([statusCode, headers['content-type']]).toEqual([200, 'image/webp']);
      const { width, height } = await sharp(rawPayload).metadata();
      return [width, height];
    }),
  );
  expect(sizes).toEqual([
    [512, 512],
    [512, 512],
    [512, 512],
  ]);
  for (const tile of ['4/0/0', '3/9/0', '0/0/1'])
    expect((await get(`/api/plans/${planId}/tiles/${tile}`)).statusCode).toBe(404);
  expect((await world.app.inject({ url: `/api/plans/${planId}/tiles/0/0/0` })).statusCode).toBe(401);
  for (const [url, type, begins] of [
    [`print`, 'application/pdf', '%PDF-'],
    [`print?pictures=no&layers=["x"]`, 'application/pdf', '%PDF-'],
    [`export?format=geojson`, 'application/geo+json; charset=utf-8', '{'],
    [`export?format=xmp`, 'application/rdf+xml; charset=utf-8', '<'],
  ] as const) {
    const { statusCode, headers, body } = await get(`/api/plans/${planId}/${url}`);
    expect([url, statusCode, headers['content-type']]).toEqual([url, 200, type]);
    expect(body.startsWith(begins)).toBe(true);
  }
  expect((await get(`/api/plans/${planId}/print?layers=no`)).statusCode).toBe(400);
  const payload = { name: 'x.png', picture: (await drawing(30, 20)).toString('base64') };
  const add = async (name: keyof typeof PASSWORDS) =>
    world.app.inject({ method: 'POST', url: '/api/plan-pictures', payload, headers: { cookie: await cookieOf(name) } });
  expect((await add('viewer')).statusCode).toBe(403);
  expect((await add('cataloguer')).json()).toMatchObject({ width: 30, height: 20 });
  const ofNone = await world.app.inject({
    ...{ method: 'POST', url: '/api/plan-pictures', payload: { photoId: 99_999 } },
    headers: { cookie: await cookieOf('cataloguer') },
  });
  expect(ofNone.statusCode).toBe(404);
});

test('all of what exists for the program is what the finder counts', async () => {
  expect((await plans().list(PROGRAM)).map(({ name }) => name)).toEqual([
    'Elsewhere',
    'Field',
    'Hall',
    'Large',
    'Yard',
  ]);
});
