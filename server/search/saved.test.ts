import { openWorld, putFiles, realJpeg, type World } from '../testing/world';
import { PROGRAM } from '../catalogue/viewer';

let world: World;

beforeAll(async () => {
  world = await openWorld();
  const drive = await world.addDrive('Vault');
  for (const i of [0, 1, 2, 3, 4, 5])
    await putFiles(drive, {
      [`${2018 + (i % 3)}/SKM_${i}.jpg`]: await realJpeg(
        {
          rating: i,
          ...(i % 2 ? { creator: ['Ida Brandt'] } : {}),
          dateCreated: `${2018 + (i % 3)}-06-1${i}T10:00:00`,
        },
        20 + i * 35,
      ),
    });
  await world.takeIn(drive);
});
afterAll(() => world.close());

const save = (name: string, query: string, more = {}) =>
  world.apply({ kind: 'saveSearch', name, query, sort: 'taken', ...more });
const named = async (name: string) => (await world.services.search.all.list()).find((search) => search.name === name);
const count = (query: string) => world.services.search.all.count(query);
const undo = () => world.services.ledger.undo(world.keeperId);

describe('saved searches', () => {
  test('one that another asks for is followed when it is renamed, and can’t be removed', async () => {
    await save('Good', 'rating:>=3');
    await save('Good of 2020', 'search:Good taken:2020');
    expect((await named('Good of 2020'))?.count).toBe(1);
    const good = (await named('Good'))?.id ?? 0;
    await world.apply({ kind: 'changeSearch', searchId: good, name: 'Best ones' });
    expect(await named('Good of 2020')).toMatchObject({
      query: 'search:"Best ones" taken:2020',
      count: 1,
      problems: [],
    });
    await expect(world.apply({ kind: 'removeSearch', searchId: good })).rejects.toThrow('“Good of 2020” asks for it');
    await undo();
    expect((await named('Good of 2020'))?.query).toBe('search:Good taken:2020');
  });

  test('circles and unknown names are refused; a query that names nothing finds nothing and says so', async () => {
    const good = (await named('Good'))?.id ?? 0;
    await expect(world.apply({ kind: 'changeSearch', searchId: good, query: 'search:"Good of 2020"' })).rejects.toThrow(
      'would ask for itself',
    );
    await expect(save('Lost', 'search:Nowhere')).rejects.toThrow('there is no saved search “Nowhere”');
    expect(await world.services.search.all.counted('search:Nowhere')).toMatchObject({
      count: 0,
      errors: [{ message: 'there is no saved search “Nowhere”' }],
    });
    // A batch on such a query must not reach everything.
    await expect(world.apply({ kind: 'setRating', selection: { query: 'search:Nowhere' }, rating: 1 })).rejects.toThrow(
      'there is no saved search “Nowhere”',
    );
  });

  test('a batch takes what a saved search finds, less what was taken off', async () => {
    const entry = await world.apply({
      kind: 'setMark',
      selection: { query: 'search:Good', minus: [(await world.ids()).get('SKM_5.jpg') ?? 0] },
      mark: 'Print',
    });
    expect(entry.photos).toBe(2);
    expect(await count('mark:Print')).toBe(2);
  });

  test('a branch is kept apart; definitions go out and come in again, replacing what is called the same', async () => {
    await save('Here', 'has:creator', {
      scope: 'within:"Vault/2019"',
      folder: ' Work / Gaps ',
      pinned: true,
      size: 210,
    });
    expect(await named('Here')).toMatchObject({
      asks: 'within:Vault/2019 has:creator',
      count: 1,
      folder: 'Work/Gaps',
      pinned: true,
      size: 210,
    });
    const definitions = await world.services.search.definitions(PROGRAM);
    const changed = definitions.map((each) => (each.name === 'Here' ? { ...each, scope: '' } : each));
    const entry = await world.apply({
      kind: 'importSearches',
      searches: [...changed, { name: 'New one', query: 'rating:0', sort: 'name' }],
    });
    expect(entry.title).toBe('Take in 4 saved searches');
    expect((await named('Here'))?.count).toBe(3);
    expect(await named('New one')).toMatchObject({ count: 1 });
    await undo();
    expect((await named('Here'))?.count).toBe(1);
    expect(await named('New one')).toBeUndefined();
  });

  test('queries asked lately come back, the latest first, each once', async () => {
    const { search } = world.services;
    for (const query of ['rating:5', 'kind:jpeg', 'rating:5']) await search.remember(world.keeperId, query, 'taken');
    expect((await search.recent(world.keeperId)).map(({ query }) => query)).toEqual(['rating:5', 'kind:jpeg']);
  });
});

