// A small plain JPEG to build test files on.

import sharp from 'sharp';

export async function paintPlain(): Promise<Uint8Array> {
  return sharp({ create: { width: 640, height: 480, channels: 3, background: { r: 120, g: 140, b: 160 } } })
    .jpeg()
    .toBuffer();
}

/** One of about a megabyte, as noise can't be packed. */
export async function paintNoise(): Promise<Uint8Array> {
  const noise = { type: 'gaussian', mean: 128, sigma: 30 } as const;
  return sharp({ create: { width: 1800, height: 1200, channels: 3, background: 'grey', noise } })
    .blur(1.2)
    .jpeg({ quality: 90 })
    .toBuffer();
}

/** The same, softer and as large as is asked for. */
export function paintSoftNoise(width: number, height: number): Promise<Buffer> {
  const noise = { type: 'gaussian', mean: 128, sigma: 30 } as const;
  return sharp({ create: { width, height, channels: 3, background: 'grey', noise } })
    .blur(3)
    .jpeg({ quality: 90 })
    .toBuffer();
}
