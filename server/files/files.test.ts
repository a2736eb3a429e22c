import { mkdir, mkdtemp, rm, symlink, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { joinPath, resolveInside } from './drivePath';
import { mayHoldPictures, parseMountTable, volumeOf } from './volume';
import { baseName } from './sidecars';
import { walkFolders } from './walk';

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
      { device: '/dev/root', mountPoint: '/mnt2', type: 'ext3', root: '/mnt1' },
      { device: '/dev/sdb1', mountPoint: '/media/anna/Field disk', type: 'vfat', root: '/' },
    ]);
  });

  test.each([
    ['a camera card', '40 35 8:17 / /media/anna/CARD rw - vfat /dev/sdb1 rw', true],
    ['a photo CD', '40 35 11:0 / /media/cdrom ro - iso9660 /dev/sr0 ro', true],
    ['a share', '40 35 0:50 / /mnt/nas rw - cifs //nas/photos rw', true],
    ['a network folder', '40 35 0:51 / /mnt/nfs rw - nfs4 nas:/photos rw', true],
    ['a subvolume', '40 35 0:52 /@photos /mnt/photos rw - btrfs /dev/sdc1 rw', true],
    ['what a machine keeps in memory', '28 27 0:25 / /mnt/tools/python ro - tmpfs tools ro', false],
    ['a folder bound into a container', '40 35 8:1 /var/lib/x /mnt/secrets ro - ext4 /dev/sda1 rw', false],
    ['the image of a program', '40 35 7:1 / /media/core20 ro - squashfs /dev/loop1 ro', false],
    ['a container’s own layers', '40 35 0:60 / /mnt/root rw - overlay overlay rw', false],
    ['a pseudo file system', '40 35 0:61 / /mnt/cgroup rw - cgroup2 cgroup2 rw', false],
  ])('%s: may it hold pictures?', (_what, line, may) => {
    expect(parseMountTable(line).map(mayHoldPictures)).toEqual([may]);
  });

  test('size, free space, and a name for what has no marker', async () => {
    const volume = await volumeOf(drive);
    expect(volume.capacityBytes).toBeGreaterThan(volume.freeBytes);
    expect(volume).toMatchObject({ readOnly: false, fileSystem: `label drive, ${volume.capacityBytes} bytes` });
    await expect(volumeOf(join(drive, 'gone'))).rejects.toThrow('ENOENT');
  });
});
