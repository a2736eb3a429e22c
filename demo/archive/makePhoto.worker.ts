// Worker thread: paints one planned photo and writes its file, and its sidecar if it has one.

import { mkdir, writeFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import sharp from 'sharp';
import { blocksOf, withBlocks } from './describe';
import { paintPhoto, type PaintedFace } from './paint';
import type { PlannedPhoto } from './plan';

export interface MakeRequest {
  photo: PlannedPhoto;
  /** The drive's folder. */
  folder: string;
}

sharp.concurrency(1);
sharp.cache(false);

/** Turning that makes the stored pixels of a picture which its orientation turns upright again (EXIF 3.0, tag 274). */
const TURN: Record<number, number> = { 1: 0, 3: 180, 6: 270, 8: 90 };

/** Makes the photo's file; returns the faces in it. */
export async function makePhoto({ photo, folder }: MakeRequest): Promise<PaintedFace[]> {
  const { picture, faces } = await paintPhoto(photo);
  const path = join(folder, photo.path);
  const blocks = blocksOf(photo, faces);
  await mkdir(dirname(path), { recursive: true });
  const turned = photo.orientation === 1 ? picture : picture.rotate(TURN[photo.orientation]);
  if (photo.format === 'jpeg')
    await writeFile(
      path,
      withBlocks(await turned.jpeg({ quality: 86, chromaSubsampling: '4:2:0' }).toBuffer(), blocks),
    );
  else {
    const described = blocks.xmp ? turned.withXmp(new TextDecoder().decode(blocks.xmp)) : turned;
    await (
      photo.format === 'tiff'
        ? described.tiff({ compression: 'deflate', predictor: 'horizontal' })
        : described.png({ compressionLevel: 3 })
    ).toFile(path);
  }
  if (blocks.sidecar) await writeFile(path.replace(/\.[^.]+$/, '.xmp'), blocks.sidecar);
  return faces;
}
