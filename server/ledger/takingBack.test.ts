import { openWorld, putFiles, realJpeg, PASSWORDS, type World } from '../testing/world';
import { PROGRAM } from '../catalogue/viewer';

let world: World;
beforeEach(async () => {
  world = await openWorld();
  const drive = await world.addDrive('Vault');
  await putFiles(drive, {
    'a.jpg': await realJpeg({ rating: 1 }, 40),
    'b.jpg': await realJpeg({ rating: 1 }, 90),
  });
  await world.takeIn(drive);
});
afterEach(() => world.close());

const count = (query: string) => world.services.search.all.count(query);
const takeBack = (id: number) => world.services.ledger.reverse(id, 'undo', world.keeperId);
const rate = (query: string, rating: number) => world.apply({ kind: 'setRating', selection: { query }, rating });

test('an entry of long ago is taken back, and can be repeated', async () => {
  const rated = await rate('name:a.jpg', 4);
  await rate('name:b.jpg', 5);
  await world.apply({ kind: 'setPrivate', selection: { query: 'name:a.jpg' }, private: true });
  expect(await world.services.ledger.standing(rated.id, PROGRAM)).toMatchObject({
    step: 'undo',
    later: [],
    laterCount: 0,
  });
  expect((await takeBack(rated.id)).title).toBe('Undo: Rate 4: 1 photo');
  expect([await count('rating:1'), await count('rating:5'), await count('is:private')]).toEqual([1, 1, 1]);
  await expect(takeBack(rated.id)).rejects.toThrow('nothing to undo');
  expect(await world.services.ledger.standing(rated.id, PROGRAM)).toMatchObject({ step: 'redo', laterCount: 0 });
  await world.services.ledger.reverse(rated.id, 'redo', world.keeperId);
  expect(await count('rating:4')).toBe(1);
});

test('what later entries built on stays, and they are named', async () => {
  const rated = await rate('name:*', 3);
  const again = await rate('name:b.jpg', 5);
  expect(await world.services.ledger.standing(rated.id, PROGRAM)).toMatchObject({
    later: [{ id: again.id }],
    laterCount: 1,
  });
  await expect(takeBack(rated.id)).rejects.toThrow('“Rate 5: 1 photo” (The keeper)');
  expect([await count('rating:3'), await count('rating:5')]).toEqual([1, 1]);
  await takeBack(again.id);
  await takeBack(rated.id);
  expect(await count('rating:1')).toBe(2);
});

test('of fields only the same one stands in the way', async () => {
  const set = (target: 'headline' | 'city', value: string) =>
    world.apply({ kind: 'setFields', selection: { query: 'name:a.jpg' }, edits: [{ target, mode: 'replace', value }] });
  const headline = await set('headline', 'Kites');
  await set('city', 'Saltmarsh');
  await takeBack(headline.id);
  expect([await count('has:headline'), await count('city:Saltmarsh')]).toEqual([0, 1]);
});

test('an object that later entries refer to is not taken away', async () => {
  const made = await world.apply({ kind: 'addTerms', parentId: null, terms: [{ label: 'Kites' }] });
  const parentId = made.objectId ?? 0;
  const below = await world.apply({ kind: 'addTerms', parentId, terms: [{ label: 'Delta' }] });
  const given = await world.apply({ kind: 'giveTerms', selection: { query: 'name:a.jpg' }, termIds: [parentId] });
  const { later } = await world.services.ledger.standing(made.id, PROGRAM);
  expect(later.map(({ id }) => id)).toEqual([below.id, given.id]);
  await expect(takeBack(made.id)).rejects.toThrow('later entries built on it');
  await takeBack(given.id);
  await takeBack(below.id);
  await takeBack(made.id);
  expect((await world.services.vocabulary.list()).length).toBe(0);
});

test('over HTTP a cataloguer takes back what a cataloguer may do, a viewer nothing', async () => {
  const rated = await rate('name:a.jpg', 4);
  const made = await world.apply({ kind: 'addTerms', parentId: null, terms: [{ label: 'Kites' }] });
  const ask = async (name: keyof typeof PASSWORDS, method: 'GET' | 'POST', url: string) => {
    const { cookies } = await world.app.inject({
      method: 'POST',
      url: '/api/session',
      payload: { name, password: PASSWORDS[name] },
    });
    const cookie = cookies.map((each) => `${each.name}=${each.value}`).join('; ');
    const { statusCode, body } = await world.app.inject({ method, url, headers: { cookie } });
    return {
      status: statusCode,
      body: JSON.parse(body) as { standing?: { step: string | null }; entry?: { title: string } },
    };
  };
  expect((await ask('viewer', 'GET', `/api/ledger/${rated.id}`)).body.standing?.step).toBeNull();
  expect((await ask('viewer', 'POST', `/api/ledger/${rated.id}/undo`)).status).toBe(403);
  expect((await ask('cataloguer', 'GET', `/api/ledger/${made.id}`)).body.standing?.step).toBeNull();
  expect((await ask('cataloguer', 'POST', `/api/ledger/${made.id}/undo`)).status).toBe(403);
  expect((await ask('cataloguer', 'GET', `/api/ledger/${rated.id}`)).body.standing?.step).toBe('undo');
  expect((await ask('cataloguer', 'POST', `/api/ledger/${rated.id}/undo`)).body.entry?.title).toBe(
    'Undo: Rate 4: 1 photo',
  );
  expect((await ask('keeper', 'POST', '/api/ledger/999999/undo')).status).toBe(404);
});