describe('beside the result', () => {
  test('facets and the ruler are counted without their own choice', async () => {
    const query = 'rating:>=1 taken:2019';
    const [kinds, years] = await world.services.search.all.facets({
      query,
      facets: ['kind', 'year'],
      limit: 10,
      containing: '',
    });
    expect(kinds?.values).toMatchObject([{ label: 'jpeg', photos: 2, chosen: null }]);
    expect(years?.values.map(({ label, photos, chosen }) => [label, photos, chosen])).toEqual([
      ['2019', 2, 'any'],
      ['2020', 2, null],
      ['2018', 1, null],
    ]);
    const ruler = await world.services.search.all.ruler(query, undefined, undefined);
    expect(ruler.stretches.reduce((sum, { photos }) => sum + photos, 0)).toBe(5);
    for (const stretch of ruler.stretches) expect(await count(`rating:>=1 ${stretch.query}`)).toBe(stretch.photos);
    expect(ruler.chosen).toEqual({ from: '2019-01-01T00:00:00', to: '2020-01-01T00:00:00' });
  });

  test('a chosen value that no photo has any more can still be given up', async () => {
    const [facet] = await world.services.search.all.facets({
      query: 'camera:Gone',
      facets: ['camera'],
      limit: 5,
      containing: '',
    });
    expect(facet?.values).toMatchObject([{ label: 'Gone', photos: 0, chosen: 'any' }]);
    // One that is there is counted, though others are more frequent.
    const query = 'taken:2018-06-10';
    const [years] = await world.services.search.all.facets({ query, facets: ['year'], limit: 1, containing: '' });
    expect(years?.values.map(({ label, photos, chosen }) => [label, photos, chosen])).toEqual([
      ['2018-06-10', 1, 'any'],
      ['2018', 2, null],
    ]);
  });

  test('why: by name or path, with the photo’s own values; a saved search is opened', async () => {
    const { why } = await world.services.search.all.why('search:Good creator:"Ida Brandt"', 'skm_4.JPG');
    expect(why).toMatchObject({
      path: 'Vault/2019/SKM_4.jpg',
      shown: false,
      explanation: {
        met: false,
        of: [
          { text: 'search:Good', met: true, of: [{ text: 'rating:>=3', met: true, own: '4' }] },
          { text: 'creator:"Ida Brandt"', met: false, own: 'nothing' },
        ],
      },
    });
    await expect(world.services.search.all.why('', 'nobody.jpg')).rejects.toThrow('photo called “nobody.jpg”');
    await world.apply({ kind: 'removePhotos', selection: { query: 'name:SKM_4.jpg' } });
    expect((await world.services.search.all.why('rating:4', 'Vault/2019/SKM_4.jpg')).why).toMatchObject({
      shown: false,
      remark: expect.stringContaining('out of the catalogue') as string,
      explanation: { met: true },
    });
    await undo();
  });
});

describe('hostile queries', () => {
  const ask = (query: string) =>
    world.app.inject({ method: 'GET', url: '/api/photos/count', query: { query }, cookies });
  let cookies: Record<string, string> = {};
  beforeAll(async () => {
    const answer = await world.app.inject({
      method: 'POST',
      url: '/api/session',
      payload: { name: 'keeper', password: 'keeper-password' },
    });
    cookies = Object.fromEntries(answer.cookies.map(({ name, value }) => [name, value]));
  });

  test.each([
    ['5,000 brackets', '('.repeat(5000), 'nested'],
    ['brackets without end', `${'(a or '.repeat(1500)}b`, 'nested'],
    ['2,000 conditions', 'kite or '.repeat(1200), 'at most 1000 conditions'],
    ['an unknown field', 'drop:table', 'there is no field “drop”'],
  ])('%s are answered, and what is wrong is named', async (_, query, message) => {
    const answer = await ask(query);
    expect(answer.statusCode).toBe(200);
    expect(answer.body).toContain(message);
  });

  test('SQL, wildcards and control characters are only text', async () => {
    for (const query of [
      `caption:"'; drop table photo; --"`,
      `name:"*a*a*a*a*a*a*a*a*a*a*a*a*a*a*a*b"`,
      `keyword:"\\\\x00%_'\\""`,
      `caption:"\u0000x\u0001'"`,
      `term:"')) or 1=1 --"`,
      `dossier:"/a'/b\\""`,
    ]) {
      const answer = await ask(query);
      expect([query, answer.statusCode, answer.json<{ count: number }>().count]).toEqual([query, 200, 0]);
      // As a batch it is SQL: nothing is found, so nothing would change.
      await expect(world.apply({ kind: 'setRating', selection: { query }, rating: 2 })).rejects.toThrow(
        'Nothing would change',
      );
    }
    expect(await count('')).toBe(6);
  });

  test('100 kB are refused by name', async () => {
    const answer = await ask('k'.repeat(100_000));
    expect(answer.statusCode).toBe(400);
    expect(answer.body).toContain('query');
  });
});
