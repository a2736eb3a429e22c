import { mkdir, mkdtemp, readdir, readFile, rm, stat, symlink, utimes, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { joinPath, resolveInside } from './drivePath';
import { ChangedFileError, fingerprintOf, hashRanges, replaceFile, withFile } from './replace';
import { baseName, walkFolders } from './walk';

let drive: string;
beforeEach(async () => {
  drive = join(await mkdtemp(join(tmpdir(), 'stellin-files-')), 'drive');
  await mkdir(join(drive, '2019', 'June'), { recursive: true });
  await writeFile(join(drive, '2019', 'a.jpg'), 'old head, old tail');
  await writeFile(join(drive, '..', 'secret.jpg'), 'secret');
});
afterEach(() => rm(join(drive, '..'), { recursive: true, force: true }));

const bytes = (text: string) => new TextEncoder().encode(text);
const accept = () => Promise.resolve();

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
    for await (const listing of walkFolders(drive, '', true)) listings.push(listing);
    expect(listings.map(({ path, photos }) => [path, photos])).toEqual([
      ['', []],
      ['2019', ['a.jpg']],
      ['2019/June', ['b.TIF']],
    ]);
    expect(listings[2]?.sidecars.get(baseName('b.TIF'))).toBe('B.xmp');
  });

  test('without sub-folders only the folder itself is looked into', async () => {
    const paths = [];
    for await (const { path } of walkFolders(drive, '2019', false)) paths.push(path);
    expect(paths).toEqual(['2019']);
  });
});

describe('replacing a file', () => {
  const path = () => join(drive, '2019', 'a.jpg');
  const temporary = () => join(drive, '2019', '.part');

  test('the new head and the old tail make the new file', async () => {
    const written = await replaceFile({
      path: path(),
      temporary: temporary(),
      expected: await fingerprintOf(path()),
      head: bytes('new head'),
      tailStart: 8,
      verify: accept,
    });
    expect(await readFile(path(), 'utf8')).toBe('new head, old tail');
    expect(written).toEqual(await fingerprintOf(path()));
    expect(await readdir(join(drive, '2019'))).toEqual(['June', 'a.jpg']);
  });

  test('a file changed since it was read is left alone, as is one that came into being meanwhile', async () => {
    const expected = await fingerprintOf(path());
    await utimes(path(), new Date(), new Date(Date.now() + 10_000));
    const attempt = (known: typeof expected) =>
      replaceFile({
        path: path(),
        temporary: temporary(),
        expected: known,
        head: bytes('new'),
        tailStart: undefined,
        verify: accept,
      });
    await expect(attempt(expected)).rejects.toThrow(ChangedFileError);
    await expect(attempt(undefined)).rejects.toThrow(ChangedFileError);
    expect(await readFile(path(), 'utf8')).toBe('old head, old tail');
  });

  test('a change while the new file is being verified is noticed before the rename', async () => {
    const expected = await fingerprintOf(path());
    const verify = () => writeFile(path(), 'theirs');
    await expect(
      replaceFile({
        path: path(),
        temporary: temporary(),
        expected,
        head: bytes('ours'),
        tailStart: undefined,
        verify,
      }),
    ).rejects.toThrow(ChangedFileError);
    expect(await readFile(path(), 'utf8')).toBe('theirs');
  });

  test('what does not verify is removed, and the old file stands', async () => {
    const verify = () => Promise.reject(new Error('not as meant'));
    await expect(
      replaceFile({
        path: path(),
        temporary: temporary(),
        expected: await fingerprintOf(path()),
        head: bytes('bad'),
        tailStart: undefined,
        verify,
      }),
    ).rejects.toThrow('not as meant');
    expect(await readFile(path(), 'utf8')).toBe('old head, old tail');
    await expect(stat(temporary())).rejects.toThrow();
  });

  test('a full disk leaves the old file whole', async () => {
    // Linux: writing to /dev/full fails as a full disk does.
    await symlink('/dev/full', temporary());
    await expect(
      replaceFile({
        path: path(),
        temporary: temporary(),
        expected: await fingerprintOf(path()),
        head: bytes('new'),
        tailStart: 8,
        verify: accept,
      }),
    ).rejects.toThrow('ENOSPC');
    expect(await readFile(path(), 'utf8')).toBe('old head, old tail');
  });

  test('ranges are hashed as one run of bytes', async () => {
    const whole = await withFile(path(), (source) => hashRanges(source, [{ start: 0, end: source.size }]));
    const parts = await withFile(path(), (source) =>
      hashRanges(source, [
        { start: 0, end: 5 },
        { start: 5, end: source.size },
      ]),
    );
    expect(parts).toBe(whole);
  });
});
