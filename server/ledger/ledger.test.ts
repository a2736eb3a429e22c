import { openWorld, putFiles, realJpeg, type World } from '../testing/world';
import { PROGRAM } from '../catalogue/viewer';

let world: World;
let ids: Map<string, number>;
const id = (name: string) => ids.get(name) ?? 0;

beforeAll(async () => {
  world = await openWorld();
  const drive = await world.addDrive('Vault');
  const files = await Promise.all(
    [1, 2, 3, 4].map(
      async (n) => [`${n}.jpg`, await realJpeg({ keywords: ['from the file'], rating: n }, n * 30)] as const,
    ),
  );
  await putFiles(drive, Object.fromEntries(files));
  await world.takeIn(drive);
  ids = await world.ids();
});
afterAll(() => world.close());

async function addTerm(label: string, parentId: number | null = null): Promise<number> {
  const entry = await world.apply({ kind: 'addTerms', parentId, terms: [{ label }] });
  if (entry.objectId === null) throw new Error('no term was made');
  return entry.objectId;
}

const count = (query: string) => world.services.search.all.count(query);
const undo = () => world.services.ledger.undo(world.keeperId);
const redo = () => world.services.ledger.redo(world.keeperId);

test('giving a term is one step by name, which undo takes back and redo repeats exactly', async () => {
  const termId = await addTerm('Delta');
  await world.apply({ kind: 'giveTerms', selection: { query: null, plus: [id('1.jpg')] }, termIds: [termId] });
  const entry = await world.apply({ kind: 'giveTerms', selection: { query: '' }, termIds: [termId] });
  expect(entry).toMatchObject({ title: 'Give “Delta” to 3 photos', photos: 3, state: 'done', by: 'The keeper' });
  expect(await world.services.ledger.nextSteps(world.keeperId)).toMatchObject({
    undo: { title: 'Give “Delta” to 3 photos' },
    redo: null,
  });

  expect((await undo()).title).toBe('Undo: Give “Delta” to 3 photos');
  expect(await count('term:Delta')).toBe(1);
  expect((await redo()).photos).toBe(3);
  expect(await count('term:Delta')).toBe(4);
  await undo();
  await undo();
  expect(await count('term:Delta')).toBe(0);
});

test('a new change forgets what could be repeated', async () => {
  await addTerm('Sled');
  await expect(redo()).rejects.toThrow('nothing to redo');
});

test('undo leaves alone what somebody else has changed since', async () => {
  const cataloguer = (await world.services.accounts.find('cataloguer'))?.id ?? 0;
  await world.apply({ kind: 'setRating', selection: { query: null, plus: [id('1.jpg'), id('2.jpg')] }, rating: 5 });
  await world.services.ledger.apply(
    { kind: 'setRating', selection: { query: null, plus: [id('2.jpg')], minus: [] }, rating: 4 },
    cataloguer,
  );
  expect((await undo()).photos).toBe(1);
  expect(await count('rating:1')).toBe(1);
  expect(await count('rating:4')).toBe(2);
});

test('a change that would change nothing is refused and leaves no entry', async () => {
  const before = (await world.services.ledger.list(PROGRAM, { limit: 1 }))[0]?.id;
  await expect(world.apply({ kind: 'setRating', selection: { query: 'rating:3' }, rating: 3 })).rejects.toThrow(
    'Nothing would change',
  );
  expect((await world.services.ledger.list(PROGRAM, { limit: 1 }))[0]?.id).toBe(before);
});

test('a selection is a query less exceptions, plus some', async () => {
  const termId = await addTerm('Kite');
  const entry = await world.apply({
    kind: 'giveTerms',
    selection: { query: 'name:1.jpg or name:2.jpg', minus: [id('2.jpg')], plus: [id('4.jpg')] },
    termIds: [termId],
  });
  expect(entry.photos).toBe(2);
  expect(await count('term:Kite name:1.jpg')).toBe(1);
  expect(await count('term:Kite name:4.jpg')).toBe(1);
});

test('before and after of each photo stand in the ledger', async () => {
  const entry = await world.apply({ kind: 'setRating', selection: { query: 'name:3.jpg' }, rating: -1 });
  expect((await world.services.ledger.changesOf(entry.id, PROGRAM)).photos).toMatchObject([
    { photoId: id('3.jpg'), name: '3.jpg', what: 'Rating', before: '3', after: '-1' },
  ]);
  expect((await world.services.ledger.list(PROGRAM, { photoId: id('3.jpg'), limit: 1 }))[0]?.id).toBe(entry.id);
});

