import { PAD_KEYS } from '@stellin/contract/termChanges';
import { openWorld, putFiles, realJpeg, type World } from '../testing/world';
import { PROGRAM } from '../catalogue/viewer';

let world: World;
let drive: string;
let ids: Map<string, number>;

beforeAll(async () => {
  world = await openWorld();
  drive = await world.addDrive('Vault');
  for (const i of [0, 1, 2, 3]) await putFiles(drive, { [`${i}.jpg`]: await realJpeg({ rating: i }, 30 + i * 30) });
  await world.takeIn(drive);
  await world.apply({
    kind: 'addTerms',
    parentId: null,
    terms: [
      {
        label: 'Kites',
        heading: true,
        narrower: [{ label: 'Rokkaku' }, { label: 'Delta', narrower: [{ label: 'Wing' }] }],
      },
      { label: 'Beach' },
    ],
  });
  ids = new Map((await world.services.vocabulary.list()).map(({ label, id }) => [label, id]));
  await give('name:0.jpg or name:1.jpg', 'Delta');
  await give('name:2.jpg', 'Wing');
  await give('name:0.jpg or name:2.jpg or name:3.jpg', 'Beach');
});
afterAll(() => world.close());

const idOf = (label: string) => ids.get(label) ?? 0;
const give = (query: string, ...labels: string[]) =>
  world.apply({ kind: 'giveTerms', selection: { query }, termIds: labels.map(idOf) });
const vocabulary = () => world.services.vocabulary;

test('where photos of a term are, the best of them, and what else they have; narrower terms count', async () => {
  const { drives, samples, together, origins } = await vocabulary().uses(idOf('Delta'));
  expect(drives).toEqual([{ label: 'Vault', away: false, photos: 3 }]);
  const names = new Map([...(await world.ids())].map(([name, id]) => [id, name]));
  expect(samples.map(({ id }) => names.get(id))).toEqual(['2.jpg', '1.jpg', '0.jpg']);
  // Two of the three are of the beach; the term above and those below are no company.
  expect(together).toMatchObject([{ label: 'Beach', share: 2 / 3 }]);
  expect(origins).toEqual([{ origin: 'hand', photos: 2 }]);
});

test('photos of a drive that is away stay, and are said to be', async () => {
  const shelved = await world.unplug(drive);
  await world.services.drives.refresh();
  expect((await vocabulary().uses(idOf('Delta'))).drives).toEqual([{ label: 'Vault', away: true, photos: 3 }]);
  drive = await world.plugIn(shelved, 'Vault');
  await world.services.drives.refresh();
});

test('a term knows who made it and what was done to it, newest first', async () => {
  await world.apply({ kind: 'renameTerm', termId: idOf('Rokkaku'), label: 'Rokkaku kite', keepOld: 'alternative' });
  const history = await vocabulary().history(idOf('Rokkaku'));
  expect(history).toHaveLength(2);
  expect(history.every(({ by }) => by === 'The keeper')).toBe(true);
  expect(history[0]?.title).toContain('Rokkaku kite');
  await world.services.ledger.undo(world.keeperId);
  expect(await vocabulary().history(idOf('Rokkaku'))).toHaveLength(3);
});

test('a term that is gone has no card and no uses', async () => {
  await expect(vocabulary().uses(99_999)).rejects.toMatchObject({ code: 'termGone' });
  await expect(vocabulary().card(99_999, PROGRAM)).rejects.toMatchObject({ code: 'termGone' });
});

/** The pads that are kept: without the one that fills itself. */
const padsOf = async (accountId: number) =>
  (await vocabulary().pads(await world.services.rights.personOf(accountId))).filter(({ id }) => id !== 0);

test('pads: everybody’s and one’s own, changed and removed, and never two of a name', async () => {
  const define = (name: string, shared: boolean, padId: number | null = null) =>
    world.apply({ kind: 'definePad', padId, name, shared, keys: { 1: idOf('Delta'), 2: idOf('Beach') } });
  await define('Kites', true);
  await define('Kites', false);
  await expect(define('Kites', true)).rejects.toMatchObject({ code: 'padExists' });
  const pads = await padsOf(world.keeperId);
  expect(pads.map(({ name, shared, mine }) => [name, shared, mine])).toEqual([
    ['Kites', true, false],
    ['Kites', false, true],
  ]);
  expect(pads[0]?.keys.map(({ key, term }) => [key, term.label])).toEqual([
    ['1', 'Delta'],
    ['2', 'Beach'],
  ]);
  const cataloguer = (await world.services.accounts.find('cataloguer'))?.id ?? 0;
  expect(await padsOf(cataloguer)).toHaveLength(1);
  const shared = pads[0]?.id ?? 0;
  await expect(world.services.ledger.apply({ kind: 'removePad', padId: shared }, cataloguer)).rejects.toMatchObject({
    code: 'notYours',
  });
  const own = pads[1]?.id ?? 0;
  await expect(world.services.ledger.apply({ kind: 'removePad', padId: own }, cataloguer)).rejects.toMatchObject({
    code: 'notFound',
  });
  await define('Mine', false, own);
  await world.apply({ kind: 'removePad', padId: own });
  expect(await padsOf(world.keeperId)).toHaveLength(1);
  await world.services.ledger.undo(world.keeperId);
  expect((await padsOf(world.keeperId)).map(({ name }) => name)).toEqual(['Kites', 'Mine']);
  await expect(
    world.apply({ kind: 'definePad', padId: null, name: 'Wrong', shared: true, keys: { 1: idOf('Kites') } }),
  ).rejects.toMatchObject({ code: 'headingGiven' });
});

test('a pad fills itself with what one gave today, each term on a key that it keeps', async () => {
  const keeper = await world.services.rights.personOf(world.keeperId);
  const today = async () =>
    (await world.services.vocabulary.pads(keeper)).find(({ name }) => name === 'Given today')?.keys ?? [];
  const before = await today();
  expect(before.length).toBeGreaterThan(0);
  expect(before.map(({ key }) => key)).toEqual(PAD_KEYS.slice(0, before.length));
  await world.apply({ kind: 'addTerms', parentId: null, terms: [{ label: 'Given just now' }] });
  const fresh = (await world.services.vocabulary.list()).find(({ label }) => label === 'Given just now')?.id ?? 0;
  await world.apply({ kind: 'giveTerms', selection: { query: '' }, termIds: [fresh] });
  const after = await today();
  expect(after.slice(0, before.length)).toEqual(before);
  expect(after.at(-1)?.term.label).toBe('Given just now');
  await world.services.ledger.undo(world.keeperId);
  expect(await today()).toEqual(before);
  const viewer = (await world.services.accounts.find('viewer'))?.id ?? 0;
  const others = await world.services.vocabulary.pads(await world.services.rights.personOf(viewer));
  expect(others.map(({ name }) => name)).not.toContain('Given today');
});
