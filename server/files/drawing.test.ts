import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import sharp from 'sharp';
import { requireNoDrawing } from './drawing';
import { makePreview } from './preview';

const SVG = '<svg xmlns="http://www.w3.org/2000/svg" width="40" height="40"><rect width="40" height="40"/></svg>';

test.each([
  ['as it is', Buffer.from(SVG)],
  ['behind a declaration and a comment', Buffer.from(`<?xml version="1.0"?>\n<!-- a kite -->\n${SVG}`)],
  ['in capitals', Buffer.from(SVG.replaceAll('svg xmlns', 'SVG xmlns'))],
  ['packed', gzipSync(SVG)],
  ['in UTF-16', Buffer.from(`\ufeff${SVG}`, 'utf16le')],
])('a drawing %s is refused, by its bytes and under the name of a photo', async (_, bytes) => {
  await expect(requireNoDrawing(bytes)).rejects.toThrow('it is a drawing');
  const folder = await mkdtemp(join(tmpdir(), 'stellin-drawing-'));
  await writeFile(join(folder, 'kite.jpg'), bytes);
  await expect(makePreview(join(folder, 'kite.jpg'), 'jpeg', join(folder, 'preview.webp'))).rejects.toThrow(
    'it is a drawing',
  );
  await rm(folder, { recursive: true });
});

test.each(['jpeg', 'png', 'webp', 'tiff', 'gif'] as const)(
  'a %s whose description speaks of <svg is a picture',
  async (format) => {
    const made = sharp({ create: { width: 30, height: 20, channels: 3, background: '#446688' } }).toFormat(format);
    await requireNoDrawing(Buffer.concat([await made.toBuffer(), Buffer.from(SVG)]));
  },
);
