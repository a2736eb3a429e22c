// Deliveries whose drive fails midway, and large ones with one photo that is broken. STELLIN_PHOTOS=100000 runs the last with so many.

import { renameSync } from 'node:fs';
import { readdir, readFile, rename } from 'node:fs/promises';
import { join } from 'node:path';
import { copySettings } from '@stellin/contract/delivering';
import { PROGRAM } from '../catalogue/viewer';
import { placeFile } from '../files/placeFile';
import type { FilePlacer } from '../files/placing';
import { interceptDisk, systemError } from '../testing/diskCalls';
import { openWorld, putFiles, realJpeg, type World } from '../testing/world';

const PHOTOS = Number(process.env['STELLIN_PHOTOS'] ?? 300);
const FEW_PHOTOS = 30;

/** In this process, where the calls of the system can be met. */
const PLACER: FilePlacer = {
  place: (...given) => Promise.resolve().then(() => placeFile(...given)),
  close: () => Promise.resolve(),
};

let world: World;
let vault: string;
let out: string;
beforeEach(async () => {
  world = await openWorld({ own: { placer: PLACER } });
  [vault, out] = [await world.addDrive('Vault'), await world.addDrive('Out')];
  await putFiles(out, { 'something.jpg': await realJpeg({}, 7) });
  await world.takeIn(out);
});
afterEach(() => world.close());

/** Photos of which each is a file of its own by what stands behind its end. */
async function fill(photos: number): Promise<void> {
  const picture = await realJpeg({}, 100);
  for (let i = 0; i < photos; i++)
    await putFiles(vault, { [`${Math.floor(i / 1000)}/${i}.jpg`]: Buffer.concat([picture, Buffer.from(String(i))]) });
  // Previews are not waited for: nobody looks at them.
  await world.services.drives.refresh();
  const key = (await world.services.drives.list(PROGRAM)).find(({ label }) => label === 'Vault')?.key ?? '';
  const job = await world.services.intake.takeIn({ driveKey: key }, world.keeperId);
  const read = async () => {
    const row = await world.services.database.row<{ count: number }>(
      'select count(*)::int as count from photo p join drive d on d.id = p.drive_id where d.label = $1',
      ['Vault'],
    );
    return row?.count === photos;
  };
  await world.eventually(read);
  await world.services.jobs.control(job.id, 'cancel');
  await world.until(job.id, ['cancelled', 'done']);
}

const keeper = () => world.services.rights.personOf(world.keeperId);
async function begin(): Promise<{ id: string; job: string }> {
  const driveId = (await world.services.drives.list(PROGRAM)).find(({ label }) => label === 'Out')?.id ?? '';
  const { id, job } = await world.services.deliveries.deliver(
    {
      selection: { query: 'drive:Vault', minus: [], plus: [] },
      sort: 'name',
      settings: copySettings.parse({ format: 'original' }),
      presetId: null,
      recipient: '',
      reason: '',
      target: { kind: 'drive', driveId, folder: 'to Ida' },
    },
    await keeper(),
  );
  return { id, job: job?.id ?? '' };
}
const show = async (id: string) => world.services.deliveries.show(id, await keeper());

/** Every file that stands there is one of the originals, whole. */
async function requireWhole(folder: string): Promise<number> {
  const names = await readdir(folder);
  for (const name of names) {
    const bytes = await readFile(join(folder, name));
    expect(bytes.equals(await readFile(join(vault, '0', name)))).toBe(true);
  }
  return names.length;
}

test('a disk that is full midway: what is there is whole, the reason is said, and the rest goes out when there is room', async () => {
  await fill(FEW_PHOTOS);
  let writes = 0;
  const restore = interceptDisk(out, ({ name, path }) => {
    if (name === 'fsync' && path.endsWith('.part') && ++writes > 10) throw systemError('ENOSPC');
  });
  let id: string;
  let job: string;
  try {
    ({ id, job } = await begin());
    const ended = await world.until(job, ['failed']);
    expect(ended.current).toContain('“Out” is full. Make room on it and try again');
  } finally {
    restore();
  }
  expect(await requireWhole(join(out, 'to Ida'))).toBeLessThan(FEW_PHOTOS);
  const { job: again } = await world.services.deliveries.retry(id, await keeper());
  await world.until(again?.id ?? '', ['done']);
  expect(await show(id)).toMatchObject({ written: FEW_PHOTOS, failed: 0 });
  expect(await requireWhole(join(out, 'to Ida'))).toBe(FEW_PHOTOS);
});

test('a drive that is pulled out midway: the delivery waits for it, and goes on with what is missing', async () => {
  await fill(FEW_PHOTOS);
  const away = join(world.config.home, 'pulled out');
  let flushes = 0;
  const restore = interceptDisk(out, ({ name, path }) => {
    if (name === 'fsync' && path.endsWith('.part') && ++flushes === 10) renameSync(out, away);
  });
  const { id, job } = await begin();
  await world.until(job, ['waiting']);
  restore();
  expect(await requireWhole(join(away, 'to Ida')).catch(() => -1)).toBeLessThan(FEW_PHOTOS);
  await rename(away, out);
  await world.services.drives.refresh();
  await world.until(job, ['done']);
  expect(await show(id)).toMatchObject({ written: FEW_PHOTOS, failed: 0 });
  expect(await requireWhole(join(out, 'to Ida'))).toBe(FEW_PHOTOS);
});

test(`of ${PHOTOS} photos one is broken: it is named, and all others go out`, async () => {
  await fill(PHOTOS);
  const broken = join(vault, '0', '7.jpg');
  await rename(broken, `${broken}.away`);
  const { id, job } = await begin();
  await world.until(job, ['done']);
  expect(await show(id)).toMatchObject({ photos: PHOTOS, written: PHOTOS - 1, failed: 1 });
  const { files } = await world.services.deliveries.files(
    id,
    { state: 'failed', offset: 0, limit: 10 },
    await keeper(),
  );
  expect(files).toMatchObject([{ original: 'Vault/0/7.jpg', state: 'failed', problem: expect.any(String) }]);
  expect((await readdir(join(out, 'to Ida'))).length).toBe(PHOTOS - 1);
});
