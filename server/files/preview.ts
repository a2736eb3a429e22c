// Previews: small WebP pictures kept in the data folder, made by sharp from the original.

import { mkdir, open, rename } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import sharp from 'sharp';

const PREVIEW_PIXELS = 640;
const PLACEHOLDER_PIXELS = 16;
const MAX_INPUT_PIXELS = 400_000_000;

sharp.cache(false);

/** Where the preview of a photo is kept. */
export function previewPath(folder: string, photoId: number, version: number): string {
  const bucket = String(Math.floor(photoId / 1000)).padStart(4, '0');
  return join(folder, bucket, `${photoId}-${version}.webp`);
}

export interface MadePreview {
  /** A tiny picture as a data URL. */
  placeholder: string;
  /** False when the picture data broke off and only a part could be decoded. */
  whole: boolean;
}

/** Makes a preview of at most 640 pixels on the longer side, turned upright, in sRGB. Throws sharp's Error when nothing can be decoded. */
export async function makePreview(original: string, target: string): Promise<MadePreview> {
  let whole = true;
  const webp = await decode(original, 'truncated').catch(() => {
    whole = false;
    return decode(original, 'none');
  });
  const tiny = await sharp(webp)
    .resize(PLACEHOLDER_PIXELS, PLACEHOLDER_PIXELS, { fit: 'inside' })
    .webp({ quality: 30, effort: 0 })
    .toBuffer();
  await mkdir(dirname(target), { recursive: true });
  const temporary = `${target}.${process.pid}.part`;
  const handle = await open(temporary, 'w');
  try {
    await handle.writeFile(webp);
  } finally {
    await handle.close();
  }
  await rename(temporary, target);
  return { placeholder: `data:image/webp;base64,${tiny.toString('base64')}`, whole };
}

function decode(original: string, failOn: 'truncated' | 'none'): Promise<Buffer> {
  return sharp(original, { limitInputPixels: MAX_INPUT_PIXELS, failOn })
    .rotate()
    .resize(PREVIEW_PIXELS, PREVIEW_PIXELS, { fit: 'inside', withoutEnlargement: true })
    .toColourspace('srgb')
    .webp({ quality: 80, effort: 2 })
    .toBuffer();
}
