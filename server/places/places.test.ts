import { change as changeSchema, type ChangeInput } from '@stellin/contract/ledger';
import { PROGRAM } from '../catalogue/viewer';
import { openWorld, putFiles, realJpeg, type World } from '../testing/world';

let world: World;
const ALL = { query: '', minus: [], plus: [] };
const WORLD = { south: -80, west: -180, north: 80, east: 180, level: 6 };
const FORM = {
  ...{ otherNames: [], countryCode: '', note: '', point: null, metres: null, corners: null },
  ...{ geonamesId: null, termId: null },
};
const save = (form: Partial<ChangeInput> & { name: string; placeKind: string; parentId: number | null }) =>
  world.apply({ ...FORM, placeId: null, ...form, kind: 'saveOwnPlace' } as ChangeInput);
const own = async (name: string) => {
  const found = (await world.services.places.listOwn()).find((place) => place.name === name);
  if (!found) throw new Error(`there is no place ${name}`);
  return found;
};
const near = (latitude: number, longitude: number) =>
  world.services.places.whereabouts([{ latitude, longitude }]).then(([found]) => found);

beforeAll(async () => {
  world = await openWorld();
  const drive = await world.addDrive('Vault');
  const names = ['a.jpg', 'b.jpg', 'c.jpg'];
  await putFiles(
    drive,
    Object.fromEntries(
      await Promise.all(names.map(async (name, i) => [name, await realJpeg({}, 20 + i * 40)] as const)),
    ),
  );
  await world.takeIn(drive);
  for (const [name, position] of [
    ['a', '55.5, 3.5'],
    ['b', '55.501, 3.501'],
    ['c', '-33, 18'],
  ])
    await world.apply({
      kind: 'setFields',
      selection: { query: `name:${name}.jpg` },
      edits: [
        {
          target: 'position',
          mode: 'replace',
          value: { latitude: Number(position?.split(',')[0]), longitude: Number(position?.split(',')[1]) },
        },
      ],
    });
  await world.apply({
    kind: 'setFields',
    selection: { query: 'name:a.jpg' },
    edits: [{ target: 'city', mode: 'replace', value: 'Saltmarsh' }],
  });
});
afterAll(() => world.close());

test('the map shows what of a result lies in it, and how much of that says a place', async () => {
  const shown = await world.services.places.onMap(PROGRAM, ALL, WORLD);
  expect(shown.photos).toBe(3);
  expect(shown.cells.map(({ photos, named }) => `${photos} ${named}`).sort()).toEqual(['1 0', '2 1']);
  expect(shown.cells.every(({ photoId, previewVersion }) => photoId > 0 && previewVersion > 0)).toBe(true);
  const north = await world.services.places.onMap(PROGRAM, { ...ALL, query: 'name:b.jpg' }, { ...WORLD, south: 0 });
  expect(north.photos).toBe(1);
});

test('a made-up point at sea is nowhere; a point on land is in its country, near its town', async () => {
  expect(await near(55.5, 3.5)).toMatchObject({ names: { city: '', country: '' }, metres: -1 });
  const found = await near(52.37, 4.9);
  expect(found).toMatchObject({ ownId: null, town: 'Amsterdam', names: { city: 'Amsterdam', countryCode: 'NL' } });
  expect(found?.metres).toBeLessThan(3000);
});

test('own places say their names, with what the gazetteer knows beyond them', async () => {
  await save({ name: 'Norland', placeKind: 'country', parentId: null, countryCode: 'XN' } as never);
  await save({
    name: 'Saltmarsh',
    placeKind: 'town',
    parentId: (await own('Norland')).id,
    point: { latitude: 55.5, longitude: 3.5 },
  } as never);
  await save({
    name: 'Old pier',
    placeKind: 'spot',
    parentId: (await own('Saltmarsh')).id,
    point: { latitude: 55.501, longitude: 3.501 },
  } as never);
  const names = {
    sublocation: 'Old pier',
    city: 'Saltmarsh',
    provinceState: '',
    country: 'Norland',
    countryCode: 'XN',
  };
  expect((await near(55.5011, 3.501))?.names).toEqual(names);
  expect((await near(55.51, 3.5))?.names).toEqual({ ...names, sublocation: '' });
  // One that stands by itself lets the gazetteer say the rest.
  await save({
    name: 'Canal house',
    placeKind: 'spot',
    parentId: null,
    point: { latitude: 52.37, longitude: 4.9 },
  } as never);
  expect((await near(52.37, 4.9))?.names).toMatchObject({
    sublocation: 'Canal house',
    city: 'Amsterdam',
    countryCode: 'NL',
  });
});

test('typing finds own places before those of the gazetteer, and says what each lies in', async () => {
  const found = async (text: string) =>
    (await world.services.places.find(PROGRAM, text, 5)).map(({ name, detail, ownId }) => [
      name,
      detail,
      ownId !== null,
    ]);
  expect((await found('old p'))[0]).toEqual(['Old pier', 'Saltmarsh, Norland', true]);
  expect(await found('Amsterdm')).toContainEqual(['Amsterdam', 'North Holland, Netherlands', false]);
  expect(await found('Qqqqq')).toEqual([]);
  expect((await found('Niederlande'))[0]).toEqual(['Netherlands', 'Country', false]);
});

