import { existsSync } from 'node:fs';
import { mkdir, utimes, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { places } from '../config';
import { openWorld, putFiles, realJpeg, type World } from '../testing/world';
import { PROGRAM } from '../catalogue/viewer';

let world: World;
let vault: string;
let other: string;
beforeEach(async () => {
  world = await openWorld();
  [vault, other] = [await world.addDrive('Vault'), await world.addDrive('Other')];
  await putFiles(vault, { 'a.jpg': await realJpeg({}, 20), 'b.jpg': await realJpeg({}, 90) });
  await putFiles(other, { 'c.jpg': await realJpeg({}, 160) });
  await world.takeIn(vault);
  await world.takeIn(other);
});
afterEach(() => world.close());

const idOf = async (name: string) => (await world.ids()).get(name) ?? 0;
const pathOf = async (name: string, version = 1) =>
  join(places.previews(world.config.home), 'large', `${await idOf(name)}-${version}.webp`);
const browse = async (on: boolean) => {
  const drive = (await world.services.drives.list(PROGRAM)).find(({ label }) => label === 'Vault');
  await world.services.large.browseAway(drive?.id ?? '', on, world.keeperId);
};
const lastJob = async () => {
  const job = (await world.services.jobs.list()).find(({ kind }) => kind === 'largePictures');
  return world.until(job?.id ?? '', ['done']);
};

test('of a drive that is browsed while away all large pictures are made, also of what comes later', async () => {
  await browse(true);
  expect((await lastJob()).result).toEqual({ made: 2 });
  await putFiles(vault, { 'd.jpg': await realJpeg({}, 200) });
  await world.takeIn(vault);
  await Promise.all([world.unplug(vault), world.unplug(other)]);
  for (const name of ['a.jpg', 'b.jpg', 'd.jpg'])
    expect(existsSync(await world.services.large.fileOf(await idOf(name), 'large'))).toBe(true);
  await expect(world.services.large.fileOf(await idOf('c.jpg'), 'large')).rejects.toThrow('“Other” is away');
});

test('within the limit those looked at last stay; those of drives that are browsed while away always', async () => {
  await browse(true);
  await lastJob();
  await mkdir(join(places.previews(world.config.home), 'full'), { recursive: true });
  const [kept, old, recent] = [await pathOf('a.jpg'), await pathOf('c.jpg'), await pathOf('c.jpg', 2)];
  const filler = Buffer.alloc(world.config.largeBytes * 0.7);
  for (const [path, used] of [
    [kept, 1e9],
    [old, 1.1e9],
    [recent, 1.2e9],
  ] as const) {
    await writeFile(path, filler);
    await utimes(path, used, used);
  }
  await world.services.large.prune();
  expect([kept, old, recent].map(existsSync)).toEqual([true, false, true]);
});