describe('the vocabulary', () => {
  test('a sub-tree is added, found by the broader term, and taken back in one step', async () => {
    await world.apply({
      kind: 'addTerms',
      parentId: null,
      terms: [
        {
          label: 'Objects',
          heading: true,
          narrower: [{ label: 'Reels', narrower: [{ label: 'Winder' }, { label: 'Hand reel' }] }],
        },
      ],
    });
    const terms = await world.services.vocabulary.list();
    const winder = terms.find(({ label }) => label === 'Winder');
    await world.apply({ kind: 'giveTerms', selection: { query: 'name:4.jpg' }, termIds: [winder?.id ?? 0] });
    expect(await count('term:Objects')).toBe(1);
    expect(await count('only:Reels')).toBe(0);
    expect((await world.services.vocabulary.list()).find(({ label }) => label === 'Reels')).toMatchObject({
      photos: 0,
      photosWithin: 1,
    });
    await undo();
    await undo();
    expect((await world.services.vocabulary.list()).some(({ label }) => label === 'Reels')).toBe(false);
  });

  test('a heading can’t be given, a label stands once below a term, a used term can’t be removed', async () => {
    const heading =
      (await world.apply({ kind: 'addTerms', parentId: null, terms: [{ label: 'Places', heading: true }] })).objectId ??
      0;
    await expect(world.apply({ kind: 'giveTerms', selection: { query: '' }, termIds: [heading] })).rejects.toThrow(
      'is a heading',
    );
    const beach = await addTerm('Beach', heading);
    await expect(addTerm('Beach', heading)).rejects.toThrow('stands there already, below “Places”');
    await world.apply({ kind: 'giveTerms', selection: { query: 'name:1.jpg' }, termIds: [beach] });
    await expect(world.apply({ kind: 'removeTerm', termId: beach })).rejects.toThrow('photos have it (1)');
    await expect(world.apply({ kind: 'removeTerm', termId: heading })).rejects.toThrow('it has narrower terms (1)');
  });

  test('taking back a term that has been given since is refused with the reason', async () => {
    const cataloguer = (await world.services.accounts.find('cataloguer'))?.id ?? 0;
    const termId = await addTerm('Parafoil');
    await world.services.ledger.apply(
      { kind: 'giveTerms', selection: { query: 'name:1.jpg', minus: [], plus: [] }, termIds: [termId] },
      cataloguer,
    );
    await expect(undo()).rejects.toThrow('have come to depend on it');
    expect(await count('term:Parafoil')).toBe(1);
  });

  test('renaming is found under the new label, and its undo is refused once somebody renamed again', async () => {
    const account = { name: 'mara', displayName: 'Mara Olt', role: 'keeper' as const, password: 'nine lines out' };
    const { id: otherKeeper } = await world.services.accounts.add(account);
    const termId = await addTerm('Rokaku');
    await world.apply({ kind: 'giveTerms', selection: { query: 'name:2.jpg' }, termIds: [termId] });
    await world.apply({ kind: 'renameTerm', termId, label: 'Rokkaku' });
    expect(await count('term:rokkaku')).toBe(1);
    expect(await count('rokkaku')).toBe(1);
    await world.services.ledger.apply(
      { kind: 'renameTerm', termId, label: 'Six-sided kite', keepOld: 'none' },
      otherKeeper,
    );
    await expect(undo()).rejects.toThrow('has been changed since');
  });
});

describe('saved searches', () => {
  test('their counts are true as photos change; they are changed, removed and brought back', async () => {
    const termId = await addTerm('Night');
    const entry = await world.apply({ kind: 'saveSearch', name: 'Nights', query: 'term:Night', sort: 'taken' });
    const found = async () => (await world.services.search.all.list()).find(({ name }) => name === 'Nights');
    expect((await found())?.count).toBe(0);
    await world.apply({ kind: 'giveTerms', selection: { query: '' }, termIds: [termId] });
    expect((await found())?.count).toBe(4);
    await world.apply({ kind: 'changeSearch', searchId: entry.objectId ?? 0, query: 'term:Night name:1*' });
    expect((await found())?.count).toBe(1);
    await world.apply({ kind: 'removeSearch', searchId: entry.objectId ?? 0 });
    expect(await found()).toBeUndefined();
    await undo();
    expect(await found()).toMatchObject({ query: 'term:Night name:1*', count: 1 });
    await expect(world.apply({ kind: 'saveSearch', name: 'Nights', query: '', sort: 'taken' })).rejects.toThrow(
      'already',
    );
  });
});
