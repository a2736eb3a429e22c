import { mkdir } from 'node:fs/promises';
import { join } from 'node:path';
import pino from 'pino';
import { openServices, type Services } from '../services';
import { openWorld, putFiles, realJpeg, type World } from '../testing/world';
import { PROGRAM } from '../catalogue/viewer';

let world: World;
/** A process on another machine, as it were: it looks for drives elsewhere. */
let other: Services;
let elsewhere: string;
beforeEach(async () => {
  world = await openWorld();
  elsewhere = join(world.config.home, 'elsewhere');
  const vault = await world.addDrive('Vault');
  await putFiles(vault, { 'a.jpg': await realJpeg({}, 20) });
  await mkdir(join(elsewhere, 'Field'), { recursive: true });
  await putFiles(join(elsewhere, 'Field'), { 'b.jpg': await realJpeg({}, 90) });
  await world.takeIn(vault);
  const config = { ...world.config, mountRoots: [elsewhere] };
  other = await openServices(config, world.databaseUrl, pino({ level: 'silent' }));
  await other.start();
});
afterEach(async () => {
  await other.close();
  await world.close();
});

const states = async (services: Services) =>
  Object.fromEntries((await services.drives.list(PROGRAM)).map(({ label, state }) => [label, state]));
const idOf = async (label: string) =>
  (await world.services.drives.list(PROGRAM)).find((drive) => drive.label === label)?.id ?? '';
const takeField = async () => {
  await other.drives.refresh();
  const field = (await other.drives.list(PROGRAM)).find(({ label }) => label === 'Field');
  const { id } = await other.intake.takeIn({ driveKey: field?.key ?? '' }, world.keeperId);
  return world.until(id, ['done', 'failed']);
};

test('drives of two machines are attached all the time, whoever looks', async () => {
  expect((await takeField()).state).toBe('done');
  const since = () =>
    world.services.database.rows('select label, attached_at from drive where attached order by label');
  const attached = await since();
  for (let look = 0; look < 3; look++)
    for (const services of [world.services, other]) {
      await services.drives.refresh();
      expect(await states(world.services)).toEqual({ Vault: 'attached', Field: 'attached' });
    }
  // Neither was away in between.
  expect(await since()).toEqual(attached);
});

test('work for a drive goes to who sees it; who does not is told that it is away', async () => {
  expect((await takeField()).state).toBe('done');
  await expect(world.services.drives.requireAttached(await idOf('Field'))).rejects.toMatchObject({ code: 'driveAway' });
  await expect(other.drives.requireAttached(await idOf('Vault'))).rejects.toMatchObject({ code: 'driveAway' });
  expect(await world.services.drives.isAttached(await idOf('Field'))).toBe(false);
  // Asked for here, done there.
  for (const label of ['Field', 'Vault']) {
    const job = await world.services.jobs.start(
      'fixity',
      'Read again',
      { driveId: await idOf(label), since: new Date().toISOString() },
      world.keeperId,
    );
    expect((await world.until(job.id, ['done', 'failed', 'waiting'])).result).toMatchObject({ read: 1, missing: 0 });
  }
});

test('a drive is away once the last that saw it is gone', async () => {
  await takeField();
  await other.close();
  await world.services.drives.refresh();
  expect(await states(world.services)).toEqual({ Vault: 'attached', Field: 'away' });
  const job = await world.services.jobs.start(
    'fixity',
    'Read again',
    { driveId: await idOf('Field'), since: new Date().toISOString() },
    world.keeperId,
  );
  expect((await world.until(job.id, ['waiting'])).current).toContain('waits for the drive');
});
