import { mkdtemp, rm, stat, writeFile, mkdir } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { places } from '../config';
import { attach, detach, listBay } from './bay';
import { MARKER_NAME, readMarker, writeMarker } from './marker';

let home: string;
beforeEach(async () => {
  home = await mkdtemp(join(tmpdir(), 'stellin-bay-'));
  await mkdir(join(places.shelf(home), 'field-disk'), { recursive: true });
  await writeMarker(join(places.shelf(home), 'field-disk'), 'Field disk');
});
afterEach(() => rm(home, { recursive: true, force: true }));

test('a drive is plugged in at the first free slot, or at the one wanted, and goes back to its place', async () => {
  expect(await attach(home, 'Field disk')).toMatchObject({ attachedAt: 'bay-1' });
  expect((await stat(join(places.mounts(home), 'bay-1', MARKER_NAME))).isFile()).toBe(true);
  await detach(home, 'field-disk');
  expect(await attach(home, 'Field disk', 'bay-3')).toMatchObject({ attachedAt: 'bay-3' });
  expect(await listBay(home)).toEqual([{ name: 'field-disk', label: 'Field disk', attachedAt: 'bay-3' }]);
});

test('what can’t be done is refused with the reason', async () => {
  await expect(detach(home, 'Field disk')).rejects.toThrow('not plugged in');
  await expect(attach(home, 'Fielddisk')).rejects.toThrow('there are Field disk');
  await expect(attach(home, 'Field disk', '../outside')).rejects.toThrow('no slot');
  await attach(home, 'Field disk');
  await expect(attach(home, 'Field disk')).rejects.toThrow('already');
});

test('a marker that can’t be understood is an error that names it, not a new drive', async () => {
  const folder = join(places.shelf(home), 'field-disk');
  await writeFile(join(folder, MARKER_NAME), '{"id": 5}');
  await expect(readMarker(folder)).rejects.toThrow(MARKER_NAME);
  await expect(writeMarker(folder, 'again')).rejects.toThrow();
});
