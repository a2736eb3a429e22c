import { existsSync } from 'node:fs';
import { readdir, readFile, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { atFaultPoints, FILING_STEPS } from '../files/fault';
import { openWorld, putFiles, realJpeg, startWorker, type World } from '../testing/world';
import { folderElsewhere } from '../testing/scratch';
import { PROGRAM } from '../catalogue/viewer';

let world: World;
let vault: string;
/** On another file system. */
let far: string;
beforeEach(async () => {
  world = await openWorld();
  [vault, far] = [await world.addDrive('Vault'), await folderElsewhere()];
  await putFiles(vault, {
    '2019/a.jpg': await realJpeg({ keywords: ['dunes'] }, 20),
    '2019/a.xmp': Buffer.from(
      '<x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#"/></x:xmpmeta>',
    ),
    '2019/b.jpg': await realJpeg({}, 90),
  });
  await world.services.drives.addPlace(far);
  await world.takeIn(vault);
  await world.rest();
});
afterEach(async () => {
  await world.close();
  await rm(far, { recursive: true, force: true });
});

const count = (query = '') => world.services.search.all.count(query);

test('killed while the trash is emptied the next process goes on: what is gone is forgotten, all else stays', async () => {
  await world.apply({ kind: 'trashFiles', selection: { query: 'name:a.jpg' } });
  await world.services.start();
  const [trashing] = await world.services.jobs.list();
  await world.until(trashing?.id ?? '', ['done']);
  await world.rest();
  const { id: driveId } = await world.services.drives.catalogue(vault).catch(async () => ({
    id: (await world.services.drives.list(PROGRAM)).find(({ label }) => label === 'Vault')?.id ?? '',
  }));
  const { id } = await world.services.filing.emptyTrash(driveId, world.keeperId);
  expect(await startWorker(world, 'trash:deleted').ended).toBe('SIGKILL');
  await world.services.start();
  await world.until(id, ['done']);
  expect([await count('is:trashed'), await count()]).toEqual([0, 1]);
  expect(
    (await readdir(join(vault, '.stellin-trash'), { recursive: true })).filter((name) => name.includes('a.')),
  ).toEqual([]);
  expect(await readdir(join(vault, '2019'))).toEqual(['b.jpg']);
});

test('a server that dies when it has renamed a folder: looked through again, its photos are where the folder is', async () => {
  const folder = await world.services.database.row<{ id: number }>(`select id from folder where path = '2019'`);
  atFaultPoints((step) => {
    // Nothing of the transaction is kept.
    if (step === 'folder:renamed') throw new Error('the process dies');
  });
  await expect(world.apply({ kind: 'renameFolder', folderId: folder?.id ?? 0, name: '2019 festival' })).rejects.toThrow(
    'dies',
  );
  atFaultPoints(undefined);
  const ids = await world.ids();
  await world.services.start();
  const { result } = await world.takeIn(vault);
  expect(result).toMatchObject({ new: 0, moved: 2 });
  expect(await world.ids()).toEqual(ids);
  expect(await count('folder:"Vault/2019 festival"')).toBe(2);
  expect(await count('is:missing')).toBe(0);
});

test.each(FILING_STEPS)('killed at %s the next process goes on, and nothing is lost or twice', async (step) => {
  const bytes = await readFile(join(vault, '2019/a.jpg'));
  const { id: driveId } = await world.services.drives.catalogue(far);
  await world.apply({ kind: 'moveFiles', selection: { query: 'within:Vault/2019' }, driveId, folder: 'in' });
  const [job] = await world.services.jobs.list();
  expect(await startWorker(world, step).ended).toBe('SIGKILL');
  const there = [join(vault, '2019/a.jpg'), join(far, 'in/a.jpg')].filter((path) => existsSync(path));
  expect(await Promise.all(there.map((path) => readFile(path)))).toContainEqual(bytes);
  await world.services.start();
  await world.until(job?.id ?? '', ['done']);
  expect(await readdir(join(vault, '2019'))).toEqual([]);
  expect((await readdir(join(far, 'in'))).sort()).toEqual(['a.jpg', 'a.xmp', 'b.jpg']);
  expect(await readFile(join(far, 'in/a.jpg'))).toEqual(bytes);
  expect(await count(`drive:"${far.slice(far.lastIndexOf('/') + 1)}"`)).toBe(2);
  expect(await count()).toBe(2);
});