test('a place lies in a wider one, once by a name, and never in itself', async () => {
  const [norland, saltmarsh, pier] = [await own('Norland'), await own('Saltmarsh'), await own('Old pier')];
  for (const [form, why] of [
    [{ name: 'saltMARSH', placeKind: 'town', parentId: norland.id }, 'there is one of this name already'],
    [{ name: 'Eastshore', placeKind: 'region', parentId: saltmarsh.id }, 'a region can’t lie in a town'],
    [
      { ...pier, placeKind: 'spot', placeId: saltmarsh.id, parentId: pier.id, name: 'Saltmarsh' },
      'it would lie in itself',
    ],
    [{ name: 'Norland', placeKind: 'spot', placeId: norland.id, parentId: null }, '“Saltmarsh” lies in it'],
  ] as const)
    await expect(save(form as never)).rejects.toThrow(why);
  await expect(save({ name: 'Lost', placeKind: 'spot', parentId: 4711 })).rejects.toThrow('no such place');
});

test('merged places keep all their names; what lay in the one lies in the other, and all of it is undone', async () => {
  await save({ name: 'Saltmersc', placeKind: 'town', parentId: (await own('Norland')).id });
  const from = await own('Saltmersc');
  await save({ name: 'Mill', placeKind: 'spot', parentId: from.id });
  await world.apply({ kind: 'mergeOwnPlaces', placeId: from.id, intoId: (await own('Saltmarsh')).id });
  expect(await own('Saltmarsh')).toMatchObject({ otherNames: [{ name: 'Saltmersc' }] });
  expect((await own('Mill')).path).toEqual(['Norland', 'Saltmarsh']);
  await world.services.ledger.undo(world.keeperId);
  expect((await own('Mill')).path).toEqual(['Norland', 'Saltmersc']);
  expect(await own('Saltmarsh')).toMatchObject({ otherNames: [] });
});

test('a place goes with what lies in it, and comes back with it', async () => {
  await world.apply({ kind: 'removeOwnPlace', placeId: (await own('Norland')).id });
  expect((await world.services.places.listOwn()).map(({ name }) => name)).toEqual(['Canal house']);
  await world.services.ledger.undo(world.keeperId);
  expect((await own('Mill')).path).toEqual(['Norland', 'Saltmersc']);
});

test('outlines and towns of a part of the map', async () => {
  const whole = await world.services.places.outline({ detail: 'whole', column: 0, row: 0 });
  expect(JSON.stringify(whole).length).toBeLessThan(300_000);
  const fine = await world.services.places.outline({ detail: 'fine', column: 12, row: 9 });
  expect(fine.land.length).toBeGreaterThan(0);
  for (const [longitude = 0, latitude = 0] of fine.land.flat(2)) {
    expect(longitude).toBeGreaterThanOrEqual(0);
    expect(longitude).toBeLessThanOrEqual(15);
    expect(latitude).toBeGreaterThanOrEqual(45);
    expect(latitude).toBeLessThanOrEqual(60);
  }
  const towns = await world.services.places.towns({ south: 50, west: 3, north: 54, east: 8 }, 3);
  expect(towns.map(({ country }) => country).every((code) => ['NL', 'DE', 'BE', 'LU', 'FR'].includes(code))).toBe(true);
  expect(towns).toHaveLength(3);
});

test('a viewer adds no place', async () => {
  const viewer = (await world.services.accounts.find('viewer'))?.id ?? 0;
  const change = changeSchema.parse({
    ...FORM,
    kind: 'saveOwnPlace',
    placeId: null,
    parentId: null,
    placeKind: 'spot',
    name: 'X',
  });
  await expect(world.services.ledger.apply(change, viewer)).rejects.toThrow();
});

test('a place is linked to one of the gazetteer, which is then offered once, and to a term; merging keeps the links', async () => {
  const { services } = world;
  const [found] = await services.places.find(PROGRAM, 'Hilversum', 5);
  expect(found).toMatchObject({ ownId: null, geonamesId: 2754064 });
  await world.apply({ kind: 'addTerms', parentId: null, terms: [{ label: 'Media town' }] });
  const [term] = await services.vocabulary.list();
  const save = (name: string, links: { geonamesId: number | null; termId: number | null }) =>
    world.apply({ kind: 'saveOwnPlace', placeId: null, parentId: null, placeKind: 'town', ...FORM, ...links, name });
  await save('Hilversum', { geonamesId: 2754064, termId: term?.id ?? 0 });
  const linked = (await services.places.find(PROGRAM, 'Hilversum', 5)).filter(({ name }) => name === 'Hilversum');
  expect(linked.map(({ ownId, geonamesId }) => [ownId !== null, geonamesId])).toEqual([[true, null]]);
  const idOf = async (name: string) => (await services.places.listOwn()).find((place) => place.name === name);
  expect(await idOf('Hilversum')).toMatchObject({ geonamesId: 2754064, termLabel: 'Media town' });
  expect(await services.places.exportOwn()).toContain('skos:exactMatch <https://sws.geonames.org/2754064/>');
  await save('Media park', { geonamesId: null, termId: null });
  const [from, into] = [await idOf('Hilversum'), await idOf('Media park')];
  await world.apply({ kind: 'mergeOwnPlaces', placeId: from?.id ?? 0, intoId: into?.id ?? 0 });
  expect(await idOf('Media park')).toMatchObject({ geonamesId: 2754064, termId: term?.id });
});
