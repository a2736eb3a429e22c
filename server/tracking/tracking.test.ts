import { mkdir, rename, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { openWorld, putFiles, realJpeg, type World } from '../testing/world';
import { PROGRAM } from '../catalogue/viewer';

let world: World;
let drive: string;
beforeEach(async () => {
  world = await openWorld();
  drive = await world.addDrive('Vault');
  await putFiles(drive, { '2019/a.jpg': await realJpeg({}, 20), 'other/b.jpg': await realJpeg({}, 90) });
  await world.takeIn(drive);
});
afterEach(() => world.close());

const count = (query = '') => world.services.search.all.count(query);
const track = async (
  folder: string,
  more: { subFolders?: boolean; ignore?: string[]; templateId?: number; dossierId?: number } = {},
) => {
  const driveId = (await world.services.drives.list(PROGRAM))[0]?.id ?? '';
  const rules = { subFolders: true, leaveOut: [], ignore: [], templateId: null, dossierId: null, ...more };
  await world.services.tracking.track({ driveId, folder, ...rules }, world.keeperId);
  await world.eventually(async () => (await world.services.tracking.list())[0]?.checkedAt !== null);
};

test('what comes, moves and goes in a tracked folder is taken in by itself', async () => {
  await track('');
  expect(await world.services.tracking.list()).toMatchObject([{ folder: '', listens: true }]);
  await world.apply({ kind: 'setRating', selection: { query: 'name:a.jpg' }, rating: 4 });
  await putFiles(drive, { 'new/deep/c.jpg': await realJpeg({}, 160) });
  await world.eventually(async () => (await count('folder:Vault/new/deep')) === 1);
  await rename(join(drive, '2019'), join(drive, 'Kite festival'));
  await world.eventually(async () => (await count('folder:"Vault/Kite festival" rating:4')) === 1);
  await rm(join(drive, 'new'), { recursive: true });
  await world.eventually(async () => (await count('is:missing')) === 1);
});

test('what happened while the drive was away is found when it is back', async () => {
  await track('');
  const shelf = await world.unplug(drive);
  await world.eventually(async () => !(await world.services.tracking.list())[0]?.listens);
  await putFiles(shelf, { 'c.jpg': await realJpeg({}, 160) });
  await world.plugIn(shelf, 'slot 7');
  await world.eventually(async () => (await count()) === 3);
});

test('only the tracked folder is looked at, by its rules, until it is given up', async () => {
  await track('2019', { subFolders: false, ignore: ['proof*'] });
  await putFiles(drive, {
    'other/x.jpg': await realJpeg({}, 30),
    '2019/deep/y.jpg': await realJpeg({}, 40),
    '2019/proof.jpg': await realJpeg({}, 50),
    '2019/z.jpg': await realJpeg({}, 60),
  });
  await world.eventually(async () => (await count('name:z.jpg')) === 1);
  expect(await count()).toBe(3);
  const [tracked] = await world.services.tracking.list();
  await world.services.tracking.untrack(tracked?.id ?? 0);
  expect(await world.services.tracking.list()).toEqual([]);
});

test('an accession in which nothing happened is not kept', async () => {
  await track('');
  await mkdir(join(drive, 'empty'));
  await world.eventually(async () => {
    const jobs = await world.services.jobs.list();
    return jobs.filter(({ title, state }) => title.startsWith('Keep up') && state === 'done').length > 1;
  });
  expect(await world.services.intake.accessions()).toHaveLength(1);
});

test('what comes into a tracked folder gets its template, and is put into its dossier', async () => {
  const edits = [{ target: 'creditLine' as const, mode: 'replace' as const, value: 'Saltmarsh Kite Museum' }];
  await world.apply({ kind: 'saveTemplate', templateId: null, name: 'Arrivals', edits });
  await world.apply({ kind: 'makeDossier', name: 'New ones' });
  const idIn = async (table: 'template' | 'dossier') =>
    (await world.services.database.row<{ id: number }>(`select id from ${table}`))?.id ?? 0;
  await track('', { templateId: await idIn('template'), dossierId: await idIn('dossier') });
  await putFiles(drive, { 'new/c.jpg': await realJpeg({}, 160) });
  await world.eventually(async () => (await count('dossier:"New ones"')) === 1);
  expect(await count('name:c.jpg dossier:"New ones" creditLine:"Saltmarsh Kite Museum"')).toBe(1);
  // What was there before is left as it is.
  expect(await count('has:creditLine')).toBe(1);
});
