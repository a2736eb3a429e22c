// A small plain JPEG to build test files on.

import sharp from 'sharp';

export async function paintPlain(): Promise<Uint8Array> {
  return sharp({ create: { width: 640, height: 480, channels: 3, background: { r: 120, g: 140, b: 160 } } })
    .jpeg()
    .toBuffer();
}
