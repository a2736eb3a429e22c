import { mkdir, mkdtemp, rm, symlink, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { joinPath, resolveInside } from './drivePath';
import { parseMountTable, volumeOf } from './volume';
import { baseName, walkFolders } from './walk';

let drive: string;
beforeEach(async () => {
  drive = join(await mkdtemp(join(tmpdir(), 'stellin-files-')), 'drive');
  await mkdir(join(drive, '2019', 'June'), { recursive: true });
  await writeFile(join(drive, '2019', 'a.jpg'), 'old head, old tail');
  await writeFile(join(drive, '..', 'secret.jpg'), 'secret');
});
afterEach(() => rm(join(drive, '..'), { recursive: true, force: true }));

describe('paths inside a drive', () => {
  test('lead to files of the drive', async () => {
    expect(await resolveInside(drive, '2019/a.jpg')).toMatch(/drive\/2019\/a\.jpg$/);
    expect(await resolveInside(drive, '')).toMatch(/drive$/);
    expect(joinPath('', 'a.jpg')).toBe('a.jpg');
  });

  test.each(['../secret.jpg', '/etc/passwd', '2019/../../secret.jpg', '..', 'a\0b'])(
    'never out of it: %j',
    async (path) => {
      await expect(resolveInside(drive, path)).rejects.toThrow('does not lie inside');
    },
  );

  test('nor through a link that leads out; one that stays inside is followed', async () => {
    await symlink('../../secret.jpg', join(drive, '2019', 'link.jpg'));
    await symlink('a.jpg', join(drive, '2019', 'same.jpg'));
    await expect(resolveInside(drive, '2019/link.jpg')).rejects.toThrow('does not lie inside');
    expect(await resolveInside(drive, '2019/same.jpg')).toMatch(/a\.jpg$/);
  });
});

describe('walking', () => {
  test('hidden and system folders, links and unknown kinds are passed over; sidecars are told apart', async () => {
    for (const folder of ['.hidden', 'lost+found', 'System Volume Information']) {
      await mkdir(join(drive, folder));
      await writeFile(join(drive, folder, 'x.jpg'), '');
    }
    await symlink('..', join(drive, '2019', 'circle'));
    for (const name of ['b.TIF', 'B.xmp', 'notes.txt', '.c.jpg'])
      await writeFile(join(drive, '2019', 'June', name), '');
    const listings = [];
    for await (const listing of walkFolders(drive, '', { subFolders: true })) listings.push(listing);
    expect(listings.map(({ path, photos }) => [path, photos])).toEqual([
      ['', []],
      ['2019', ['a.jpg']],
      ['2019/June', ['b.TIF']],
    ]);
    expect(listings[2]?.sidecars.get(baseName('b.TIF'))).toBe('B.xmp');
  });

  test('without sub-folders only the folder itself is looked into', async () => {
    const paths = [];
    for await (const { path } of walkFolders(drive, '2019', { subFolders: false })) paths.push(path);
    expect(paths).toEqual(['2019']);
  });
});

describe('volumes', () => {
  test('the mount table is read with spaces in paths', () => {
    const text = [
      '36 35 98:0 /mnt1 /mnt2 rw,noatime master:1 - ext3 /dev/root rw,errors=continue',
      String.raw`40 35 8:17 / /media/anna/Field\040disk ro shared:2 - vfat /dev/sdb1 ro`,
      'broken line',
      '',
    ].join('\n');
    expect(parseMountTable(text)).toEqual([
      { device: '/dev/root', mountPoint: '/mnt2' },
      { device: '/dev/sdb1', mountPoint: '/media/anna/Field disk' },
    ]);
  });

  test('size, free space, and a name for what has no marker', async () => {
    const volume = await volumeOf(drive);
    expect(volume.capacityBytes).toBeGreaterThan(volume.freeBytes);
    expect(volume).toMatchObject({ readOnly: false, fileSystem: `label drive, ${volume.capacityBytes} bytes` });
    await expect(volumeOf(join(drive, 'gone'))).rejects.toThrow('ENOENT');
  });
});
