import { chmod, mkdir, mkdtemp, readdir, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { delimiter, join } from 'node:path';
import sharp, { type Color, type Sharp } from 'sharp';
import { asciiBytes, concatBytes, uint32 } from '@stellin/core/metadata/bytes';
import type { FileKind } from '@stellin/core/metadata/containers/index';
import { between } from '@stellin/core/metadata/orientation';
import { makePreview, openUpright, turnPreview } from './preview';

let folder: string;
const PATH = process.env['PATH'] ?? '';
beforeEach(async () => (folder = await mkdtemp(join(tmpdir(), 'stellin-preview-'))));
afterEach(async () => {
  process.env['PATH'] = PATH;
  await rm(folder, { recursive: true, force: true });
});

const RED = { r: 200, g: 20, b: 20 };
const BLUE = { r: 20, g: 20, b: 200 };

/** Left half red, right half blue, 320 by 200 pixels as stored. */
function halves(): Sharp {
  const half = (background: Color) => ({ create: { width: 160, height: 200, channels: 3 as const, background } });
  return sharp({ create: { width: 320, height: 200, channels: 3, background: RED } }).composite([
    { input: half({ ...BLUE, alpha: 1 }), left: 160, top: 0 },
  ]);
}

async function previewOf(name: string, kind: FileKind, bytes: Uint8Array, orientation?: number) {
  const [path, target] = [join(folder, name), join(folder, 'previews', '1.webp')];
  await writeFile(path, bytes);
  await makePreview(path, kind, target, { orientation });
  const { data, info } = await sharp(target).removeAlpha().raw().toBuffer({ resolveWithObject: true });
  const at = (x: number, y: number) => [...data.subarray((y * info.width + x) * 3, (y * info.width + x) * 3 + 3)];
  return { path: target, size: [info.width, info.height], isRed: (x: number, y: number) => (at(x, y)[0] ?? 0) > 120 };
}

/** A raw file that holds a whole JPEG behind a header of its own. */
function rawWith(jpeg: Uint8Array): Uint8Array {
  const place = [uint32(92), uint32(jpeg.length)];
  return concatBytes([asciiBytes('FUJIFILMCCD-RAW '), new Uint8Array(68), ...place, jpeg]);
}

test('a raw file shows the JPEG inside, turned upright', async () => {
  const stored = await halves().jpeg().withMetadata({ orientation: 6 }).toBuffer();
  const { size, isRed } = await previewOf('a.raf', 'raw', rawWith(stored));
  // Turned clockwise by a quarter: what was left is on top.
  expect(size).toEqual([200, 320]);
  expect([isRed(100, 10), isRed(100, 310)]).toEqual([true, false]);
});

/** Red in the upper left corner of the stored picture. */
function corner(): Sharp {
  return sharp({ create: { width: 90, height: 60, channels: 3, background: BLUE } }).composite([
    { input: { create: { width: 45, height: 30, channels: 3, background: RED } }, left: 0, top: 0 },
  ]);
}

/** Which quarter is red, as EXIF names corners, and whether it stands. */
const QUARTERS = ['', 'lt', 'rt', 'rb', 'lb', 'lt', 'rt', 'rb', 'lb'];

const ALL_ORIENTATIONS = [1, 2, 3, 4, 5, 6, 7, 8];

test.each(ALL_ORIENTATIONS)('a picture is seen in orientation %i, whatever its file says', async (wanted) => {
  const [left, right, top, bottom] = wanted > 4 ? [10, 50, 10, 80] : [10, 80, 10, 50];
  const corners: Record<string, [number, number]> = {
    lt: [left, top],
    rt: [right, top],
    rb: [right, bottom],
    lb: [left, bottom],
  };
  const redIn = (isRed: (x: number, y: number) => boolean) =>
    Object.entries(corners).flatMap(([name, [x, y]]) => (isRed(x, y) ? [name] : []));
  for (const said of [1, 6, 7, wanted]) {
    const stored = await corner().jpeg().withMetadata({ orientation: said }).toBuffer();
    for (const [name, kind, bytes] of [
      ['a.jpg', 'jpeg', stored],
      ['a.raf', 'raw', rawWith(stored)],
    ] as const) {
      // The JPEG in a raw file speaks for itself where nobody says otherwise: then it is asked for as it is.
      if (kind === 'raw' && said !== 1 && wanted === 1) continue;
      const { size, isRed } = await previewOf(name, kind, bytes, wanted);
      expect(size).toEqual(wanted > 4 ? [60, 90] : [90, 60]);
      expect(redIn(isRed)).toEqual([QUARTERS[wanted]]);
    }
    const { data, info } = await (
      await openUpright(join(folder, 'a.jpg'), 'jpeg', 1000, { orientation: wanted })
    )
      .raw()
      .toBuffer({ resolveWithObject: true });
    expect([info.width, info.height]).toEqual(wanted > 4 ? [60, 90] : [90, 60]);
    expect(redIn((x, y) => (data[(y * info.width + x) * 3] ?? 0) > 120)).toEqual([QUARTERS[wanted]]);
  }
  // A kept preview is turned the same way.
  const { path } = await previewOf('b.jpg', 'jpeg', await corner().jpeg().toBuffer(), 7);
  await turnPreview(path, between(7, wanted), join(folder, 'turned.webp'));
  const { data, info } = await sharp(join(folder, 'turned.webp')).raw().toBuffer({ resolveWithObject: true });
  expect(redIn((x, y) => (data[(y * info.width + x) * 3] ?? 0) > 120)).toEqual([QUARTERS[wanted]]);
});

test('a raw file without a picture inside, or with a broken one, has no preview, and the reason is said', async () => {
  const empty = concatBytes([asciiBytes('FUJIFILMCCD-RAW '), new Uint8Array(200)]);
  await expect(previewOf('a.raf', 'raw', empty)).rejects.toThrow(
    'the raw file holds no picture, and it could not be developed: it can’t be decoded',
  );
  await expect(previewOf('b.raf', 'raw', rawWith(new Uint8Array(500)))).rejects.toThrow();
  expect(await readdir(folder)).toEqual(['a.raf', 'b.raf']);
});

/** A program that stands in for one of the system: a shell script in the only folder where programs are looked for. */
async function install(command: string, script: string): Promise<void> {
  const programs = join(folder, 'programs');
  await mkdir(programs, { recursive: true });
  await writeFile(join(programs, command), `#!/bin/sh\n${script}\n`);
  await chmod(join(programs, command), 0o755);
  process.env['PATH'] = `${programs}${delimiter}/bin`;
}

test('a program that is not there, or can’t read the file, is named', async () => {
  process.env['PATH'] = folder;
  await expect(previewOf('a.pdf', 'pdf', asciiBytes('%PDF'))).rejects.toThrow(
    'pdftoppm is not installed here (Debian’s package poppler-utils)',
  );
  await install('pdftoppm', 'exit 1');
  await expect(previewOf('a.pdf', 'pdf', asciiBytes('%PDF'))).rejects.toThrow('pdftoppm could not read it');
  // Nothing of the attempts is left.
  expect((await readdir(tmpdir())).filter((name) => name.startsWith('stellin-still-'))).toEqual([]);
});
