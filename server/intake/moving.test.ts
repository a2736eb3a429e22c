import { execFileSync } from 'node:child_process';
import { chmod, cp, mkdir, rename, rm, symlink, utimes, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { memorySource } from '@stellin/core/metadata/bytes';
import { NOW, tinyTiffPicture, written } from '@stellin/core/metadata/testing';
import { assemble } from '@stellin/core/metadata/pieces';
import { planWrite } from '@stellin/core/metadata/write';
import { liesAside } from './comparing';
import { openWorld, putFiles, realJpeg, type World } from '../testing/world';
import { PROGRAM } from '../catalogue/viewer';

let world: World;
let drive: string;
beforeEach(async () => {
  world = await openWorld();
  drive = await world.addDrive('Vault');
});
afterEach(() => world.close());

const count = (query = '') => world.services.search.all.count(query);
const give = (query: string, rating: number) => world.apply({ kind: 'setRating', selection: { query }, rating });
const retitled = (bytes: Uint8Array, title: string) => {
  const source = memorySource(bytes);
  return assemble(source, planWrite(source, { title }, { now: NOW }).pieces);
};
/** Three pictures that differ, one of them described. */
async function threePhotos(): Promise<void> {
  await putFiles(drive, {
    '2019/a.jpg': await realJpeg({}, 20),
    '2019/b.jpg': await realJpeg({}, 90),
    'c.jpg': await realJpeg({}, 160),
  });
  await world.takeIn(drive);
  await give('name:a.jpg', 4);
}

test('a renamed and a moved file keep their record and what was said', async () => {
  await threePhotos();
  const before = await world.ids();
  await rename(join(drive, '2019/a.jpg'), join(drive, '2019/new name.jpg'));
  await mkdir(join(drive, 'else'));
  await rename(join(drive, 'c.jpg'), join(drive, 'else/c.jpg'));
  const job = await world.takeIn(drive);
  expect(job.result).toMatchObject({ new: 0, changed: 0, moved: 2, missing: 2 });
  expect(await count('is:missing')).toBe(0);
  const after = await world.ids();
  expect(after.get('new name.jpg')).toBe(before.get('a.jpg'));
  expect(after.get('c.jpg')).toBe(before.get('c.jpg'));
  expect(await count('name:"new name.jpg" rating:4')).toBe(1);
  expect(await count('folder:"Vault/else"')).toBe(1);
});

test('a whole folder that was renamed moves its photos', async () => {
  await threePhotos();
  await rename(join(drive, '2019'), join(drive, 'Kite festival 2019'));
  expect((await world.takeIn(drive)).result).toMatchObject({ new: 0, moved: 2 });
  expect(await count('is:missing')).toBe(0);
  expect(await count('folder:"Vault/Kite festival 2019" rating:4')).toBe(1);
});

test('a file that was moved, renamed and described elsewhere is known by its picture', async () => {
  await threePhotos();
  const id = (await world.ids()).get('a.jpg');
  await rm(join(drive, '2019/a.jpg'));
  await putFiles(drive, { 'deep/other.jpg': retitled(await realJpeg({}, 20), 'Dunes') });
  expect((await world.takeIn(drive)).result).toMatchObject({ new: 0, moved: 1 });
  expect((await world.ids()).get('other.jpg')).toBe(id);
  expect(await count('is:missing')).toBe(0);
  expect(await count('title:Dunes rating:4')).toBe(1);
});

test('moved to another drive: known again, whichever drive is looked at first', async () => {
  await threePhotos();
  const other = await world.addDrive('Field_disk');
  const id = (await world.ids()).get('a.jpg');
  await mkdir(join(other, 'in'), { recursive: true });
  await cp(join(drive, '2019/a.jpg'), join(other, 'in/a copy.jpg'));
  await rm(join(drive, '2019/a.jpg'));
  expect((await world.takeIn(other)).result).toMatchObject({ new: 1 });
  expect(await count('is:double')).toBe(2);
  expect((await world.takeIn(drive)).result).toMatchObject({ missing: 1, moved: 1 });
  expect(await count()).toBe(3);
  expect((await world.ids()).get('a copy.jpg')).toBe(id);
  expect(await count('drive:Field_disk rating:4')).toBe(1);
});

test('a vanished file is missing and can be found; it returns as it was', async () => {
  await threePhotos();
  await rename(join(drive, '2019/a.jpg'), join(drive, '..', 'kept.jpg'));
  expect((await world.takeIn(drive)).result).toMatchObject({ missing: 1, moved: 0 });
  expect(await count('is:missing rating:4 name:a.jpg')).toBe(1);
  expect((await world.services.drives.list(PROGRAM))[0]).toMatchObject({ photos: 3, missing: 1 });
  expect((await world.takeIn(drive)).result).toMatchObject({ missing: 0 });
  await rename(join(drive, '..', 'kept.jpg'), join(drive, '2019/a.jpg'));
  expect((await world.takeIn(drive)).result).toMatchObject({ returned: 1, new: 0, changed: 0 });
  expect(await count('is:missing')).toBe(0);
});

test('missing photos are looked for in a folder without taking the rest in', async () => {
  await threePhotos();
  await rm(join(drive, '2019/a.jpg'));
  await world.takeIn(drive);
  const shelf = await world.addDrive('Shelf');
  await putFiles(shelf, {
    'box/found.jpg': await realJpeg({}, 20),
    'box/never seen.jpg': await realJpeg({}, 200),
  });
  await utimes(join(shelf, 'box/found.jpg'), new Date(), new Date('2001-01-01'));
  await world.services.drives.refresh();
  const key = (await world.services.drives.list(PROGRAM)).find(({ label }) => label === 'Shelf')?.key ?? '';
  const job = await world.services.intake.takeIn({ driveKey: key, folder: 'box', missingOnly: true }, world.keeperId);
  expect((await world.until(job.id, ['done'])).result).toMatchObject({ moved: 1, new: 0 });
  expect(await count()).toBe(3);
  expect(await count('drive:Shelf name:found.jpg rating:4')).toBe(1);
});

test('a changed description and a changed picture are told apart', async () => {
  await threePhotos();
  await writeFile(join(drive, 'c.jpg'), retitled(await realJpeg({}, 160), 'Only words'));
  await writeFile(join(drive, '2019/b.jpg'), await realJpeg({}, 250));
  expect((await world.takeIn(drive)).result).toMatchObject({ changed: 2 });
  expect((await world.services.intake.accessions())[0]).toMatchObject({ photosChanged: 2, picturesChanged: 1 });
});

test('two files of the same picture are doubles; neither takes the other’s place', async () => {
  await putFiles(drive, { 'a.jpg': await realJpeg({}, 20), 'b.jpg': retitled(await realJpeg({}, 20), 'The same') });
  await world.takeIn(drive);
  expect(await count('is:double')).toBe(2);
  expect((await world.takeIn(drive)).result).toMatchObject({ moved: 0, missing: 0 });
});

test('patterns and kinds are left aside, and what was known of them does not go missing', async () => {
  await threePhotos();
  await putFiles(drive, {
    'scan.tif': tinyTiffPicture(),
    'proofs/x.jpg': await realJpeg({}, 30),
    'y_web.jpg': await realJpeg({}, 40),
  });
  await world.services.drives.refresh();
  const key = (await world.services.drives.list(PROGRAM))[0]?.key ?? '';
  const job = await world.services.intake.takeIn(
    { driveKey: key, folder: '', leaveOut: ['tiff'], ignore: ['proofs', '*_web.jpg', '2019/a*'] },
    world.keeperId,
  );
  expect((await world.until(job.id, ['done'])).result).toMatchObject({ new: 0, missing: 0 });
  expect((await world.takeIn(drive)).result).toMatchObject({ new: 3 });
  const again = await world.services.intake.takeIn(
    { driveKey: key, folder: '', leaveOut: ['tiff'], ignore: ['proofs', '2019'] },
    world.keeperId,
  );
  expect((await world.until(again.id, ['done'])).result).toMatchObject({ new: 0, missing: 0 });
  expect(await count('is:missing')).toBe(0);
});

test('what lies below a folder that is left aside or could not be listed was not looked for', () => {
  const isIgnored = (path: string) => path === 'a/proofs';
  expect(liesAside('a/proofs/deep', [], isIgnored)).toBe(true);
  expect(liesAside('a/proofs 2', [], isIgnored)).toBe(false);
  expect(liesAside('locked/in/side', ['locked'], isIgnored)).toBe(true);
  expect(liesAside('locked', ['locked'], isIgnored)).toBe(true);
  expect(liesAside('lock', ['locked'], isIgnored)).toBe(false);
});

test('a moved photo is known again although a remembered decision gave its new record a term', async () => {
  const described = await realJpeg({ keywords: ['rokaku'] }, 20);
  await putFiles(drive, { 'a.jpg': described });
  await world.takeIn(drive);
  await world.apply({
    kind: 'settleKeywords',
    decisions: [{ keyword: 'rokaku', decision: 'new', label: 'Rokkaku', parentId: null }],
  });
  const other = await world.addDrive('Other');
  await putFiles(other, { 'b.jpg': retitled(described, 'Copied by hand') });
  await world.takeIn(other);
  expect(await count('only:Rokkaku')).toBe(2);
  await rm(join(drive, 'a.jpg'));
  expect((await world.takeIn(drive)).result).toMatchObject({ moved: 1 });
  expect(await count('only:Rokkaku')).toBe(1);
  expect(await count('is:missing')).toBe(0);
});

test('odd names, links in circles and folders without permission: named, and the rest goes on', async () => {
  await putFiles(drive, {
    'whole.jpg': await realJpeg(),
    [`${'ä'.repeat(120)}.jpg`]: await realJpeg({}, 30),
    'locked/in.jpg': await realJpeg({}, 60),
  });
  await symlink('.', join(drive, 'circle'));
  execFileSync('sh', ['-c', `cp "$1/whole.jpg" "$1/$(printf 'bad\\377name').jpg"`, 'sh', drive]);
  await chmod(join(drive, 'locked'), 0);
  try {
    const job = await world.takeIn(drive);
    const failures = await world.services.jobs.failures(job.id);
    expect(failures.some(({ message }) => message.includes('no UTF-8'))).toBe(true);
    // Root may look everywhere.
    const expected = process.getuid?.() === 0 ? 3 : 2;
    expect(await count()).toBe(expected);
    await chmod(join(drive, 'locked'), 0o755);
    const again = await world.services.intake.tryAgain(job.id, world.keeperId);
    await world.until(again.id, ['done']);
    expect(await count()).toBe(3);
  } finally {
    await chmod(join(drive, 'locked'), 0o755);
  }
});

test('a copied drive is not taken for the original, and becomes a drive of its own when asked to', async () => {
  await threePhotos();
  const copy = join(drive, '..', 'Vault copy');
  await cp(drive, copy, { recursive: true, preserveTimestamps: true });
  await world.services.drives.refresh();
  const [original, clone] = await world.services.drives.list(PROGRAM);
  expect(original).toMatchObject({ label: 'Vault', state: 'attached', mountPoint: drive });
  expect(clone).toMatchObject({ state: 'copy', copyOf: 'Vault', mountPoint: copy });
  await expect(world.services.intake.takeIn({ driveKey: copy }, world.keeperId)).rejects.toThrow('another drive');
  await world.services.drives.separate(copy);
  const job = await world.takeIn(copy);
  expect(job.result).toMatchObject({ new: 3, moved: 0 });
  expect(await count('is:double')).toBe(6);
});

test('a drive tells its size, is renamed with a note, and keeps both when it comes back elsewhere', async () => {
  await threePhotos();
  const [known] = await world.services.drives.list(PROGRAM);
  expect(known?.capacityBytes).toBeGreaterThan(known?.freeBytes ?? Number.NaN);
  expect(known?.lastChecked).not.toBeNull();
  await world.services.drives.change(known?.id ?? '', { label: 'Vault north', note: 'Shelf 3' });
  const away = await world.unplug(drive);
  drive = await world.plugIn(away, 'bay-9');
  expect(await world.services.drives.list(PROGRAM)).toMatchObject([
    { label: 'Vault north', note: 'Shelf 3', state: 'attached' },
  ]);
  expect(await count('drive:"Vault north"')).toBe(3);
});

test('a written file stays the same photo', async () => {
  await putFiles(drive, { 'a.tif': written(tinyTiffPicture(), { title: 'a' }) });
  await world.takeIn(drive);
  await give('name:a.tif', 5);
  const job = await world.services.writeBack.run(world.services.jobs, { retryFailed: false }, world.keeperId);
  await world.until(job.id, ['done']);
  expect((await world.takeIn(drive)).result).toMatchObject({ new: 0, changed: 0, moved: 0, missing: 0 });
});

test('a missing photo is linked by hand, even to an edited picture, but not over one that was described', async () => {
  await threePhotos();
  const id = (await world.ids()).get('a.jpg') ?? 0;
  const driveId = (await world.services.drives.list(PROGRAM))[0]?.id ?? '';
  const { linking } = world.services;
  await expect(linking.candidates(id, driveId, '')).rejects.toThrow('no such missing photo');
  await rm(join(drive, '2019/a.jpg'));
  await putFiles(drive, { 'else/edited.jpg': await realJpeg({ title: 'Dunes' }, 25) });
  await world.takeIn(drive);
  await give('name:b.jpg', 2);
  expect(await linking.candidates(id, driveId, 'else')).toMatchObject([
    { name: 'edited.jpg', known: true, described: false },
  ]);
  expect(await linking.candidates(id, driveId, '2019')).toMatchObject([{ name: 'b.jpg', described: true }]);
  const to = { driveId, folder: 'else', name: 'edited.jpg' };
  await expect(linking.link(id, { ...to, otherPicture: false })).rejects.toThrow('not the one that is missing');
  await expect(linking.link(id, { driveId, folder: '2019', name: 'b.jpg', otherPicture: true })).rejects.toThrow(
    'described here already',
  );
  await expect(linking.link(id, { ...to, name: 'none.jpg', otherPicture: true })).rejects.toThrow('not where it was');
  await linking.link(id, { ...to, otherPicture: true });
  expect(await count('is:missing')).toBe(0);
  expect(await count('folder:Vault/else name:edited.jpg rating:4 title:Dunes')).toBe(1);
  expect(await count()).toBe(3);
});
