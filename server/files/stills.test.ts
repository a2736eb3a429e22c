import { execFileSync } from 'node:child_process';
import { appendFileSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { kindByName } from '@stellin/core/metadata/containers/index';
import { makeLarge, makePreview } from './preview';
import { readRecord } from './readRecord';

const folder = mkdtempSync(join(tmpdir(), 'stellin-stills-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const at = (name: string) => join(folder, name);

/** Left red, right blue, by Ida Brandt. */
beforeAll(async () => {
  const half = await sharp({ create: { width: 160, height: 200, channels: 3, background: 'blue' } })
    .png()
    .toBuffer();
  const picture = sharp({ create: { width: 320, height: 200, channels: 3, background: 'red' } })
    .composite([{ input: half, left: 160, top: 0 }])
    .withExif({ IFD0: { Artist: 'Ida Brandt' } });
  writeFileSync(at('kite.jpg'), await picture.clone().jpeg({ quality: 100 }).toBuffer());
  writeFileSync(at('kite.png'), await picture.png().toBuffer());
});

/** A file of each kind that programs beside the picture library decode: how it is made, and what is read of it. */
const KINDS = {
  heic: {
    make: () => execFileSync('heif-enc', [at('kite.jpg'), '-o', at('kite.heic')]),
    size: [320, 200],
    creator: ['Ida Brandt'],
  },
  jxl: {
    make: async () => {
      execFileSync('cjxl', ['--lossless_jpeg=0', at('kite.jpg'), at('kite.jxl')], { stdio: 'ignore' });
      appendFileSync(at('kite.jxl'), await exifBox());
    },
    size: [undefined, undefined],
    creator: ['Ida Brandt'],
  },
  jp2: {
    make: () => execFileSync('opj_compress', ['-i', at('kite.png'), '-o', at('kite.jp2')]),
    size: [320, 200],
    creator: undefined,
  },
  j2k: {
    make: () => execFileSync('opj_compress', ['-i', at('kite.png'), '-o', at('kite.j2k')]),
    size: [undefined, undefined],
    creator: undefined,
  },
} as const;

const read = (path: string) => {
  const result = readRecord({ path, sidecarPath: undefined });
  if (!result.ok) throw new Error(result.message);
  return result.metadata;
};

/** The EXIF of the picture as a box (ISO/IEC 18181-2, 9.5): the offset of the TIFF header, and behind it that. */
async function exifBox(): Promise<Buffer> {
  const { exif = Buffer.alloc(0) } = await sharp(at('kite.jpg')).metadata();
  const tiff = exif.subarray('Exif\0\0'.length);
  const head = Buffer.alloc(12);
  head.writeUInt32BE(12 + tiff.length, 0);
  head.write('Exif', 4);
  return Buffer.concat([head, tiff]);
}

test.each(Object.entries(KINDS))('%s is read, and shown as it is', async (ending, { make, size, creator }) => {
  await make();
  const path = at(`kite.${ending}`);
  const kind = ending === 'j2k' ? 'jp2' : ending;
  const { kind: found, width, height, fields, damaged, issues } = read(path);
  expect({ found, byName: kindByName(path), damaged, issues }).toEqual({
    found: kind,
    byName: kind,
    damaged: false,
    issues: [],
  });
  expect([width, height]).toEqual(size);
  expect(fields.creator).toEqual(creator);
  await makePreview(path, found, at('preview.webp'));
  const { data, info } = await sharp(at('preview.webp')).raw().toBuffer({ resolveWithObject: true });
  const red = (x: number) => (data[(100 * info.width + x) * info.channels] ?? 0) > 128;
  expect([info.width, info.height, red(40), red(280)]).toEqual([320, 200, true, false]);
});

test.each(Object.entries(KINDS))('%s that is cut off has no picture, and says so', async (ending, { make }) => {
  await make();
  const path = at(`kite.${ending}`);
  const whole = readFileSync(path);
  writeFileSync(path, whole.subarray(0, whole.length * 0.5));
  expect(readRecord({ path, sidecarPath: undefined }).ok).toBe(true);
  const kind = ending === 'j2k' ? ('jp2' as const) : (ending as 'heic' | 'jxl' | 'jp2');
  // What a decoder makes of half a file may be half a picture; it neither hangs nor ends us.
  const problem = await makeLarge(path, kind, 200, at('half.webp')).then(
    () => '',
    (error: unknown) => String(error),
  );
  expect(problem).toMatch(/^$|decoded|could not read it/);
  writeFileSync(path, Buffer.concat([whole.subarray(0, 40), Buffer.alloc(5000, 0x5a)]));
  await expect(makeLarge(path, kind, 200, at('half.webp'))).rejects.toThrow(/decoded|could not read it/);
});
