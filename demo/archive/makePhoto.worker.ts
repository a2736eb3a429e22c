// Worker thread: paints one planned photo and writes its file, and its sidecar if it has one.

import { mkdir, writeFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import type { Canvas } from '@napi-rs/canvas';
import sharp, { type Sharp } from 'sharp';
import { blocksOf, withBlocks } from './describe';
import { turned } from './development';
import { paintPhoto, type PaintedFace } from './paint';
import type { PlannedPhoto } from './plan';

export interface MakeRequest {
  photo: PlannedPhoto;
  /** The drive's folder. */
  folder: string;
  /** Below it. */
  path: string;
}

const JPEG_QUALITY = 86;

sharp.concurrency(1);
sharp.cache(false);

/** Makes the photo's file; returns the faces in it. */
export async function makePhoto({ photo, folder, path: below }: MakeRequest): Promise<PaintedFace[]> {
  const { canvas, faces } = await paintPhoto(photo);
  const path = join(folder, below);
  const blocks = blocksOf(photo, faces);
  await mkdir(dirname(path), { recursive: true });
  if (photo.format === 'jpeg')
    await writeFile(path, withBlocks(await turned(canvas, photo.orientation).encode('jpeg', JPEG_QUALITY), blocks));
  else {
    const picture = pixelsOf(canvas);
    const described = blocks.xmp ? picture.withXmp(new TextDecoder().decode(blocks.xmp)) : picture;
    await (
      photo.format === 'tiff'
        ? described.tiff({ compression: 'deflate', predictor: 'horizontal' })
        : described.png({ compressionLevel: 3 })
    ).toFile(path);
  }
  if (blocks.sidecar) await writeFile(path.replace(/\.[^.]+$/, '.xmp'), blocks.sidecar);
  return faces;
}

function pixelsOf(canvas: Canvas): Sharp {
  const { width, height } = canvas;
  const { data } = canvas.getContext('2d').getImageData(0, 0, width, height);
  return sharp(Buffer.from(data.buffer, data.byteOffset, data.byteLength), {
    raw: { width, height, channels: 4 },
  }).removeAlpha();
}
