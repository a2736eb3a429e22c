import { openWorld, putFiles, realJpeg, type World } from '../testing/world';

let world: World;
beforeAll(async () => {
  world = await openWorld();
  const drive = await world.addDrive('Vault');
  for (const i of [0, 1, 2, 3, 4, 5])
    await putFiles(drive, {
      [`Festival ${2018 + (i % 2)}/SKM_${i}.jpg`]: await realJpeg(
        {
          rating: i,
          city: i < 4 ? 'Saltmarsh' : 'Kiteham',
          creator: [i % 2 ? 'Ida Brandt' : 'Finn Tarrow'],
          headline: i < 2 ? 'Rokkaku battle' : 'Over the dunes',
          dateCreated: `${2018 + (i % 2)}-06-1${i}T10:00:00`,
        },
        20 + i * 35,
      ),
    });
  await world.takeIn(drive);
  await world.apply({
    kind: 'addTerms',
    parentId: null,
    terms: [{ label: 'Kites', narrower: [{ label: 'Rokkaku' }, { label: 'Delta' }] }],
  });
  const rokkaku = (await world.services.vocabulary.list()).find(({ label }) => label === 'Rokkaku')?.id ?? 0;
  await world.apply({ kind: 'giveTerms', selection: { query: 'rating:>=3' }, termIds: [rokkaku] });
  await world.apply({ kind: 'saveSearch', name: 'Rokkaku of Ida', query: 'term:Rokkaku', sort: 'taken' });
  await world.apply({
    kind: 'makeDossier',
    parentId: null,
    name: 'Rokkaku wall',
    selection: { query: 'rating:5' },
  });
});
afterAll(() => world.close());

const suggest = async (text: string, query = '') =>
  (await world.services.search.all.suggest(text, query)).map(({ kind, label, photos }) => [kind, label, photos]);

test('a few letters find terms, searches, dossiers and fields, each with its kind and count', async () => {
  const found = await suggest('rokk');
  expect(found).toEqual(
    expect.arrayContaining([
      ['term', 'Rokkaku', 3],
      ['search', 'Rokkaku of Ida', 3],
      ['dossier', 'Rokkaku wall', 1],
    ]),
  );
  expect(await suggest('rat')).toContainEqual(['field', 'rating:', null]);
});

test('people’s places and drives are found by the beginning of any word of theirs, folders with their path', async () => {
  expect(await suggest('salt')).toContainEqual(['place', 'Saltmarsh', 4]);
  expect(await suggest('vau')).toContainEqual(['drive', 'Vault', 6]);
  expect(await suggest('festival 2019')).toContainEqual(['folder', 'Festival 2019', 3]);
});

test('counts are those of the result as it is narrowed already', async () => {
  expect(await suggest('rokk', 'rating:5')).toContainEqual(['term', 'Rokkaku', 1]);
  expect(await suggest('kiteham', 'rating:<4')).not.toContainEqual(expect.arrayContaining(['Kiteham', 1]));
  expect(await suggest('festival 2019', 'city:Kiteham')).toContainEqual(['folder', 'Festival 2019', 1]);
});

test('after the name of a field come its values, the most frequent first', async () => {
  expect(await suggest('city:')).toEqual([
    ['value', 'Saltmarsh', 4],
    ['value', 'Kiteham', 2],
  ]);
  expect(await suggest('creator:"ida')).toEqual([['value', 'Ida Brandt', 3]]);
  expect(await suggest('headline:o')).toContainEqual(['value', 'Over the dunes', 4]);
  expect(await suggest('term:del')).toEqual([['term', 'Delta', 0]]);
  expect((await suggest('only:rok'))[0]).toEqual(['term', 'Rokkaku', 3]);
  expect(await suggest('search:ida')).toEqual([['search', 'Rokkaku of Ida', 3]]);
  expect(await suggest('dossier:wall')).toEqual([['dossier', 'Rokkaku wall', 1]]);
});

test('dates are offered in words and by year, choices as they begin', async () => {
  const dates = await suggest('taken:');
  expect(dates).toEqual(expect.arrayContaining([['value', '2018', 3]]));
  expect(dates.map(([, label]) => label)).toContain('today');
  expect((await suggest('shape:l')).map(([, label]) => label)).toEqual(['landscape']);
  expect((await suggest('is:mis')).map(([, label]) => label)).toEqual(['missing']);
});

test('nothing typed finds nothing, and what is no field is a word', async () => {
  expect(await suggest('   ')).toEqual([]);
  expect(await suggest('nosuchfield:x')).toEqual([]);
  expect(await suggest('%_\\')).toEqual([]);
});
