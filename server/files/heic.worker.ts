// Child process: decodes a HEIC file (ISO/IEC 23008-12), upright, to a PNG. A process of its own, so that what a file makes the decoder do ends
// with it. Given the file and the PNG to be made.

import { readFileSync } from 'node:fs';
import libheif from 'libheif-js/wasm-bundle';
import sharp from 'sharp';

async function decode(path: string, target: string): Promise<void> {
  const images = new libheif.HeifDecoder().decode(readFileSync(path));
  // The first is the primary one.
  const [image] = images;
  if (!image) throw new Error('there is no picture in it');
  const [width, height] = [image.get_width(), image.get_height()];
  const data = await new Promise<Uint8ClampedArray>((resolve, reject) =>
    image.display({ data: new Uint8ClampedArray(width * height * 4), width, height }, (shown) =>
      shown ? resolve(shown.data) : reject(new Error('its picture can’t be decoded')),
    ),
  );
  await sharp(data, { raw: { width, height, channels: 4 } })
    .png({ compressionLevel: 1 })
    .toFile(target);
}

const [path = '', target = ''] = process.argv.slice(2);
decode(path, target).catch((error: unknown) => {
  process.stderr.write(`${error instanceof Error ? error.message : String(error)}\n`);
  process.exitCode = 1;
});
