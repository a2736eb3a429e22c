// The picture of a raw file: the one that its camera put inside; where there is none, or only a small one, it is developed.

import sharp, { type Sharp } from 'sharp';
import type { FileKind } from '@stellin/core/metadata/containers/index';
import { readMetadata } from '@stellin/core/metadata/read';
import { messageOf } from '../errors';
import { requireNoDrawing } from './drawing';
import { withSource } from './source';
import { stillOf } from './still';
import { options, turned, type FailOn } from './turned';

/** A picture inside that has fewer on its longer side is no match for what was recorded. */
const USABLE_PIXELS = 600;

/**
 * Opens the picture of a raw file, turned as is asked for or as the file says. Rejects with an Error that says why there is none.
 * @param pixels how large it is wanted, on the longer side: what is developed may be half as large as the sensor
 */
export async function openRaw(
  original: string,
  kind: FileKind,
  pixels: number,
  failOn: FailOn,
  wanted: number | undefined,
): Promise<Sharp> {
  const { inside, said } = insideRaw(original);
  const asSaid = (picture: Sharp) => turned(picture, wanted ?? said);
  const openInside = async (bytes: Buffer): Promise<Sharp> => {
    await requireNoDrawing(bytes);
    const picture = sharp(bytes, options(failOn));
    if (wanted !== undefined && wanted !== said) return turned(picture, wanted);
    const { orientation } = await picture.metadata();
    return orientation && orientation > 1 ? picture.autoOrient() : turned(picture, said);
  };
  if (inside && (await longSide(inside)) >= USABLE_PIXELS) return openInside(inside);
  // What is developed stands in a DNG as in any TIFF.
  if (kind === 'dng' && (await longSide(original)) >= USABLE_PIXELS) return asSaid(sharp(original, options(failOn)));
  try {
    return asSaid(sharp(await stillOf(original, kind, { pixels })));
  } catch (error) {
    if (inside) return openInside(inside);
    if (kind === 'dng' && (await longSide(original)) > 0) return asSaid(sharp(original, options(failOn)));
    throw new Error(`the raw file holds no picture, and it could not be developed: ${messageOf(error)}`, {
      cause: error,
    });
  }
}

/** The largest JPEG in a raw file, and how the file says that it is to be seen. */
function insideRaw(original: string): { inside: Buffer | undefined; said: number } {
  return withSource(original, (source) => {
    const { preview, facts } = readMetadata(source);
    return {
      inside: preview && Buffer.from(source.read(preview.start, preview.end - preview.start)),
      said: facts.orientation ?? 1,
    };
  });
}

/** Pixels on the longer side of a picture; 0 where the picture library does not read it, or finds what a sensor recorded. */
async function longSide(picture: Buffer | string): Promise<number> {
  const { width, height, space } = await sharp(picture, options('none'))
    .metadata()
    .catch(() => ({ width: 0, height: 0, space: undefined }));
  return space === 'multiband' ? 0 : Math.max(width, height);
}
