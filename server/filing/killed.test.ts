import { existsSync } from 'node:fs';
import { readdir, readFile, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { FILING_STEPS } from '../files/fault';
import { openWorld, putFiles, realJpeg, startWorker, type World } from '../testing/world';
import { folderElsewhere } from '../testing/scratch';

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

const count = (query = '') => world.services.search.count(query);

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
