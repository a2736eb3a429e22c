import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Client } from 'pg';
import type { Query } from '@stellin/core/query/query';
import { openWorld, putFiles, realJpeg, type World } from '../testing/world';
import { answersOf } from './answers';
import { IndexFollower } from './indexFollower';
import { PROGRAM, viewpointOf } from '../catalogue/viewer';

let world: World;
let folder: string;
const opened: Client[] = [];
beforeEach(async () => {
  world = await openWorld();
  folder = await mkdtemp(join(tmpdir(), 'stellin-follower-'));
  const drive = await world.addDrive('Vault');
  await putFiles(drive, {
    'a.jpg': await realJpeg({ description: 'A kite over the dunes' }),
    'b.jpg': await realJpeg({ description: 'The harbour' }, 70),
  });
  await world.takeIn(drive);
});
afterEach(async () => {
  await Promise.all(opened.splice(0).map((client) => client.end()));
  await world.close();
  await rm(folder, { recursive: true });
});

async function follower(fromPhotos = 0, name = 'index'): Promise<IndexFollower> {
  const client = new Client({ connectionString: world.databaseUrl });
  await client.connect();
  opened.push(client);
  const snapshot = { path: join(folder, name), program: 'test', fromPhotos };
  return new IndexFollower(client, { url: world.databaseUrl, snapshot });
}

const rated: Query = { kind: 'criterion', criterion: 'rating', operator: '=', value: '4' };
const countRated = (index: IndexFollower) =>
  answersOf(index).counts({ queries: [rated], from: viewpointOf(PROGRAM) })[0]?.photos ?? NaN;
const rate = () => world.apply({ kind: 'setRating', selection: { query: 'name:a.jpg' }, rating: 4 });

test('an index is built from the tables and knows what was committed before one asks', async () => {
  const index = await follower();
  await index.upToDate();
  expect([index.index.size, countRated(index)]).toEqual([2, 0]);
  await rate();
  // Both wait for the same look.
  await Promise.all([index.upToDate(), index.upToDate()]);
  expect(countRated(index)).toBe(1);
});

test('the next one begins with the snapshot and follows from there', async () => {
  const first = await follower();
  await first.upToDate();
  expect(first.snapshotWrittenAt).toBe(0);
  await first.writeSnapshot();
  expect(first.snapshotWrittenAt).toBeGreaterThan(0);
  await rate();
  const second = await follower();
  await second.upToDate();
  // It was read, not built.
  expect(second.snapshotWrittenAt).toBeGreaterThan(0);
  expect([second.index.size, countRated(second)]).toEqual([2, 1]);
});

test('an index of few photos is not written, and a disk that takes nothing stops nobody', async () => {
  const small = await follower(1000);
  await small.upToDate();
  await small.writeSnapshot();
  expect(small.snapshotWrittenAt).toBe(0);
  await writeFile(join(folder, 'a file'), '');
  const index = await follower(0, 'a file/index');
  await index.upToDate();
  await expect(index.writeSnapshot()).rejects.toThrow();
  await rate();
  await index.upToDate();
  expect(countRated(index)).toBe(1);
});
