import { openWorld, putFiles, realJpeg, type World } from '../testing/world';
import { finishAccession } from './store';

let world: World;
beforeEach(async () => {
  world = await openWorld();
  const drive = await world.addDrive('Vault');
  await putFiles(drive, { 'a.jpg': await realJpeg() });
  await world.takeIn(drive);
});
afterEach(() => world.close());

test('an accession that ends long after it began says what came of it, however many began since', async () => {
  const { database } = world.services;
  await database.rows(
    `insert into accession (drive_id, folder) select drive_id, '' from accession cross join generate_series(1, 250)`,
  );
  expect(await finishAccession(database, 1, true)).toMatchObject({ id: 1, photosNew: 1, driveLabel: 'Vault' });
});

test('one in which nothing happened is not kept when it began by itself', async () => {
  const { database } = world.services;
  const [made] = await database.rows<{ id: number }>(
    `insert into accession (drive_id, folder) select drive_id, '' from accession returning id`,
  );
  expect(await finishAccession(database, made?.id ?? 0, true)).toMatchObject({ photosNew: 0 });
  expect(await database.rows('select id from accession')).toEqual([{ id: 1 }]);
});
