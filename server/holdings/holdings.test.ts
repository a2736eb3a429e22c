import type { Figures } from '@stellin/contract/holdings';
import type { Person } from '../catalogue/viewer';
import { openWorld, PASSWORDS, putFiles, realJpeg, type World } from '../testing/world';

let world: World;
let keeper: Person;
beforeAll(async () => {
  world = await openWorld();
  keeper = await world.services.rights.personOf(world.keeperId);
  const drive = await world.addDrive('Vault');
  const photos: Record<string, Parameters<typeof realJpeg>[0]> = {
    'a.jpg': { dateCreated: '1934-07-15', creator: ['Anton Kessel'], description: 'Rokkaku' },
    'b.jpg': { dateCreated: '1938', creator: ['Anton Kessel', 'Mara Olt'] },
    'c.jpg': { dateCreated: '2019-06-02T10:00:00', event: 'Festival' },
    'd.jpg': {},
  };
  await putFiles(
    drive,
    Object.fromEntries(
      await Promise.all(
        Object.entries(photos).map(async ([name, said], i) => [name, await realJpeg(said, 20 + i * 40)] as const),
      ),
    ),
  );
  await world.takeIn(drive);
});
afterAll(() => world.close());

const figures = (scope = '', person = keeper) => world.services.holdings.figures(person, scope);
const facet = ({ facets }: Figures, id: string) =>
  facets.find((each) => each.id === id)?.values.map(({ label, photos }) => [label, photos]);

test('every figure is what its search finds', async () => {
  const shown = await figures();
  expect([shown.photos, shown.described, shown.time.missing.photos]).toEqual([4, null, 1]);
  expect(facet(shown, 'creator')).toEqual([
    ['Anton Kessel', 2],
    ['Mara Olt', 1],
  ]);
  expect(facet(shown, 'event')).toEqual([['Festival', 1]]);
  const all = [
    ...shown.time.bars,
    ...[...shown.media, ...shown.sizes, ...shown.faces, ...shown.growth, shown.doubles, shown.time.missing],
    ...shown.facets.flatMap(({ values, missing }) => [...values, ...(missing ? [missing] : [])]),
    ...shown.ages.decades.flatMap(({ cells }) => cells),
  ];
  expect(all.length).toBeGreaterThan(60);
  const found = await world.services.search.all.counts(all.map(({ query }) => query));
  expect(all.map(({ photos }) => photos)).toEqual(found);
  expect(shown.time.bars.reduce((sum, { photos }) => sum + photos, 0)).toBeGreaterThanOrEqual(3);
  expect(shown.growth.at(-1)?.photos).toBe(4);
  const thirties = shown.ages.decades.find(({ label }) => label === '1930s');
  expect([thirties?.cells.at(-1)?.photos, thirties?.cells[0]?.photos]).toEqual([2, 0]);
});

test('a scope moves all of them, and a period in it is where time begins and ends', async () => {
  const kessel = await figures('creator:"Mara Olt"');
  expect([kessel.photos, facet(kessel, 'creator')?.length, kessel.growth.at(-1)?.photos]).toEqual([1, 2, 1]);
  const then = await figures('taken:193X');
  expect(then.photos).toBe(2);
  expect(then.time.bars.every(({ label }) => label.startsWith('193') || label.startsWith('194'))).toBe(true);
  expect((await figures('name:none.jpg')).time.bars).toEqual([]);
});

test('with rules of the team it is told how many count as described, bar by bar', async () => {
  await world.apply({ kind: 'saveQualityRule', ruleId: null, name: 'Captions', query: '', requires: ['caption'] });
  const shown = await figures();
  expect(shown.described).toBe(1);
  expect(shown.time.bars.reduce((sum, { described }) => sum + (described ?? 0), 0)).toBe(1);
});

test('what was described is told by week and who; what was taken back is not', async () => {
  const selection = { query: 'name:a.jpg or name:b.jpg' };
  await world.apply({ kind: 'setRating', selection, rating: 4 });
  await world.apply({ kind: 'setRating', selection, rating: 5 });
  await world.services.ledger.undo(world.keeperId);
  const weeks = await world.services.holdings.work('2020-01-01');
  expect(weeks).toMatchObject([{ by: 'The keeper', changes: 1, photos: 2 }]);
  expect(new Date(`${weeks[0]?.week}T12:00:00Z`).getUTCDay()).toBe(1);
  expect(await world.services.holdings.work('2199-01-01')).toEqual([]);
});

test('what is private counts for nobody who may not see it', async () => {
  await world.apply({ kind: 'setPrivate', selection: { query: 'name:a.jpg' }, private: true });
  const viewer = await world.services.rights.personOf((await world.services.accounts.find('viewer'))?.id ?? 0);
  const shown = await figures('', viewer);
  expect([shown.photos, facet(shown, 'creator')]).toEqual([
    3,
    [
      ['Anton Kessel', 1],
      ['Mara Olt', 1],
    ],
  ]);
  const payload = { name: 'viewer', password: PASSWORDS.viewer };
  const { headers } = await world.app.inject({ method: 'POST', url: '/api/session', payload });
  const cookie = String(headers['set-cookie']).split(';')[0] ?? '';
  // Who does what is told to those for whom everything exists.
  expect((await world.app.inject({ url: '/api/holdings/work?since=2020-01-01', headers: { cookie } })).statusCode).toBe(
    403,
  );
  expect((await world.app.inject({ url: '/api/holdings/figures', headers: { cookie } })).statusCode).toBe(200);
});

test('who comes again is told what has changed since the day they were here; within hours it is one visit', async () => {
  const { holdings, database } = world.services;
  expect(await holdings.sinceLast(keeper)).toMatchObject({ day: null, by: [] });
  expect((await holdings.sinceLast(keeper)).day).toBeNull();
  await database.rows(`update account_visit set last_at = now() - interval '5 hours'`);
  const since = await holdings.sinceLast(keeper);
  expect(since.day).toMatch(/^\d{4}-\d{2}-\d{2}$/);
  const found = await world.services.search.all.counts([since.cameIn.query, since.changed.query]);
  expect([since.cameIn.photos, since.changed.photos]).toEqual(found);
  expect(since.cameIn.photos).toBeGreaterThan(0);
  // Looked at again in the same hour it says the same.
  expect((await holdings.sinceLast(keeper)).day).toBe(since.day);
});
