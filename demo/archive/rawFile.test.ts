import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { makeLarge, makePreview } from '@stellin/server/files/preview';
import { readRecord } from '@stellin/server/files/readRecord';
import { rawFile } from './rawFile';

const folder = mkdtempSync(join(tmpdir(), 'stellin-raw-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const path = join(folder, 'kite.dng');

/** Red on the left, blue on the right, and grey at the bottom. */
const [width, height] = [640, 400];
const rgb = Uint8Array.from({ length: width * height * 3 }, (_, i) => {
  const [x, y, colour] = [Math.floor(i / 3) % width, Math.floor(i / 3 / width), i % 3];
  if (y > 300) return 120;
  return x < width / 2 === (colour === 0) && colour !== 1 ? 200 : 20;
});
const raw = rawFile({ width, height, rgb, make: 'Corvina', model: 'Corvina 7', takenAt: '2016-09-03T10:20:00' });

const colourAt = async (picture: string, x: number, y: number) => {
  const { data, info } = await sharp(picture).removeAlpha().raw().toBuffer({ resolveWithObject: true });
  const at = (Math.round(y * info.height) * info.width + Math.round(x * info.width)) * 3;
  return [...data.subarray(at, at + 3)] as [number, number, number];
};

test('a raw file without a picture inside is read, and developed to be seen', async () => {
  writeFileSync(path, raw);
  const result = readRecord({ path, sidecarPath: undefined });
  if (!result.ok) throw new Error(result.message);
  const { kind, facts, damaged, issues, width: across } = result.metadata;
  expect({ kind, damaged, issues, across }).toEqual({ kind: 'dng', damaged: false, issues: [], across: width });
  expect(facts).toMatchObject({ model: 'Corvina 7', takenAt: '2016-09-03T10:20:00' });
  const [preview, large, turned] = ['preview.webp', 'large.webp', 'turned.webp'].map((name) => join(folder, name));
  await makePreview(path, 'dng', preview ?? '');
  await makeLarge(path, 'dng', 2048, large ?? '');
  for (const picture of [preview ?? '', large ?? '']) {
    const [[red, , bluish], [reddish, , blue], grey] = await Promise.all([
      colourAt(picture, 0.2, 0.4),
      colourAt(picture, 0.8, 0.4),
      colourAt(picture, 0.5, 0.95),
    ]);
    expect([red > bluish + 80, blue > reddish + 80]).toEqual([true, true]);
    expect(Math.max(...grey) - Math.min(...grey)).toBeLessThan(40);
  }
  expect(await sharp(large).metadata()).toMatchObject({ width, height });
  // Turned to the right its left side is on top.
  await makePreview(path, 'dng', turned ?? '', { orientation: 6 });
  const [red, , blue] = await colourAt(turned ?? '', 0.7, 0.2);
  expect(red).toBeGreaterThan(blue + 80);
});

test('one that breaks off has no picture, and nothing hangs', async () => {
  const broken = join(folder, 'broken.dng');
  writeFileSync(broken, raw.subarray(0, 300));
  await expect(makePreview(broken, 'dng', join(folder, 'none.webp'))).rejects.toThrow(/decoded|TIFF|tiff/);
});
