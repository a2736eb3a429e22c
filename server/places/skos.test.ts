import { openWorld, PASSWORDS, type World } from '../testing/world';

let world: World;
beforeAll(async () => void (world = await openWorld({ working: false })));
afterAll(() => world.close());

const PREFIX = `@prefix skos: <http://www.w3.org/2004/02/skos/core#> . @prefix geo: <http://www.w3.org/2003/01/geo/wgs84_pos#> .`;
const COAST = `${PREFIX}
  <urn:a> a skos:Concept ; skos:prefLabel "Norland"@en .
  <urn:b> a skos:Concept ; skos:prefLabel "Saltmarsh"@en ; skos:broader <urn:a> ; geo:lat "55.96" ; geo:long "3.31" .
  <urn:c> a skos:Concept ; skos:prefLabel "Old pier"@en ; skos:altLabel "Long pier"@en ; skos:broader <urn:b> .`;

const own = async () =>
  (await world.services.places.listOwn()).map(({ kind, name, path, otherNames, point }) => ({
    ...{ kind, name, path, point },
    names: otherNames.map((other) => other.name),
  }));

test('places of a file are told of, taken in as one step, and undone as one', async () => {
  const { places, fresh } = await world.services.places.readOwn(COAST);
  expect(fresh).toBe(3);
  await world.apply({ kind: 'importOwnPlaces', places });
  expect(await own()).toEqual([
    { kind: 'country', name: 'Norland', path: [], point: null, names: [] },
    { kind: 'region', name: 'Saltmarsh', path: ['Norland'], point: { latitude: 55.96, longitude: 3.31 }, names: [] },
    { kind: 'spot', name: 'Old pier', path: ['Norland', 'Saltmarsh'], point: null, names: ['Long pier'] },
  ]);
  await world.services.ledger.undo(world.keeperId);
  expect(await own()).toEqual([]);
  await world.services.ledger.redo(world.keeperId);
});

test('those that are there get what they lack; what they say stays', async () => {
  const more = `${COAST} <urn:b> skos:altLabel "Saltmersc" . <urn:c> geo:lat "55.9598" ; geo:long "3.3051" .
    <urn:d> a skos:Concept ; skos:prefLabel "Mill"@en ; skos:broader <urn:b> .`.replace('"55.96"', '"10"');
  const { places, fresh } = await world.services.places.readOwn(more);
  expect(fresh).toBe(1);
  await world.apply({ kind: 'importOwnPlaces', places });
  expect(await own()).toMatchObject([
    { name: 'Norland' },
    { name: 'Saltmarsh', point: { latitude: 55.96, longitude: 3.31 }, names: ['Saltmersc'] },
    { name: 'Old pier', point: { latitude: 55.9598, longitude: 3.3051 }, names: ['Long pier'] },
    { name: 'Mill', path: ['Norland', 'Saltmarsh'] },
  ]);
});

test('what is written is read again, and holds nothing new', async () => {
  const text = await world.services.places.exportOwn();
  expect(text).toContain('geo:lat');
  expect(await world.services.places.readOwn(text)).toMatchObject({ fresh: 0 });
});

test('what can’t be read is refused with its reason, over HTTP too', async () => {
  for (const [text, why] of [
    ['no turtle at all', 'the places can’t be read'],
    [PREFIX, 'there is none in the file'],
    [`${PREFIX} <urn:x> a skos:Concept ; skos:prefLabel "${'x'.repeat(101)}" .`, 'name'],
  ] as const)
    await expect(world.services.places.readOwn(text)).rejects.toThrow(why);
  const payload = { name: 'keeper', password: PASSWORDS.keeper };
  const { headers } = await world.app.inject({ method: 'POST', url: '/api/session', payload });
  const cookie = String(headers['set-cookie']).split(';')[0] ?? '';
  const refused = await world.app.inject({
    ...{ method: 'POST', url: '/api/places/own/read', payload: { text: 'no turtle' }, headers: { cookie } },
  });
  expect(refused.statusCode).toBe(400);
  const file = await world.app.inject({ url: '/api/places/own/skos', headers: { cookie } });
  expect([file.statusCode, file.headers['content-type']]).toEqual([200, 'text/turtle; charset=utf-8']);
});
