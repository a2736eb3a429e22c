// Parts of a picture, by what the IIIF Image API asks for.

import sharp from 'sharp';
import type { PictureRequest, Size } from '@stellin/core/sharing/iiif';

const QUALITY = 85;

/** How large a picture is, in pixels. */
export async function pictureSize(picture: Buffer): Promise<Size> {
  const { width, height } = await sharp(picture).metadata();
  return { width, height };
}

/** A part of a picture as a JPEG. */
export async function piece(picture: Buffer, { region, size, rotation, grey }: PictureRequest): Promise<Buffer> {
  const cut = sharp(picture).extract(region).resize(size.width, size.height, { fit: 'fill' });
  // Turned by itself: in one pass it would be turned before it is cut.
  const turned = rotation === 0 ? cut : sharp(await cut.png().toBuffer()).rotate(rotation);
  return (grey ? turned.greyscale() : turned).jpeg({ quality: QUALITY }).toBuffer();
}
