import { parseQuery } from '@stellin/core/search/language';
import { openWorld, putFiles, realJpeg, type World } from '../testing/world';
import { finderClient, type FinderClient } from './finder';
import { PROGRAM, viewpointOf } from '../catalogue/viewer';

let world: World;
beforeEach(async () => {
  world = await openWorld();
  const drive = await world.addDrive('Vault');
  for (let i = 0; i < 6; i++) await putFiles(drive, { [`${i}.jpg`]: await realJpeg({ rating: i % 3 }, 40 + i * 8) });
  await world.takeIn(drive);
});
afterEach(() => world.close());

const QUERIES = ['changedBy:*keeper*', 'changedBy:*cataloguer*', 'has:changed', 'missing:changed', 'missing:terms'];

/** All that changes tell by themselves: the terms of the photos, and by whom they were changed and when. */
async function said(finder: FinderClient) {
  const everything = parseQuery('').query;
  const { terms, within } = await finder.ask('describe', {
    asked: { query: everything },
    mostKeywords: 0,
    from: viewpointOf(PROGRAM),
  });
  const counts = await finder.ask('counts', {
    queries: QUERIES.map((text) => parseQuery(text).query),
    from: viewpointOf(PROGRAM),
  });
  const sorted = (list: readonly [number, number][]) => [...list].sort(([a], [b]) => a - b);
  return { terms: sorted(terms), within: sorted(within), counts };
}

/** Holds what the index that follows says to what one says that is made of what is there now. */
async function expectSame(): Promise<Awaited<ReturnType<typeof said>>> {
  const fresh = finderClient(world.databaseUrl);
  try {
    const followed = await said(world.services.finder);
    expect(followed).toEqual(await said(fresh));
    return followed;
  } finally {
    await fresh.close();
  }
}

test('terms given and taken, many and few at once, undone and done again, merged and removed', async () => {
  const labels = Array.from({ length: 15 }, (_, i) => ({ label: `Term ${i}`, narrower: [{ label: `Narrower ${i}` }] }));
  await world.apply({ kind: 'addTerms', parentId: null, terms: labels });
  const all = (await world.services.vocabulary.list()).map(({ id }) => id);
  const [a = 0, b = 0, c = 0] = all;
  expect((await expectSame()).terms).toEqual([]);
  const some = { query: 'name:0.jpg or name:1.jpg or name:4.jpg' };
  const steps: (() => Promise<unknown>)[] = [
    () => world.apply({ kind: 'giveTerms', selection: { query: '' }, termIds: [a] }),
    () => world.apply({ kind: 'giveTerms', selection: some, termIds: [b, c] }),
    // To all, of whom some have it.
    () => world.apply({ kind: 'giveTerms', selection: { query: '' }, termIds: [b] }),
    () => world.apply({ kind: 'giveTerms', selection: some, termIds: all }),
    () => world.services.ledger.undo(world.keeperId),
    () => world.services.ledger.undo(world.keeperId),
    () => world.services.ledger.redo(world.keeperId),
    () => world.apply({ kind: 'takeTerms', selection: { query: 'name:0.jpg' }, termIds: [a, b] }),
    () => world.apply({ kind: 'mergeTerms', termIds: [b], intoId: a }),
    () => world.services.ledger.undo(world.keeperId),
    // Without a look in between.
    async () => {
      await world.apply({ kind: 'takeTerms', selection: some, termIds: [c] });
      await world.apply({ kind: 'giveTerms', selection: some, termIds: [c] });
      await world.apply({ kind: 'takeTerms', selection: { query: 'name:4.jpg' }, termIds: [c] });
      await world.apply({ kind: 'giveTerms', selection: some, termIds: all.slice(3) });
      await world.apply({ kind: 'takeTerms', selection: some, termIds: [all[5] ?? 0] });
    },
    () => world.services.database.rows(`delete from photo where name = '1.jpg'`),
  ];
  const seen: unknown[] = [];
  for (const step of steps) {
    await step();
    seen.push((await expectSame()).terms);
  }
  expect(new Set(seen.map((terms) => JSON.stringify(terms))).size).toBeGreaterThanOrEqual(8);
});

test('who has changed photos, and that nobody did any more when what they did was dropped', async () => {
  const cataloguer = (await world.services.accounts.find('cataloguer'))?.id ?? 0;
  const rate = (rating: number, query: string) => ({
    kind: 'setRating' as const,
    rating,
    selection: { query, minus: [], plus: [] },
  });
  expect((await expectSame()).counts.map(({ photos }) => photos)).toEqual([0, 0, 0, 6, 6]);
  await world.services.ledger.apply(rate(4, 'name:0.jpg or name:1.jpg'), world.keeperId);
  expect((await expectSame()).counts.map(({ photos }) => photos)).toEqual([2, 0, 2, 4, 6]);
  await world.services.ledger.apply(rate(5, 'name:1.jpg or name:2.jpg'), cataloguer);
  await world.services.ledger.undo(world.keeperId);
  expect((await expectSame()).counts.map(({ photos }) => photos)).toEqual([2, 2, 3, 3, 6]);
  await world.services.database.rows(
    `delete from ledger_photo l using photo p where p.id = l.photo_id and p.name = '1.jpg'`,
  );
  expect((await expectSame()).counts.map(({ photos }) => photos)).toEqual([1, 1, 2, 4, 6]);
});
